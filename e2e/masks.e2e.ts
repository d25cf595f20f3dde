/** Saying where, through the real interface, measured against the truth masks of the demo photographs. */
import { readFile } from 'node:fs/promises';
import type { Browser, Page } from 'playwright-core';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Size } from '@umbo/core/base';
import {
  addLayer,
  addPart,
  drag,
  editOf,
  eventually,
  expectNoComplaints,
  fitted,
  iou,
  kept,
  launch,
  maskShown,
  newPage,
  outline,
  ownShoot,
  photographs,
  setHueRange,
  setNumber,
  standing,
  truth,
} from './harness.ts';

let browser: Browser;
let page: Page;
const complaints: string[] = [];

beforeAll(async () => {
  browser = await launch();
  page = await newPage(await browser.newContext({ acceptDownloads: true }), complaints);
});
afterAll(() => browser.close());

type Place = readonly [number, number];

const openOwn = ownShoot('Masks, measured');

/** Opens a photograph of a shoot of its own: what is done here stays out of the other tests' way. */
const open = (name: string) => openOwn(page, name);

/** Exports the mask of the layer in work as a 16-bit PNG. */
async function exported(): Promise<{ values: Uint16Array; file: string; size: Size }> {
  await page.getByRole('button', { name: 'Kept masks and files' }).click();
  const waiting = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: 'Export as PNG, 16 bit' }).click();
  const file = await (await waiting).path();
  const image = sharp(file);
  const { channels, depth, width, height } = await image.metadata();
  expect([channels, depth]).toEqual([1, 'ushort']);
  const raw = await image.toColourspace('grey16').raw({ depth: 'ushort' }).toBuffer();
  return { values: new Uint16Array(raw.buffer, raw.byteOffset, raw.length / 2), file, size: { width, height } };
}

/** Measures the mask in work; for the record, see docs/masks.md. */
async function measure(name: string, least: number): Promise<void> {
  await kept(page);
  const { values } = await exported();
  const found = iou(values, 65535, await truth(name));
  console.log(`${name}: IoU ${found.toFixed(3)}`);
  expect(found).toBeGreaterThanOrEqual(least);
}

/** Clicks colours into the part in work, one after the other: each is a step of the history. */
async function take(at: (x: number, y: number) => [number, number], places: readonly Place[], leaveOut: boolean): Promise<void> {
  await page.getByRole('radio', { name: leaveOut ? 'Leave out' : 'Catch', exact: true }).click();
  const steps = page.getByText(/^\d+ of \d+$/);
  for (const place of places) {
    const before = await steps.innerText();
    await page.mouse.click(...at(...place));
    await expect.poll(() => steps.innerText(), { interval: 30 }).not.toBe(before);
  }
}

describe('measured masks', () => {
  it('catches the red beaker by a hue range and an outline', async () => {
    const { at } = await open('vases.jpg');
    await addLayer(page);
    await addPart(page, 'Hue range');
    await setHueRange(page, [10, 18, 42, 48]);
    await addPart(page, 'Outline');
    await outline(page, at, [260, 615, 498, 615, 498, 955, 260, 955]);
    await measure('vases.red', 0.9);
    expectNoComplaints(complaints);
  });

  it('grows the stool from two strokes inside and two outside', async () => {
    const { at } = await open('stool.jpg');
    await addLayer(page);
    await addPart(page, 'Grow');
    const strokes = [
      ['Inside', [330, 400, 600, 420, 850, 390, 900, 420], [430, 520, 410, 800, 390, 1150]],
      ['Outside', [230, 400, 300, 300, 500, 260, 850, 280, 980, 400, 1040, 800, 1020, 1180, 600, 1180, 430, 1260], [550, 560, 680, 560, 680, 720, 560, 740, 520, 650]],
    ] as const; // prettier-ignore
    for (const [side, ...lines] of strokes) {
      await page.getByRole('radiogroup', { name: 'The next stroke is' }).getByText(side).click();
      for (const points of lines)
        await drag(
          page,
          Array.from({ length: points.length / 2 }, (_, i) => at(points[2 * i]!, points[2 * i + 1]!)),
        );
    }
    await page.getByRole('group', { name: 'Grown, 2 inside, 2 outside' }).waitFor();
    await measure('stool.stool', 0.95);
    expectNoComplaints(complaints);
  });

  it('catches the sky of estuary-dusk by its lights and a gradient', async () => {
    const { at } = await open('estuary-dusk.jpg');
    await addLayer(page);
    await addPart(page, 'Luminosity');
    await page.getByRole('radio', { name: 'Range' }).click();
    const range = page.getByRole('group', { name: 'Tones on the histogram' });
    const tones = (await range.boundingBox())!;
    for (const [end, percent] of [
      ['low outer', 60],
      ['low inner', 68],
    ] as const) {
      const handle = (await range.getByRole('slider', { name: end }).boundingBox())!;
      const y = handle.y + handle.height / 2;
      const x = tones.x + (percent / 100) * tones.width;
      await drag(page, [
        [handle.x + handle.width / 2, y],
        [x - 3, y],
        [x, y],
      ]);
    }
    await addPart(page, 'Linear gradient');
    for (const [name, y] of [
      ['Gradient mask begins', 440],
      ['Gradient mask ends', 540],
    ] as const) {
      const handle = (await page.getByRole('button', { name }).boundingBox())!;
      await drag(page, [[handle.x + handle.width / 2, handle.y + handle.height / 2], [handle.x, at(720, y)[1] - 6], at(720, y)]);
    }
    await measure('estuary-dusk.sky', 0.9);
    expectNoComplaints(complaints);
  });

  it('catches lips by likeness and a rough outline', async () => {
    const { at } = await open('window-portrait.jpg');
    await addLayer(page);
    await addPart(page, 'Likeness');
    const lips: Place[] = [[770, 1010], [740, 1040], [800, 1060], [770, 1068], [700, 1032], [840, 1035]]; // prettier-ignore
    const skin: Place[] = [[770, 950], [640, 1040], [770, 1120], [900, 1040]]; // prettier-ignore
    await take(at, lips, false);
    await take(at, skin, true);
    await addPart(page, 'Outline');
    await outline(
      page,
      at,
      [
        872, 1037, 859, 1082, 820, 1105, 781, 1101, 753, 1097, 718, 1098, 682, 1078, 666, 1037, 675, 993, 709, 965, 753, 979, 781, 975, 815,
        976, 849, 997,
      ],
    );
    await measure('window-portrait.lips', 0.8);
    expectNoComplaints(complaints);
  });

  it('picks teeth from near, and takes the last pick back by itself', async () => {
    const { at: fit } = await open('smile.jpg');
    await page.getByRole('main').focus();
    for (const key of ['g', '+', '+']) await page.keyboard.press(key);
    await page.getByText('156 %').waitFor();
    // Zooming leaves the point in the middle of the stage where it is.
    const stage = (await page.getByRole('main').boundingBox())!;
    const [x0, y0] = fit(0, 0);
    const before = fit(1, 0)[0] - x0;
    const middle = [stage.x + stage.width / 2, stage.y + stage.height / 2] as const;
    const at = (x: number, y: number): [number, number] => [
      middle[0] + (x - (middle[0] - x0) / before) * 1.25 ** 2,
      middle[1] + (y - (middle[1] - y0) / before) * 1.25 ** 2,
    ];
    await addLayer(page);
    await addPart(page, 'Pick');
    await setNumber(page, 'Tolerance', 9);
    await setNumber(page, 'Softness', 4);
    const teeth: Place[] = [
      [799, 1137],
      [832, 1137],
      [863, 1131],
    ];
    const others: Place[] = [
      [815, 1154],
      [780, 1153],
    ];
    await take(at, teeth, false);
    await take(at, others, true);
    // One pick too many is taken back by itself.
    await take(at, [[800, 1090]], false);
    await page.getByRole('button', { name: 'Take the last pick back' }).click();
    await page.getByRole('button', { name: `Pick, ${teeth.length + others.length} clicks`, pressed: true }).waitFor();
    // The three teeth, and no lip.
    const { values, size } = await exported();
    const share = (places: readonly Place[]): number[] => places.map(([x, y]) => values[y * size.width + x]! / 65535);
    expect(Math.min(...share(teeth))).toBeGreaterThan(0.9);
    expect(Math.max(...share(others))).toBeLessThan(0.5);
    expectNoComplaints(complaints);
  });

  it('paints along the building and leaves nearly nothing of what is beside it', async () => {
    const { at } = await open('estuary-dusk.jpg');
    await addLayer(page);
    await addPart(page, 'Brush');
    await setNumber(page, 'Brush size', 60);
    await setNumber(page, 'Hardness', 80);
    await setNumber(page, 'Flow', 40);
    await setNumber(page, 'Only alike', 3);
    // About 20 pixels inside its edges; the brush reaches 10 pixels beyond them and more.
    const path: Place[] = [[940, 395], [945, 360], [1000, 362], [1045, 362], [1052, 340], [1055, 395], [1000, 400], [940, 398]]; // prettier-ignore
    await drag(
      page,
      path.map(([x, y]) => at(x, y)),
    );
    await kept(page);
    const { values, size } = await exported();
    const building = await truth('estuary-dusk.building');
    const near = (x: number, y: number): boolean =>
      path.slice(1).some(([bx, by], k) => {
        const [ax, ay] = path[k]!;
        const [dx, dy] = [bx - ax, by - ay];
        const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy)));
        return Math.hypot(x - ax - t * dx, y - ay - t * dy) <= 30;
      });
    let [left, outside, painted, inside] = [0, 0, 0, 0];
    for (let y = 280; y < 440; y++)
      for (let x = 880; x < 1130; x++) {
        if (!near(x + 0.5, y + 0.5)) continue;
        const i = y * size.width + x;
        if (building[i]! < 128) [left, outside] = [left + values[i]! / 65535, outside + 1];
        else [painted, inside] = [painted + values[i]! / 65535, inside + 1];
      }
    console.log(
      `building: ${((left / outside) * 100).toFixed(2)} % of the ${outside} pixels beside it, ${((painted / inside) * 100).toFixed(0)} % of it`,
    );
    expect(left / outside).toBeLessThan(0.02);
    expect(painted / inside).toBeGreaterThan(0.4);
    expectNoComplaints(complaints);
  });
});

describe('a mask', () => {
  it('is the same at fit zoom as at full size, comes back from its file, and is kept for the other photographs', async () => {
    const { size } = await open('fruit.jpg');
    await addLayer(page);
    await addPart(page, 'Hue range');
    await page.getByRole('button', { name: 'refine', exact: true }).click();
    await page.getByRole('menuitem', { name: 'Feather' }).click();
    await maskShown(page, 'Black and white');
    await kept(page);
    const { values, file } = await exported();

    const [left, top] = (await fitted(page, size))(0, 0);
    const [right, bottom] = (await fitted(page, size))(size.width, size.height);
    const clip = { x: Math.round(left), y: Math.round(top), width: Math.round(right - left), height: Math.round(bottom - top) };
    // Above the tool bar, which lies over the photograph's lower rim in some windows.
    const seen = await sharp(await standing(page, clip), { raw: { width: clip.width, height: clip.height, channels: 3 } })
      .toColourspace('b-w')
      .raw()
      .toBuffer();
    const small = await sharp(file)
      .resize(clip.width, clip.height, { fit: 'fill', kernel: 'lanczos3' })
      .toColourspace('b-w')
      .raw()
      .toBuffer();
    let sum = 0;
    for (let i = 0; i < seen.length; i++) sum += Math.abs(seen[i]! - small[i]!);
    console.log(`fit zoom and full size differ by ${(sum / seen.length).toFixed(2)} of 255 in the mean`);
    expect(sum / seen.length).toBeLessThan(2);

    // Kept with the shoot.
    await page.getByRole('button', { name: 'Kept masks and files' }).click();
    await page.getByRole('menuitem', { name: 'Keep this mask…' }).click();
    await page.getByRole('dialog').getByRole('textbox').fill('Greens of the plate');
    await page.getByRole('button', { name: 'Keep it' }).click();
    await page.getByText('The mask is kept with the shoot').waitFor();

    // The file as a part of another layer's mask gives the same mask.
    await addLayer(page);
    await page.getByLabel('Mask to import').setInputFiles({ name: 'plate.png', mimeType: 'image/png', buffer: await readFile(file) });
    await page.getByRole('button', { name: 'plate.png', exact: true }).waitFor();
    await kept(page);
    const again = await exported();
    expect(Buffer.compare(Buffer.from(again.values.buffer, again.values.byteOffset), Buffer.from(values.buffer, values.byteOffset))).toBe(
      0,
    );
    // It is no photograph of the shoot.
    expect((await (await fetch(page.url())).text()).includes('plate.png')).toBe(true);
    expect((await photographs('Masks, measured')).map(({ name }) => name)).not.toContain('plate.png');

    await open('pinafore.jpg');
    await addLayer(page);
    await page.getByRole('button', { name: 'Kept masks and files' }).click();
    await page.getByRole('menuitem', { name: 'Use “Greens of the plate”' }).click();
    await page.getByRole('button', { name: /^Hue \d+–\d+°$/ }).waitFor();
    // It is forgotten after a question only.
    for (const answer of ['Keep it', 'Forget it']) {
      await page.getByRole('button', { name: 'Kept masks and files' }).click();
      await page.getByRole('menuitem', { name: 'Forget “Greens of the plate”' }).click();
      await page.getByRole('alertdialog').getByRole('button', { name: answer }).click();
    }
    await page.getByRole('button', { name: 'Kept masks and files' }).click();
    await expect.poll(() => page.getByRole('menuitem', { name: 'Use “Greens of the plate”' }).count()).toBe(0);
    await page.keyboard.press('Escape');

    // What is no picture is refused in a sentence.
    await page.getByLabel('Mask to import').setInputFiles({ name: 'no.png', mimeType: 'image/png', buffer: Buffer.from('no picture') });
    await page.getByText(/“no.png” was not imported/).waitFor();
    expect(complaints.splice(0)).toEqual([expect.stringContaining('Failed to load resource')]);
  });

  it('is looked over and cleaned, moved and copied as a region, eased back, refined in order', async () => {
    const { id, at } = await open('workshop-long.jpg');
    const where = async () => (await editOf(id)).document.layers.at(-1)!.where;
    await addLayer(page);
    await addPart(page, 'Brush');
    // The brush is as it was left: also where it stopped.
    await setNumber(page, 'Only alike', 0);
    await setNumber(page, 'Brush size', 300);
    await setNumber(page, 'Hardness', 100);
    await setNumber(page, 'Flow', 100);
    await drag(page, [at(500, 400), at(700, 450), at(800, 600)]);
    await setNumber(page, 'Brush size', 40);
    await drag(page, [at(1300, 200), at(1302, 200)]);
    await page.getByRole('button', { name: 'Kept masks and files' }).click();
    await page.getByRole('menuitem', { name: 'Look the mask over' }).click();
    await page.getByText(/^1 stray mark, 0 pinholes/).waitFor();
    expect(await page.getByTestId('health-marks').locator('rect').count()).toBeGreaterThan(1);
    // How small is too small can be said: the dab is more than a thousandth of the rest.
    await setNumber(page, 'Small up to this share of the largest part', 0.1);
    await page.getByText(/^0 stray marks, 0 pinholes/).waitFor();
    await setNumber(page, 'Small up to this share of the largest part', 10);
    await page.getByText(/^1 stray mark, 0 pinholes/).waitFor();
    await page.getByRole('button', { name: 'Clean', exact: true }).click();
    await page.getByText(/^Nothing stray, no pinholes/).waitFor();
    await setNumber(page, 'Ease back the last stroke', 40);
    await page.keyboard.press('Escape');

    await page.getByRole('radio', { name: 'Region', exact: true }).click();
    await drag(page, [at(600, 600), at(650, 650), at(700, 700)]);
    await page.keyboard.down('Alt');
    await drag(page, [at(700, 700), at(650, 800), at(700, 900)]);
    await page.keyboard.up('Alt');
    await kept(page);
    const moved = await where();
    expect(moved.parts.map(({ kind, combine }) => [kind, combine])).toEqual([
      ['brush', 'add'],
      ['brush', 'add'],
    ]);
    const strokes = moved.parts.map((part) => (part.kind === 'brush' ? part.strokes : []));
    expect(Math.abs(strokes[0]![0]!.points[0]! - 600)).toBeLessThan(6);
    expect(Math.abs(strokes[1]![0]!.points[1]! - strokes[0]![0]!.points[1]! - 200)).toBeLessThan(6);
    expect(strokes[0]![1]!.opacity).toBe(0.4);

    await page.getByRole('button', { name: 'refine', exact: true }).click();
    await page.getByRole('menuitem', { name: 'Grow or shrink' }).click();
    await page.getByRole('button', { name: 'More for this step' }).click();
    await page.getByRole('menuitem', { name: 'Earlier' }).click();
    await kept(page);
    expect((await where()).refine.map(({ kind }) => kind)).toEqual(['clean', 'grow', 'feather']);

    await page.getByRole('button', { name: 'More for this part' }).click();
    await page.getByRole('menuitem', { name: 'Name…' }).click();
    await page.getByRole('dialog').getByRole('textbox').fill('Her sleeve');
    await page.getByRole('button', { name: 'Name it' }).click();
    await page.getByRole('button', { name: 'Her sleeve', exact: true }).waitFor();
    await page.getByRole('button', { name: 'More for this part' }).click();
    await page.getByRole('menuitem', { name: 'Later' }).click();
    await setNumber(page, 'Strength of the part', 50);
    await kept(page);
    expect((await where()).parts.map(({ name, strength }) => [name, strength])).toEqual([
      [undefined, undefined],
      ['Her sleeve', 0.5],
    ]);
    expectNoComplaints(complaints);
  });

  it('is shaped on the photograph by every kind of part, each drawn without a complaint', async () => {
    const { id, at } = await open('fruit.jpg');
    for (const kind of ['Ellipse', 'Frame edge', 'Texture', 'Out of gamut', 'Clipped tones']) {
      await addLayer(page);
      await addPart(page, kind);
    }
    // A brush through the ellipse of the first layer covers no more than that.
    await addLayer(page);
    await addPart(page, 'Brush');
    await page.getByRole('radio', { name: 'Full', exact: true }).click();
    await page.getByRole('button', { name: 'Through…' }).click();
    await page.getByRole('menuitem').first().click();
    await page.getByRole('button', { name: 'Through nothing' }).waitFor();
    await addLayer(page);
    await addPart(page, 'Luminosity');
    await page.getByRole('main').focus();
    await page.keyboard.press('i');
    await page.getByRole('button', { name: 'Lights 1.5', exact: true }).waitFor();
    await addLayer(page);
    await addPart(page, 'Hue range');
    const range = async () => {
      const part = (await editOf(id)).document.layers.at(-1)!.where.parts[0]!;
      return part.kind === 'hueRange' ? part : null;
    };
    await kept(page);
    const before = (await range())!;
    await page.getByRole('radio', { name: 'Catch' }).click();
    await drag(page, [at(764, 460), at(740, 480), at(780, 490)]); // a plum, which is far from the strongest hue
    await expect.poll(async () => (await range())!.span).toBeGreaterThan(before.span);
    await page.getByRole('button', { name: 'Another range' }).click();
    await page.getByRole('radio', { name: 'Range 2' }).waitFor();
    await kept(page);
    expect((await range())!.also).toHaveLength(1);

    // A colour that only the layers below made is caught in the result, not in the photograph.
    await addLayer(page, 'Fill');
    await addLayer(page);
    await addPart(page, 'Likeness');
    await page.getByText('Of the result so far', { exact: true }).click();
    await page.mouse.click(...at(764, 460));
    await page.getByRole('button', { name: /^Forget #808080, caught/ }).waitFor();
    await maskShown(page, 'Black and white');
    await eventually(page, at(300, 300), (c) => c[0]! > 250);
    await page.getByText('Of the result so far', { exact: true }).click();
    await eventually(page, at(764, 460), (c) => c[0]! < 128);
    expectNoComplaints(complaints);
  });
});
