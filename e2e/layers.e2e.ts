/** What layers, blending, groups and colour layers are for: outcomes on the demo photographs, through the real interface. */
import { deltaE2000, labToLch } from '@umbo/core/colour';
import type { Browser, BrowserContext, Page } from 'playwright-core';
import { afterAll, beforeAll, beforeEach, expect, it } from 'vitest';
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
  labAt,
  launch,
  newPage,
  openBench,
  openHow,
  photographId,
  pixels16,
  selectLayers,
  setBlendMode,
  setColour,
  setHueRange,
  setNumber,
  truth,
} from './harness.ts';

const complaints: string[] = [];
let browser: Browser;
let context: BrowserContext;
let page: Page;

beforeAll(async () => {
  browser = await launch();
  context = await browser.newContext();
});
beforeEach(async () => {
  page = await newPage(context, complaints);
});
afterAll(() => browser.close());

const result = async (): Promise<Uint16Array> => {
  await kept(page);
  return pixels16((await handOver(page, 'PNG', '8 bit')).bytes);
};

/** The longest run of a region in a row: from and to; null where there is none longer than wanted. */
function longestRun(mask: Uint8Array, width: number, y: number, wanted: number): [number, number] | null {
  let best: [number, number] | null = null;
  for (let x = 0; x < width; x++) {
    const from = x;
    while (x < width && mask[y * width + x]! > 200) x++;
    if (x - from > wanted && (!best || x - from > best[1] - best[0])) best = [from, x - 1];
  }
  return best;
}

/** One stroke back and forth over a region; its middle line stays `rim` within, also where it goes from row to row. */
function serpentine(mask: Uint8Array, width: number, [top, bottom]: [number, number], step: number, rim: number): [number, number][] {
  const rows: { y: number; run: [number, number] }[] = [];
  for (let y = top; y <= bottom; y += step) {
    const run = longestRun(mask, width, y, 2 * rim + 4);
    if (run) rows.push({ y, run });
  }
  return rows.flatMap(({ y }, i) => {
    const near = rows.slice(Math.max(0, i - 1), i + 2).map(({ run }) => run);
    const [left, right] = [Math.max(...near.map(([from]) => from)) + rim, Math.min(...near.map(([, to]) => to)) - rim];
    if (left >= right) return [];
    return (i % 2 === 0 ? [left, right] : [right, left]).map((x): [number, number] => [x, y]);
  });
}

it('takes the violet shadows out of throw-cast: two layers in one group, its mask painted at 50 %, one layer switched off inside', async () => {
  const size = { width: 1280, height: 1600 };
  const id = await photographId('Saltings catalogue', 'throw-cast.jpg');
  await openBench(page, id);
  await addLayer(page, 'Fill');
  await setColour(page, 'Fill colour', '#ccd199');
  await setBlendMode(page, 'Color (hue and chroma)');
  await addLayer(page);
  await setNumber(page, 'Lightness', -25);
  await selectLayers(page, 'Fill #CCD199', 'Layer 1');
  await page.keyboard.press('h');
  await page.getByRole('row', { name: 'Group 1', exact: true }).waitFor();

  await addPart(page, 'Hue range');
  await setHueRange(page, [250, 280, 10, 70]);
  await setNumber(page, 'Spare greys', 0.01);
  await addPart(page, 'Brush');
  await setNumber(page, 'Brush size', 90);
  await setNumber(page, 'Hardness', 0);
  await setNumber(page, 'Flow', 100);
  await setNumber(page, 'Most that a stroke covers', 50);
  const mask = await truth('throw-cast.throw');
  const at = await fitted(page, size);
  const path = serpentine(mask, size.width, [440, 1230], 30, 52);
  await drag(
    page,
    path.map(([x, y]) => at(x, y)),
  );
  await page.getByRole('button', { name: 'Layer 1 off' }).click();

  const after = await result();
  const { document } = await editOf(id);
  const [group] = document.layers;
  expect(document.layers).toHaveLength(1);
  expect(group!.what.kind === 'group' && group!.what.layers.map(({ name, on }) => [name, on])).toEqual([
    ['Fill #CCD199', true],
    ['Layer 1', false],
  ]);
  const brush = group!.where.parts[1]!;
  expect(brush.kind === 'brush' && brush.strokes.map(({ opacity, hardness }) => [opacity, hardness])).toEqual([[0.5, 0]]);

  const [before, right] = await Promise.all([
    pixels16(demo('photographs/throw-cast.jpg')),
    pixels16(demo('references/throw-cast-neutral.jpg')),
  ]);
  let [was, is, n, outside, changed] = [0, 0, 0, 0, 0];
  for (let i = 0; i < mask.length; i += 3)
    if (mask[i]! > 128) {
      was += deltaE2000(labAt(before, i), labAt(right, i));
      is += deltaE2000(labAt(after, i), labAt(right, i));
      n++;
    } else if (mask[i] === 0) {
      outside++;
      if (deltaE2000(labAt(before, i), labAt(after, i)) > 0.5) changed++;
    }
  console.log(
    `throw: mean ΔE00 ${(was / n).toFixed(2)} before, ${(is / n).toFixed(2)} after; ${changed} of ${outside} pixels outside changed`,
  );
  expect(is / n).toBeLessThan(was / n / 2);
  expect(changed / outside).toBeLessThan(0.002);
  expectNoComplaints(complaints);
});

it('takes the orange of the lamps off the stone of lane-sodium: divide fills sampled below themselves, lightened and saturated', async () => {
  const size = { width: 1440, height: 960 };
  const id = await photographId('Estuary at dusk', 'lane-sodium.jpg');
  await openBench(page, id);
  const at = await fitted(page, size);
  const divide = async (
    place: [number, number],
    [lightness, chroma]: [number, number],
    hues: [number, number, number, number],
  ): Promise<void> => {
    await addLayer(page, 'Fill');
    await setBlendMode(page, 'Divide');
    await openHow(page);
    await setNumber(page, 'Lightness let through', 0);
    const grey = page.getByRole('textbox', { name: 'Fill colour, hexadecimal' });
    const was = await grey.inputValue();
    await page.getByRole('radio', { name: 'Sample' }).click();
    await page.getByRole('radiogroup', { name: 'Sample size' }).getByRole('radio', { name: '31 × 31' }).click();
    await page.mouse.move(...at(...place));
    await page.getByTestId('magnifier').waitFor();
    await page.mouse.click(...at(...place));
    await expect.poll(() => grey.inputValue()).not.toBe(was);
    await setNumber(page, 'Lightness', lightness);
    await setNumber(page, 'Chroma', chroma);
    await addPart(page, 'Hue range');
    await setHueRange(page, hues);
    await setNumber(page, 'Spare greys', 0.01);
  };
  await divide([320, 80], [88, 0.1], [10, 30, 120, 140]); // stone in the light of the lamp
  await divide([40, 520], [87, 0.07], [255, 275, 40, 60]); // stone in the light of the evening

  const after = await result();

  const [before, neutral] = await Promise.all([
    pixels16(demo('photographs/lane-sodium.jpg')),
    pixels16(demo('references/lane-neutral.jpg')),
  ]);
  const wall = await truth('lane-sodium.wall');
  const clipped = (pixels: Uint16Array, i: number): boolean => [0, 1, 2].some((c) => pixels[i * 3 + c]! >= 65535);
  let [was, is, n, newly] = [0, 0, 0, 0];
  for (let i = 0; i < wall.length; i++) {
    if (clipped(after, i) && !clipped(before, i)) newly++;
    if (i % 2 || wall[i]! < 200 || labToLch(labAt(neutral, i)).c > 5) continue;
    was += labToLch(labAt(before, i)).c;
    is += labToLch(labAt(after, i)).c;
    n++;
  }
  const share = newly / wall.length;
  console.log(
    `lane: mean chroma of ${n} neutral pixels ${(was / n).toFixed(2)} before, ${(is / n).toFixed(2)} after; ${(share * 100).toFixed(2)} % newly clipped`,
  );
  expect(is / n).toBeLessThan((was / n) * 0.4);
  expect(share).toBeLessThan(0.005);
  expectNoComplaints(complaints);
});

it('colours archive-mono by colour layers, and leaves its lightness alone', async () => {
  const size = { width: 1600, height: 2000 };
  const id = await photographId('Kiln-house archive', 'archive-mono.jpg');
  await openBench(page, id);
  await addLayer(page);
  await setNumber(page, 'Saturation', -100);
  const neutralised = await result();
  const at = await fitted(page, size);
  const regions: [string, string, string, number, [number, number], number][] = [
    ['Backdrop', 'archive-mono.backdrop', '#73808c', 200, [110, 1200], 90],
    ['Skin', 'archive-mono.face-skin', '#d19478', 60, [640, 1000], 24],
    ['Hair', 'archive-mono.hair', '#9e8566', 70, [1120, 1400], 30],
    ['Lips', 'archive-mono.lips', '#b86661', 14, [1050, 1130], 5],
  ];
  for (const [name, region, colour, brush, rows, step] of regions) {
    await addLayer(page, 'Fill');
    await page.getByRole('main').focus();
    await page.getByRole('button', { name: 'More about Fill' }).click();
    await page.getByRole('menuitem', { name: 'Rename…' }).click();
    await page.getByRole('dialog').getByRole('textbox').fill(name);
    await page.keyboard.press('Enter');
    await setColour(page, 'Fill colour', colour);
    await setBlendMode(page, 'Color (hue and chroma)');
    await addPart(page, 'Brush');
    await setNumber(page, 'Brush size', brush);
    await setNumber(page, 'Flow', 100);
    await setNumber(page, 'Most that a stroke covers', 100);
    await drag(
      page,
      serpentine(await truth(region), size.width, rows, step, brush / 2).map(([x, y]) => at(x, y)),
    );
  }
  const after = await result();
  const parts: string[] = [];
  for (const [name, region] of regions) {
    const mask = await truth(region);
    let [lightness, chroma, n] = [0, 0, 0];
    for (let i = 0; i < mask.length; i += 2) {
      if (mask[i]! < 200) continue;
      const [was, is] = [labAt(neutralised, i), labAt(after, i)];
      const { c } = labToLch(is);
      if (c < 3) continue; // not reached by the brush
      lightness += Math.abs(is.l - was.l);
      chroma += c;
      n++;
    }
    parts.push(`${name} ${(lightness / n).toFixed(2)} L*, chroma ${(chroma / n).toFixed(0)}`);
    expect(n, name).toBeGreaterThan(300);
    expect(lightness / n, name).toBeLessThan(1);
    expect(chroma / n, name).toBeGreaterThan(5);
  }
  console.log(`archive: mean |ΔL*| ${parts.join('; ')}`);
  expectNoComplaints(complaints);
});

it('brings the contrast of faded-print-1 back by a self layer and levels, and the copied group does the same for faded-print-2', async () => {
  const deviation = (pixels: Uint16Array): number => {
    let [sum, squares, n] = [0, 0, 0];
    for (let i = 0; i < pixels.length / 3; i += 3) {
      const { l } = labAt(pixels, i);
      sum += l;
      squares += l * l;
      n++;
    }
    return Math.sqrt(squares / n - (sum / n) ** 2);
  };
  const measure = async (k: 1 | 2): Promise<void> => {
    const after = deviation(await result());
    const [was, right] = [
      deviation(await pixels16(demo(`photographs/faded-print-${k}.jpg`))),
      deviation(await pixels16(demo(`references/faded-print-${k}-truth.jpg`))),
    ];
    console.log(`faded-print-${k}: L* deviates by ${was.toFixed(1)} before, ${after.toFixed(1)} after, ${right.toFixed(1)} in truth`);
    expect(Math.abs(was / right - 1)).toBeGreaterThan(0.3);
    expect(Math.abs(after / right - 1)).toBeLessThan(0.15);
  };
  await openBench(page, await photographId('Kiln-house archive', 'faded-print-1.jpg'));
  await addLayer(page, 'Self');
  await addLayer(page, 'Levels');
  await setNumber(page, 'Black', 20);
  await setNumber(page, 'White', 220);
  await setNumber(page, 'Middle', 1.2);
  await selectLayers(page, 'Self 1', 'Levels 1');
  await page.keyboard.press('h');
  await page.getByRole('row', { name: 'Group 1', exact: true }).waitFor();
  await page.keyboard.press('Control+c');
  await measure(1);
  await openBench(page, await photographId('Kiln-house archive', 'faded-print-2.jpg'));
  await page.getByRole('main').focus();
  await page.keyboard.press('Control+v');
  await page.getByRole('row', { name: 'Group 1', exact: true }).waitFor();
  await measure(2);
  expectNoComplaints(complaints);
});
