/** The picture is cut from the photograph: chosen on the stage, seen everywhere, handed over pixel by pixel. */
import { noGeometry } from '@umbo/core/geometry';
import type { Browser, BrowserContext, Page } from 'playwright-core';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  addLayer,
  base,
  colourAt,
  databaseId,
  drag,
  editOf,
  eventually,
  expectNoComplaints,
  fitted,
  handOver,
  kept,
  launch,
  newPage,
  ownShoot,
  setNumber,
  standing,
  violations,
  write,
} from './harness.ts';

const complaints: string[] = [];
let browser: Browser;
let context: BrowserContext;
let page: Page;

beforeAll(async () => {
  browser = await launch();
  context = await browser.newContext();
  page = await newPage(context, complaints);
});
afterAll(() => browser.close());

const openOwn = ownShoot('Crop');
const geometryOf = async (id: number) => {
  await kept(page);
  return (await editOf(id)).document.geometry ?? noGeometry;
};
const frame = () => page.getByRole('group', { name: /^Crop, / });
const crop = async (): Promise<void> => {
  await page.getByRole('main').focus();
  await page.keyboard.press('Shift+A');
  await frame().waitFor();
};
const done = (): Promise<void> => page.getByRole('button', { name: 'Done' }).click();
/** The picture on the stage while it is fitted. */
const stagePixels = async (size: { width: number; height: number }): Promise<Buffer> => {
  const at = await fitted(page, size);
  const [x, y] = at(0, 0);
  return standing(page, { x, y, width: size.width, height: size.height });
};

describe('a crop', () => {
  it('is dragged, stepped and typed, keeps to its ratio, is undone in steps, and survives a reload', async () => {
    const { id } = await openOwn(page, 'vases.jpg');
    await crop();
    await page.getByRole('button', { name: /Ratio/ }).click();
    await page.getByRole('option', { name: '1:1' }).click();
    const { photo } = (await editOf(id)).document;
    const side = Math.min(photo.width, photo.height);
    await expect.poll(async () => (await geometryOf(id)).crop).toMatchObject({ width: side, height: side });
    // A corner moves two sides, and they stay alike.
    const corner = (await page.getByRole('button', { name: 'Top left of the crop' }).boundingBox())!;
    await drag(page, [
      [corner.x + 6, corner.y + 6],
      [corner.x + 40, corner.y + 20],
      [corner.x + 86, corner.y + 40],
    ]);
    await expect.poll(async () => (await geometryOf(id)).crop!.width).toBeLessThan(side - 50);
    const dragged = (await geometryOf(id)).crop!;
    expect(Math.abs(dragged.width - dragged.height)).toBeLessThanOrEqual(1);
    expect(dragged.y + dragged.height).toBe(side);
    // The arrow keys are the frame's; it does not leave the photograph.
    await frame().focus();
    await page.keyboard.press('Shift+ArrowUp');
    await page.keyboard.press('ArrowDown');
    await expect.poll(async () => (await geometryOf(id)).crop!.y).toBe(dragged.y - 9);
    await setNumber(page, 'Width', 300);
    await expect.poll(async () => (await geometryOf(id)).crop).toMatchObject({ width: 300, height: 300 });
    expect(await violations(page, 'aside[aria-label=Desk]')).toEqual([]);
    await done();
    await page
      .locator('footer')
      .filter({ hasText: `300 × 300 of ${photo.width} × ${photo.height}` })
      .waitFor();
    await page.reload();
    await page.locator('footer').filter({ hasText: '300 × 300 of' }).waitFor();
    for (let i = 0; i < 4; i++) await page.keyboard.press('Control+z');
    await expect.poll(async () => (await geometryOf(id)).crop).toMatchObject({ width: side, height: side });
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await editOf(id)).document.geometry).toBeUndefined();
    // The contact sheet's picture is of the crop, and so is the ratio that another photograph takes over.
    await page.keyboard.press('Control+Shift+z');
    await kept(page);
    const { revision } = await editOf(id);
    const address = `${base()}/api/photographs/${id}/preview?database=${await databaseId(id)}&revision=${revision}`;
    await expect
      .poll(
        async () => {
          await write('/api/previews', { wanted: [{ id, revision }] });
          const response = await fetch(address);
          if (!response.ok) return 'none';
          const { width, height } = await sharp(Buffer.from(await response.arrayBuffer())).metadata();
          return `${width} × ${height}`;
        },
        { timeout: 30_000 },
      )
      .toBe('640 × 640');
    const other = await openOwn(page, 'fruit.jpg');
    await crop();
    await page.getByRole('button', { name: /Ratio/ }).click();
    await page.getByRole('option', { name: 'As vases.jpg' }).click();
    await expect.poll(async () => (await geometryOf(other.id)).crop).not.toBeNull();
    const { width, height } = (await geometryOf(other.id)).crop!;
    expect(width).toBe(height);
    expectNoComplaints(complaints);
  });

  it('is seen at 100 % as it is handed over, pixel by pixel, turned freely and in perspective, with what goes by its frame', async () => {
    const { id } = await openOwn(page, 'garden-2.jpg');
    await addLayer(page, 'Vignette');
    await setNumber(page, 'Amount', -70);
    await crop();
    await setNumber(page, 'Straighten', 6.5);
    await setNumber(page, 'Width', 520);
    await setNumber(page, 'Height', 380);
    await done();
    const size = { width: 520, height: 380 };
    // Without the handles of the vignette.
    await page.getByRole('radio', { name: 'Sample', exact: true }).click();
    const seen = await stagePixels(size);
    const { bytes } = await handOver(page, 'PNG', '8 bit');
    const file = await sharp(bytes, { ignoreIcc: true }).raw().toBuffer({ resolveWithObject: true });
    expect(file.info).toMatchObject(size);
    expect(file.data.equals(seen)).toBe(true);
    // Its corners are dark alike: the vignette lies in the crop.
    const lightness = (x: number, y: number): number => file.data[(y * 520 + x) * 3 + 1]!;
    for (const [x, y] of [[2, 2], [517, 2], [2, 377], [517, 377]] as const) expect(lightness(x, y)).toBeLessThan(lightness(260, 190) + 60); // prettier-ignore
    await crop();
    await setNumber(page, 'Vertical', 40);
    await setNumber(page, 'Horizontal', -15);
    await done();
    await page.getByRole('radio', { name: 'Sample', exact: true }).click();
    const { crop: again } = await geometryOf(id);
    const steep = await stagePixels(again!);
    const second = await handOver(page, 'PNG', '8 bit');
    expect((await sharp(second.bytes, { ignoreIcc: true }).raw().toBuffer()).equals(steep)).toBe(true);
    // Before and after lie in the same frame.
    await page.keyboard.press('q');
    const before = await stagePixels(again!);
    expect(before.equals(steep)).toBe(false);
    await page.keyboard.press('q');
    expect((await stagePixels(again!)).equals(steep)).toBe(true);
    expectNoComplaints(complaints);
  });

  it('is turned and mirrored by presses, levelled by itself and by a line, made upright by corners, and given a canvas', async () => {
    const { id } = await openOwn(page, 'workshop-long.jpg');
    await crop();
    await page.getByRole('button', { name: 'Level by itself', exact: true }).click();
    await expect.poll(async () => Math.abs((await geometryOf(id)).angle + 0.9)).toBeLessThan(0.5);
    await page.getByRole('button', { name: 'A quarter turn to the right' }).click();
    await page.getByRole('button', { name: 'Exchange left and right' }).click();
    await expect.poll(() => geometryOf(id)).toMatchObject({ quarters: 1, flipped: true });
    await page.getByRole('button', { name: 'As it was', exact: true }).click();
    await expect.poll(async () => (await editOf(id)).document.geometry).toBeUndefined();

    const { photo } = (await editOf(id)).document;
    const at = await fitted(page, photo);
    await page.getByRole('radio', { name: 'Level line' }).click();
    await drag(page, [at(200, 700), at(600, 720), at(1000, 750)]);
    // Down by 50 over 800 pixels.
    await expect.poll(async () => Math.abs((await geometryOf(id)).angle + 3.576)).toBeLessThan(0.3);
    await page.getByRole('button', { name: 'As it was', exact: true }).click();

    await page.getByRole('radio', { name: 'Four corners' }).click();
    const first = (await page.getByRole('button', { name: 'Top left corner', exact: true }).boundingBox())!;
    await drag(page, [
      [first.x + 6, first.y + 6],
      [first.x + 20, first.y + 10],
      [first.x + 46, first.y + 6],
    ]);
    await page.getByRole('button', { name: 'Make upright' }).click();
    await expect.poll(async () => (await geometryOf(id)).vertical).not.toBe(0);
    await page.getByRole('button', { name: 'As it was', exact: true }).click();

    await setNumber(page, 'Width', photo.width + 400);
    await setNumber(page, 'From the left', -400);
    await page.getByRole('textbox', { name: 'Canvas colour, hexadecimal' }).fill('#2f7d4a');
    await page.keyboard.press('Enter');
    await done();
    const placed = await fitted(page, { width: photo.width + 400, height: photo.height });
    await eventually(page, placed(100, 500), ([r, g, b]) => r === 0x2f && g === 0x7d && b === 0x4a);
    await crop();
    await setNumber(page, 'Edge fades', 600);
    await done();
    // Next to the photograph the canvas now has the colours of its edge.
    await eventually(page, placed(390, 500), ([, g]) => Math.abs(g! - 0x7d) > 12);
    const [inside, outside] = [await colourAt(page, placed(410, 500)), await colourAt(page, placed(385, 500))];
    for (const c of [0, 1, 2]) expect(Math.abs(inside[c]! - outside[c]!)).toBeLessThan(60);
    expectNoComplaints(complaints);
  });
});
