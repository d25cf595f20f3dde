/** Shoots, contact sheet and hand-over through the interface. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Color from 'colorjs.io';
import type { Browser, Page } from 'playwright-core';
import sharp from 'sharp';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { demo, expectNoComplaints, handOver, launch, newPage, openBench, openPage, photographId, pixels16 } from './harness.ts';

const complaints: string[] = [];
const folder = mkdtempSync(join(tmpdir(), 'umbo-files-'));
let browser: Browser;
let page: Page;

beforeAll(async () => {
  browser = await launch();
  page = await newPage(browser, complaints);
});
afterAll(async () => {
  await browser.close();
  rmSync(folder, { recursive: true, force: true });
});

const path = (name: string, content: string | Buffer): string => {
  writeFileSync(join(folder, name), content);
  return join(folder, name);
};

it('the demo shoots are there, with a finished edit among them', async () => {
  await openPage(page, '/');
  for (const name of ['Makers, spring', 'Saltings catalogue', 'Estuary at dusk', 'Kiln-house archive'])
    await page.getByRole('link', { name }).waitFor();
  await page.getByRole('link', { name: /Saltings catalogue/ }).click();
  await page.getByRole('radio', { name: 'Done' }).click();
  await page.getByText('stool.jpg').waitFor();
  expect(await page.getByRole('link', { name: /^Open / }).count()).toBe(1);
});

it('a contact sheet asks only for what is in sight, and holds no connection for it', async () => {
  const small = await newPage(browser, complaints);
  await small.setViewportSize({ width: 1280, height: 260 });
  const asked = new Set<number>();
  const early: string[] = [];
  small.on('request', (request) => {
    if (request.url().endsWith('/api/previews'))
      for (const { id } of (JSON.parse(request.postData()!) as { wanted: { id: number }[] }).wanted) asked.add(id);
  });
  small.on('response', (response) => {
    if (response.url().includes('/preview?') && response.status() !== 200) early.push(response.url());
  });
  await openPage(small, '/shoots/1');
  await small.getByRole('radio', { name: 'Large' }).click();
  await expect.poll(() => small.locator('a.picture img').count()).toBeGreaterThan(0);
  await small.waitForTimeout(1000);
  const first = asked.size;
  expect(first).toBeLessThan(6);
  await small.mouse.wheel(0, 4000);
  await expect.poll(() => asked.size).toBeGreaterThan(first);
  expect(early).toEqual([]);
  await small.getByRole('radio', { name: 'Medium' }).click();
  await small.close();
});

it('a new shoot takes dropped files, refuses others with a sentence each, and lets photographs go again', async () => {
  await openPage(page, '/');
  await page.getByRole('button', { name: 'New shoot', exact: true }).click();
  await page.getByRole('dialog').getByRole('textbox', { name: 'Name' }).fill('Window test');
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await page.getByText('This shoot is empty').waitFor();

  const picture = sharp({
    create: { width: 700, height: 500, channels: 3, background: '#6a8', noise: { type: 'gaussian', mean: 120, sigma: 30 } },
  });
  const jpeg = await picture.clone().jpeg().toBuffer();
  const files = [
    path('good.jpg', jpeg),
    path('good-16.tif', await picture.clone().toColourspace('rgb16').tiff({ compression: 'lzw' }).toBuffer()),
    path('small.webp', await picture.clone().webp().toBuffer()),
    path('modern.avif', await picture.clone().resize(200).avif().toBuffer()),
    path('empty.png', ''),
    path('short.jpg', jpeg.subarray(0, jpeg.length / 2)),
    path('script.png', '<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>'),
  ];
  await page.locator('input[type=file]').setInputFiles(files);
  const imports = page.getByRole('complementary', { name: 'Imports' });
  await imports.getByText('4 imported, 3 not').waitFor();
  const list = await imports.innerText();
  for (const sentence of ['The file is empty.', 'damaged or cut short', 'its content is text']) expect(list).toContain(sentence);
  await imports.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('link', { name: 'Open modern.avif' }).waitFor();
  expect(await page.getByRole('link', { name: /^Open / }).count()).toBe(4);
  /** Every picture on the sheet has really come. */
  const picturesAreThere = (): Promise<void> =>
    expect
      .poll(() =>
        page
          .locator('ul[aria-label="Contact sheet"] img')
          .evaluateAll((all) => all.every((img) => (img as HTMLImageElement).naturalWidth > 100)),
      )
      .toBe(true);
  await picturesAreThere();

  // An import that is called off leaves nothing.
  await page.route('**/photographs?name=*', async (route) => {
    await new Promise((done) => setTimeout(done, 1500));
    await route.continue().catch(() => undefined);
  });
  await page.locator('input[type=file]').setInputFiles([files[0]!]);
  await imports.getByRole('button', { name: 'Cancel good.jpg' }).click();
  await imports.getByText('cancelled').waitFor();
  await page.unroute('**/photographs?name=*');
  await page.reload();
  expect(await page.getByRole('link', { name: /^Open / }).count()).toBe(4);
  // A photograph that goes while its picture or its page is still asked for would leave a complaint.
  await picturesAreThere();
  await page.waitForLoadState('networkidle');

  await page.getByRole('button', { name: 'More about small.webp' }).click();
  await page.getByRole('menuitem', { name: 'Remove…' }).click();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await page.getByRole('link', { name: 'Open small.webp' }).waitFor({ state: 'detached' });
  await page.getByRole('button', { name: 'More about Window test' }).click();
  await page.getByRole('menuitem', { name: 'Remove the shoot…' }).click();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await page.getByRole('heading', { name: 'Shoots' }).waitFor();
  await page.getByRole('link', { name: /Window test/ }).waitFor({ state: 'detached' });
  complaints.splice(0, complaints.length, ...complaints.filter((text) => !/422/.test(text))); // the browser tells of refused requests
  expectNoComplaints(complaints);
});

it('dropped files come in wherever they are dropped', async () => {
  await openPage(page, '/shoots/1');
  const file = path(
    'dropped.png',
    await sharp({ create: { width: 60, height: 40, channels: 3, background: '#246' } })
      .png()
      .toBuffer(),
  );
  // As the operating system drops it: events made by a page carry no real files.
  const browserSide = await page.context().newCDPSession(page);
  const data = { items: [], files: [file], dragOperationsMask: 1 };
  for (const type of ['dragEnter', 'dragOver'] as const) await browserSide.send('Input.dispatchDragEvent', { type, x: 500, y: 400, data });
  await page.getByText('Drop photographs to add them to').last().waitFor();
  await browserSide.send('Input.dispatchDragEvent', { type: 'drop', x: 500, y: 400, data });
  await page.getByRole('link', { name: 'Open dropped.png' }).waitFor();
});

it('hands over TIFF and JPEG with their profiles, untouched where nothing was edited', async () => {
  const original = await pixels16(demo('photographs/garden-1.jpg'));
  await openBench(page, await photographId('Makers, spring', 'garden-1.jpg'));
  const tiff = await handOver(page, 'TIFF', '16 bit');
  expect(tiff.name).toBe('garden-1.tif');
  expect(await sharp(tiff.bytes).metadata()).toMatchObject({ format: 'tiff', depth: 'ushort' });
  expect(Buffer.compare(Buffer.from((await pixels16(tiff.bytes)).buffer), Buffer.from(original.buffer))).toBe(0);

  const jpeg = await handOver(page, 'JPEG', '8 bit');
  const meta = await sharp(jpeg.bytes).metadata();
  expect(meta).toMatchObject({ format: 'jpeg', space: 'srgb' });
  expect(meta.icc?.length).toBeGreaterThan(100);
  const lossy = await pixels16(jpeg.bytes);
  let sum = 0;
  for (let i = 0; i < lossy.length; i++) sum += Math.abs(lossy[i]! - original[i]!);
  expect(sum / lossy.length / 257).toBeLessThan(1.5);

  await page.getByRole('button', { name: 'Hand over' }).click();
  await page.getByRole('dialog').getByRole('radio', { name: 'Display P3' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click();
  const p3 = await handOver(page, 'PNG', '16 bit');
  const wide = await pixels16(p3.bytes);
  for (let i = 0; i < wide.length; i += 3 * 49_999) {
    const expected = new Color('srgb', [original[i]! / 65535, original[i + 1]! / 65535, original[i + 2]! / 65535]).to('p3').coords;
    for (let c = 0; c < 3; c++) expect(Math.abs(wide[i + c]! / 65535 - expected[c]!)).toBeLessThan(2e-5);
  }

  await openPage(page, '/hand-over');
  const rows = page.getByRole('listitem');
  const before = await rows.count();
  expect(before).toBeGreaterThanOrEqual(3);
  await page.getByRole('button', { name: 'Remove garden-1.tif' }).click();
  await expect.poll(() => rows.count()).toBe(before - 1);
  expectNoComplaints(complaints);
});

it('stacked blend modes are those of Chromium’s canvas', async () => {
  const { blendModes } = await import('@umbo/core/blend');
  const steps = [0, 40, 90, 128, 170, 220, 255];
  const colours: number[][] = [];
  for (const r of steps) for (const g of [0, 100, 255]) for (const b of [30, 180, 255]) colours.push([r, g, b]);
  const pairs = colours.flatMap((b, i) => [3, 17, 29, 44].map((offset) => [b, colours[(i + offset) % colours.length]!] as const));
  const w3c = blendModes.filter(({ id }) => !['divide', 'add', 'subtract', 'linear-light'].includes(id));
  const fromCanvas = (await page.evaluate(
    ({ ids, pairs: list }) => {
      const canvas = document.createElement('canvas');
      canvas.width = list.length;
      canvas.height = 1;
      // In half floats: exact enough to see the formulas, where 8 bits would show the canvas's own rounding.
      const context = canvas.getContext('2d', { willReadFrequently: true, colorType: 'float16' } as CanvasRenderingContext2DSettings)!;
      return ids.map((id) => {
        for (const [i, [below, own]] of list.entries()) {
          context.globalCompositeOperation = 'copy';
          context.save();
          context.beginPath();
          context.rect(i, 0, 1, 1);
          context.clip();
          context.fillStyle = `rgb(${below.join(' ')})`;
          context.fillRect(i, 0, 1, 1);
          context.globalCompositeOperation = id === 'normal' ? 'source-over' : (id as GlobalCompositeOperation);
          context.fillStyle = `rgb(${own.join(' ')})`;
          context.fillRect(i, 0, 1, 1);
          context.restore();
        }
        const pixels = context.getImageData(0, 0, list.length, 1, { pixelFormat: 'rgba-float16' } as ImageDataSettings).data;
        return Array.from(pixels, (v) => v * 255);
      });
    },
    { ids: w3c.map(({ id }) => id), pairs },
  )) as number[][];
  for (const [k, mode] of w3c.entries()) {
    const planes = (which: 0 | 1) => {
      const plane = (c: number): Float32Array => Float32Array.from(pairs, (pair) => pair[which][c]! / 255);
      return { r: plane(0), g: plane(1), b: plane(2) };
    };
    const own = planes(1);
    mode.apply(planes(0), own, pairs.length);
    let worst = 0;
    for (const [i] of pairs.entries())
      for (const [c, plane] of [own.r, own.g, own.b].entries())
        worst = Math.max(worst, Math.abs(plane[i]! * 255 - fromCanvas[k]![i * 4 + c]!));
    expect(worst, mode.id).toBeLessThan(1);
  }
  expect(w3c).toHaveLength(16);
});
