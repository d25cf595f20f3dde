/** The outcome that the first slice is for: a cast on skin is isolated, corrected, kept, and handed over. */
import { accelerate, createRaster, noPictures, spreadRows, wholeOf } from '@umbo/core/base';
import { renderMask } from '@umbo/core/mask';
import { createKernels } from '@umbo/kernels';
import type { Browser, Page } from 'playwright-core';
import sharp from 'sharp';
import { afterAll, beforeAll, expect, it } from 'vitest';
import {
  addLayer,
  addPart,
  demo,
  drag,
  editOf,
  expectNoComplaints,
  fitted,
  handOver,
  kept,
  launch,
  maskShown,
  meanDifference,
  newPage,
  openPage,
  photographId,
  pixels16,
  setHueRange,
  setNumber,
  standing,
  truth,
} from './harness.ts';

const size = { width: 1600, height: 1930 };
const complaints: string[] = [];
let browser: Browser;
let page: Page;
let id: number;

beforeAll(async () => {
  browser = await launch();
  page = await newPage(browser, complaints);
  id = await photographId('Makers, spring', 'mixed-light.png');
});
afterAll(() => browser.close());

it('corrects the magenta cast on the skin of mixed-light', async () => {
  await openPage(page, '/');
  await page.getByRole('link', { name: /Makers, spring/ }).click();
  await page.getByRole('link', { name: 'Open mixed-light.png' }).click();
  await page.locator('main[data-painted=true]').waitFor();

  // Where: a hue range, narrowed to the magenta of the lamp ...
  await addLayer(page);
  await addPart(page, 'Hue range');
  await setHueRange(page, [340, 350, 36, 46]);
  const wanted = { from: 340, fadeIn: 10, span: 46, fadeOut: 10 };
  const farthest = async (): Promise<number> => {
    const range = (await editOf(id)).document.layers[0]?.where.parts[0];
    return range?.kind === 'hueRange'
      ? Math.max(...(['from', 'fadeIn', 'span', 'fadeOut'] as const).map((key) => Math.abs(range[key] - wanted[key])))
      : 360;
  };
  await expect.poll(farthest).toBeLessThan(2);

  // ... and a brush over neck, shoulder and arm, from an empty mask.
  await addPart(page, 'Brush');
  await setNumber(page, 'Brush size', 150);
  await setNumber(page, 'Flow', 60);
  const at = await fitted(page, size);
  for (let x = 720; x <= 1300; x += 60) await drag(page, [at(x, 1230), at(x, 1500), at(x, 1750), at(x, 1925)]);
  await setNumber(page, 'Feather', 12);

  // What: the hue of good skin, calmer and a little darker.
  await setNumber(page, 'Hue', 32);
  await setNumber(page, 'Saturation', -40);
  await setNumber(page, 'Lightness', '-10 - 5');
  await kept(page);

  const { bytes, name } = await handOver(page, 'PNG', '16 bit');
  expect(name).toBe('mixed-light.png');
  const meta = await sharp(bytes).metadata();
  expect(meta).toMatchObject({ ...size, depth: 'ushort', format: 'png' });
  expect(meta.icc?.length).toBeGreaterThan(100);

  const [before, after, reference] = await Promise.all([
    pixels16(demo('photographs/mixed-light.png')),
    pixels16(bytes),
    pixels16(demo('references/mixed-light-neutral.png')),
  ]);
  const [skin, cast] = await Promise.all([truth('mixed-light.body-skin'), truth('mixed-light.magenta-cast')]);
  const lit = skin.map((v, i) => (v >= 128 && cast[i]! >= 64 ? 255 : 0));
  const [was, is] = [before, after].map((pixels) => meanDifference(pixels, reference, lit)) as [number, number];
  console.log(`mean ΔE00 on cast skin: ${was.toFixed(2)} before, ${is.toFixed(2)} after`);
  expect(is).toBeLessThan(was / 2);

  // Nothing else: where the mask is 0, not a bit differs from what was imported.
  const { document } = await editOf(id);
  accelerate(createKernels()); // as the application renders
  const raster = createRaster(wholeOf(size));
  spreadRows(before, raster, 0);
  const mask = renderMask(document.layers[0]!.where, { picture: size, full: size }, wholeOf(size), raster, noPictures);
  let outside = 0;
  let touched = 0;
  for (let i = 0; i < mask.length; i++) {
    if (mask[i] !== 0) continue;
    outside++;
    for (let c = 0; c < 3; c++) if (before[i * 3 + c] !== after[i * 3 + c]) touched++;
  }
  expect(touched).toBe(0);
  expect(outside).toBeGreaterThan(mask.length * 0.7);
  expectNoComplaints(complaints);
});

it('hands over the same pixels that the bench shows at 100 %', async () => {
  const { bytes } = await handOver(page, 'PNG', '8 bit');
  const file = await sharp(bytes, { ignoreIcc: true }).raw().toBuffer();
  await maskShown(page, 'Not shown');
  await page.getByRole('main').focus();
  await page.keyboard.press('g');
  await page.locator('footer').filter({ hasText: '100 %' }).waitFor();
  // Over to the shoulder, where the edit is.
  const box = (await page.getByRole('main').boundingBox())!;
  await page.getByRole('radio', { name: 'Move' }).click();
  await drag(page, [
    [box.x + 400, box.y + 400],
    [box.x + 250, box.y + 100],
  ]);
  await page.mouse.move(box.x + 5, 30);
  const shot = await standing(page, { x: box.x + 40, y: box.y + 40, width: 600, height: 500 });
  // Where the clip lies in the photograph: found by its first row, then everything must agree.
  const row = shot.subarray(0, 600 * 3);
  const matches: number[] = [];
  for (let y = 0; y < size.height - 500; y++)
    for (let x = 0; x < size.width - 600; x++) {
      const start = (y * size.width + x) * 3;
      if (file[start] === row[0] && file.subarray(start, start + row.length).equals(row)) matches.push(start);
    }
  expect(matches).toHaveLength(1);
  let different = 0;
  for (let y = 0; y < 500; y++) {
    const start = matches[0]! + y * size.width * 3;
    if (!file.subarray(start, start + row.length).equals(shot.subarray(y * row.length, (y + 1) * row.length))) different++;
  }
  expect(different).toBe(0);
  expectNoComplaints(complaints);
});
