/** Readings: pinned, named, moved and kept; brought to targets by layers, with numbers that are true. */
import { readFile } from 'node:fs/promises';
import { deltaE2000, type Lab } from '@umbo/core/colour';
import type { Reading } from '@umbo/core/document';
import { readCgats } from '@umbo/core/format';
import type { Browser, BrowserContext, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  addLayer,
  addPart,
  colourAt,
  demo,
  drag,
  editOf,
  expectNoComplaints,
  fitted,
  handOver,
  kept,
  launch,
  meanDifference,
  meanLab,
  newPage,
  openBench,
  ownShoot,
  photographId,
  pixels16,
  setHueRange,
  setNumber,
  truth,
  violations,
} from './harness.ts';

const complaints: string[] = [];
let browser: Browser;
let context: BrowserContext;
let page: Page;

beforeAll(async () => {
  browser = await launch();
  context = await browser.newContext({ permissions: ['clipboard-read', 'clipboard-write'] });
  page = await newPage(context, complaints);
});
afterAll(() => browser.close());

const openOwn = ownShoot('Readings');
type Place = (x: number, y: number) => [number, number];

const readingsOf = async (id: number): Promise<Reading[]> => {
  await kept(page);
  return (await editOf(id)).document.readings ?? [];
};
const list = () => page.getByRole('list', { name: 'Readings' });
const line = (name: string) => list().getByRole('listitem', { name, exact: true });
const desk = () => page.getByRole('complementary', { name: 'Desk' });
const sees = (words: string | RegExp): Promise<void> => page.getByRole('status').filter({ hasText: words }).first().waitFor();

async function pin(at: Place, side: '5 × 5' | '31 × 31', ...places: (readonly [number, number])[]): Promise<void> {
  await page.getByRole('radio', { name: 'Read', exact: true }).click();
  await page.getByRole('radio', { name: side, exact: true }).click();
  for (const [x, y] of places) await page.mouse.click(...at(x, y));
}
async function choose(button: string | RegExp, option: string): Promise<void> {
  await desk().getByRole('button', { name: button }).click();
  await page.getByRole(typeof button === 'string' ? 'menuitem' : 'option', { name: option, exact: true }).click();
}
async function typeTarget(of: string, colour: string): Promise<void> {
  await choose(new RegExp(`Target of ${of}`), 'A colour, typed…');
  const field = desk().getByRole('textbox', { name: `Colour of the target of ${of}` });
  await field.fill(colour);
  await field.press('Enter');
}
/** The three numbers of a side of a reading, once they are there. */
async function numbers(name: string, side: 'before' | 'after'): Promise<number[]> {
  const text = line(name).getByText(side, { exact: true }).locator('..');
  await expect.poll(() => text.innerText(), { timeout: 30_000 }).toMatch(/\d/);
  return (await text.innerText())
    .replaceAll('−', '-')
    .match(/-?\d+(\.\d+)?/g)!
    .map(Number);
}
const meanOf = (pixels: Uint16Array, indices: readonly number[]): number[] =>
  [0, 1, 2].map((c) => indices.reduce((sum, i) => sum + pixels[i * 3 + c]!, 0) / indices.length / 257);

describe('readings', () => {
  it('are of spots, ellipses and outlines, show what they are before and after, follow a layer, and are kept', async () => {
    const { id, at, size } = await openOwn(page, 'vases.jpg');
    await pin(at, '5 × 5', [500, 600]);
    await drag(page, [at(780, 480), at(820, 560), at(880, 640)]);
    await page.keyboard.down('Shift');
    await drag(page, [at(840, 1000), at(1000, 1000), at(1000, 1080), at(840, 1080)]);
    await page.keyboard.up('Shift');
    const made = await readingsOf(id);
    expect(made.map(({ letter }) => letter)).toEqual(['A', 'B', 'C']);
    expect(made[0]!.spot).toMatchObject({ side: 5 });
    expect(made[1]!.where!.parts[0]).toMatchObject({ kind: 'ellipse', soft: 0 });
    expect(made[2]!.where!.parts[0]).toMatchObject({ kind: 'outline' });

    // Its numbers are those of the file.
    const file = await pixels16(demo('photographs/vases.jpg'));
    const { x, y } = made[0]!.spot!;
    const around: number[] = [];
    for (let j = -2; j <= 2; j++) for (let i = -2; i <= 2; i++) around.push((Math.floor(y) + j) * size.width + Math.floor(x) + i);
    for (const [c, value] of (await numbers('Reading A', 'before')).entries()) expect(value).toBeCloseTo(meanOf(file, around)[c]!, 0);
    const ellipse = made[1]!.where!.parts[0] as unknown as { x: number; y: number; rx: number; ry: number };
    const inside: number[] = [];
    for (let j = 0; j < size.height; j++)
      for (let i = 0; i < size.width; i++)
        if (((i + 0.5 - ellipse.x) / ellipse.rx) ** 2 + ((j + 0.5 - ellipse.y) / ellipse.ry) ** 2 < 1) inside.push(j * size.width + i);
    for (const [c, value] of (await numbers('Reading B', 'before')).entries())
      expect(Math.abs(value - meanOf(file, inside)[c]!)).toBeLessThan(1.5);

    // A layer moves what is after; while it is dragged as well.
    await addLayer(page, 'Exposure');
    const before = await numbers('Reading A', 'after');
    const slider = page.getByRole('slider', { name: 'Exposure', exact: true });
    const box = (await slider.locator('..').boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2 + 30, box.y + box.height / 2, { steps: 4 });
    await expect.poll(async () => (await numbers('Reading A', 'after'))[1]! - before[1]!).toBeGreaterThan(8);
    await page.mouse.up();
    await setNumber(page, 'Exposure', 0.5);
    await kept(page);
    const { bytes } = await handOver(page, 'PNG', '16 bit');
    const out = await pixels16(bytes);
    for (const [c, value] of (await numbers('Reading A', 'after')).entries()) expect(value).toBeCloseTo(meanOf(out, around)[c]!, 0);

    // Moved by its letter, named, put away and taken back.
    await page.getByRole('main').focus();
    await page.keyboard.press('a');
    await page.keyboard.press('Shift+V');
    await drag(page, [at(x, y), at(x + 60, y + 10), at(x + 100, y + 20)]);
    expect((await readingsOf(id))[0]!.spot!.x).toBeCloseTo(x + 100, -1);
    await desk().getByRole('textbox', { name: 'Name of Reading A' }).fill('Green glaze');
    await desk().getByRole('textbox', { name: 'Name of Reading A' }).press('Enter');
    await page.getByRole('main').focus();
    await page.keyboard.press('Delete');
    expect((await readingsOf(id)).map(({ letter }) => letter)).toEqual(['B', 'C']);
    await page.keyboard.press('Control+z');
    expect((await readingsOf(id)).map(({ name }) => name)).toEqual(['Green glaze', 'Reading B', 'Reading C']);

    // On both pictures, and lit where it is pointed at.
    await page.keyboard.press('e');
    await expect.poll(() => page.locator('[data-reading=A]').count()).toBe(2);
    await line('Green glaze').hover();
    await expect.poll(() => page.locator('[data-reading=A][data-lit=true]').count()).toBe(2);
    await page.keyboard.press('e');
    await page.reload();
    await page.locator('main[data-painted=true]').waitFor();
    await expect.poll(() => list().getByRole('listitem').count()).toBe(3);
    await line('Green glaze').getByRole('button', { name: 'Green glaze', exact: true }).click();
    expect(await violations(page)).toEqual([]);
  });

  it('are copied, saved and read as lists; a colour of a list is a target by its name', async () => {
    const { id, at } = await openOwn(page, 'fruit.jpg');
    await pin(at, '31 × 31', [400, 400]);
    await numbers('Reading A', 'before');
    const menu = async (item: string | RegExp): Promise<void> => {
      await page.getByRole('button', { name: 'How readings are shown, and more' }).click();
      await page.getByRole('menuitem', { name: item }).click();
    };
    await menu('Lab');
    const [l, a, b] = await numbers('Reading A', 'after');
    await menu('Copy as text');
    expect(await page.evaluate(() => navigator.clipboard.readText())).toContain(
      `Reading A\t${l!.toFixed(1)} ${a!.toFixed(1)} ${b!.toFixed(1)}`,
    );
    const [download] = await Promise.all([page.waitForEvent('download'), menu('Save as CGATS.17')]);
    const [saved] = readCgats(await readFile(await download.path(), 'utf8'));
    expect(saved!.name).toBe('Reading A');
    for (const [key, value] of [['l', l], ['a', a], ['b', b]] as const) expect(saved!.lab[key]).toBeCloseTo(value!, 0); // prettier-ignore
    const read = (text: string, name: string): Promise<void> =>
      page.getByLabel('List of colours').setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
    await read('name,L,a,b\nreading a,60,20,30\nSomething else,50,0,0\n', 'targets.csv');
    await sees('2 colours to choose targets from; one is the target of the reading of that name');
    expect((await readingsOf(id))[0]!.target).toMatchObject({ kind: 'colour', lab: { l: 60, a: 20, b: 30 } });
    const off = deltaE2000({ l: 60, a: 20, b: 30 }, { l: l!, a: a!, b: b! });
    expect(Number(await line('Reading A').getByText(/^\d+\.\d$/).first().innerText())).toBeCloseTo(off, 0); // prettier-ignore
    const before = await readingsOf(id);
    await read('a,b\n1,2\n', 'wrong.csv');
    await sees('could not be read: Its first line must name the columns L, a and b.');
    expect(await readingsOf(id)).toEqual(before);
    await menu(/Measure with the simulated device/);
    await sees('Simulated device: 5 colours');
    await choose(/Target of Reading A/, 'Cobalt');
    expect((await readingsOf(id))[0]!.target).toMatchObject({ name: 'Cobalt' });
    await typeTarget('Reading A', 'not a colour');
    await page.getByRole('alert').filter({ hasText: 'This is no colour' }).waitFor();
    expect((await readingsOf(id))[0]!.target).toMatchObject({ name: 'Cobalt' });
  });
});

describe('matching', () => {
  it('takes the cast of mixed-light away with two readings, a mask and one press', async () => {
    const id = await photographId('Makers, spring', 'mixed-light.png');
    await openBench(page, id);
    const { photo: size } = (await editOf(id)).document;
    const at = await fitted(page, size);
    await addLayer(page);
    await addPart(page, 'Hue range');
    await setHueRange(page, [340, 350, 36, 46]);
    await addPart(page, 'Brush');
    await setNumber(page, 'Brush size', 150);
    await setNumber(page, 'Flow', 60);
    for (let x = 720; x <= 1300; x += 60) await drag(page, [at(x, 1230), at(x, 1500), at(x, 1750), at(x, 1925)]);
    await setNumber(page, 'Feather', 12);
    // Cast skin, and skin in the shade that no lamp meets.
    await pin(at, '31 × 31', [1200, 1700], [200, 1850]);
    await line('Reading A').getByRole('button', { name: 'Reading A', exact: true }).click();
    await choose(/Target of Reading A/, 'As B');
    await choose('Match by…', 'Its hue & saturation');
    await sees(/A: \d+\.\d → [01]\.\d\.$/);
    await kept(page);
    const { bytes } = await handOver(page, 'PNG', '16 bit');
    const [before, after, reference] = await Promise.all([demo('photographs/mixed-light.png'), bytes, demo('references/mixed-light-neutral.png')].map(pixels16)); // prettier-ignore
    const [skin, cast] = await Promise.all([truth('mixed-light.body-skin'), truth('mixed-light.magenta-cast')]);
    const mask = skin.map((v, i) => (v >= 128 && cast[i]! >= 64 ? 255 : 0));
    const [was, is] = [before!, after!].map((pixels) => meanDifference(pixels, reference!, mask));
    console.log(`match on mixed-light: ${was!.toFixed(2)} → ${is!.toFixed(2)}`);
    expect(is).toBeLessThan(4);
    // One step, and back.
    const { labels } = await editOf(id);
    expect(labels.at(-1)).toBe('A matched by hue & saturation');
    await page.getByRole('main').focus();
    await page.keyboard.press('Control+z');
    await kept(page);
    expect((await editOf(id)).document.layers[0]!.what.settings).toMatchObject({ hue: 0, saturation: 0, lightness: 0 });
  });

  it('takes a lamp’s orange from lit and unlit walls in two presses, without new clipping', async () => {
    const { id, at } = await openOwn(page, 'lane-sodium.jpg');
    await pin(at, '31 × 31', [580, 320], [430, 420]);
    for (const name of ['Reading A', 'Reading B']) {
      await line(name).getByRole('button', { name, exact: true }).click();
      await choose(new RegExp(`Target of ${name}`), 'Grey, as light as it is');
    }
    await choose('Match all 2 by…', 'Colour balance');
    await sees(/A: cast \d+\.\d → [01]\.\d; B: cast \d+\.\d → [01]\.\d/);
    await kept(page);
    expect((await editOf(id)).labels.at(-1)).toBe('A and B neutralised by colour balance');
    const [before, after, reference] = await Promise.all([demo('photographs/lane-sodium.jpg'), (await handOver(page, 'PNG', '16 bit')).bytes, demo('references/lane-neutral.jpg')].map(pixels16)); // prettier-ignore
    const [wall, lamp] = await Promise.all([truth('lane-sodium.wall'), truth('lane-sodium.lamp')]);
    const inside = wall.map((v, i) => (v > 128 && lamp[i]! < 10 ? 255 : 0));
    const right = meanLab(reference!, inside);
    const castOf = (pixels: Uint16Array): number => {
      const { a, b } = meanLab(pixels, inside);
      return Math.hypot(a - right.a, b - right.b);
    };
    let clipped = 0;
    for (let i = 0; i < after!.length; i += 3) {
      const most = (pixels: Uint16Array): number => Math.max(pixels[i]!, pixels[i + 1]!, pixels[i + 2]!);
      if (most(after!) >= 65535 && most(before!) < 65535) clipped++;
    }
    const [left, share] = [castOf(after!) / castOf(before!), (clipped * 3) / after!.length];
    console.log(`lane-sodium: ${(left * 100).toFixed(0)} % of the cast left, ${(share * 100).toFixed(2)} % newly clipped`);
    expect(left).toBeLessThan(0.4);
    expect(share).toBeLessThan(0.005);
    // One lit place alone, by a fill that divides: white in the channel that is full, so that nothing becomes darker.
    await page.getByRole('main').focus();
    await page.keyboard.press('Control+z');
    await line('Reading A').getByRole('button', { name: 'Reading A', exact: true }).click();
    await choose(/Target of Reading A/, 'No target');
    await choose('Neutralise by…', 'Dividing fill');
    await sees(/A: cast \d+\.\d → \d\.\d, \d+\.\d lighter/);
    await kept(page);
    const [fill] = (await editOf(id)).document.layers;
    expect(fill!.how.mode).toBe('divide');
    expect((fill!.what.settings as { colour: number[] }).colour[0]).toBe(1);
  });

  it('takes violet shadows from white cloth while its light is held, and says what moved', async () => {
    const { at } = await openOwn(page, 'throw-cast.jpg');
    await pin(at, '31 × 31', [740, 700], [260, 700]);
    await desk().getByText('Hold', { exact: true }).click();
    await line('Reading A').getByRole('button', { name: 'Reading A', exact: true }).click();
    await typeTarget('Reading A', 'lab(63 4 5)');
    await choose('Match by…', 'Colour balance');
    await sees(/A: \d+\.\d → [01]\.\d\.$/);
    await kept(page);
    const [before, after, reference] = await Promise.all([demo('photographs/throw-cast.jpg'), (await handOver(page, 'PNG', '16 bit')).bytes, demo('references/throw-cast-neutral.jpg')].map(pixels16)); // prettier-ignore
    const mask = await truth('throw-cast.throw');
    const [was, is] = [before!, after!].map((pixels) => meanDifference(pixels, reference!, mask));
    console.log(`match on throw-cast: ${was!.toFixed(2)} → ${is!.toFixed(2)}`);
    expect(is).toBeLessThan(6);
  });
});

describe('warnings', () => {
  it('notes what is newly clipped, stripes it, eases the layer that does it, and is put away', async () => {
    const { id, at } = await openOwn(page, 'enamel-red.jpg');
    await addLayer(page, 'Exposure');
    await addLayer(page);
    await setNumber(page, 'Saturation', 70);
    const notes = page.getByRole('button', { name: /^Notes: [1-9]/ });
    await notes.waitFor();
    await page.getByRole('main').focus();
    await page.keyboard.press('1');
    const plain = await colourAt(page, at(760, 640));
    await notes.click();
    const dialog = page.getByRole('dialog', { name: 'Notes' });
    const line = dialog.getByRole('listitem').filter({ hasText: 'newly clipped' });
    const share = async (): Promise<number> => Number(/^(\d+(?:\.\d)?) %/.exec(await line.innerText())![1]);
    const before = await share();
    expect(before).toBeGreaterThan(2);
    await line.getByRole('button', { name: 'Show' }).click();
    await dialog.waitFor({ state: 'detached' });
    // Stripes of black and white where it is red.
    const seen = async (): Promise<Set<string>> => {
      const colours = new Set<string>();
      const [x, y] = at(760, 640);
      for (let i = 0; i < 12; i++) colours.add((await colourAt(page, [x + i, y])).join());
      return colours;
    };
    await expect.poll(async () => [...(await seen())].every((colour) => ['0,0,0', '255,255,255'].includes(colour))).toBe(true);
    expect((await seen()).size).toBe(2);
    await page.getByRole('button', { name: 'Newly clipped pixels are marked: stop' }).click();
    await expect.poll(() => colourAt(page, at(760, 640))).toEqual(plain);

    // The saturation is behind it, not the layer below.
    await notes.click();
    await line.getByRole('button', { name: 'Ease the layer' }).click();
    await sees('is at 50 % now.');
    await kept(page);
    expect((await editOf(id)).document.layers.map(({ how }) => how.opacity)).toEqual([1, 0.5]);
    await expect.poll(share, { timeout: 30_000 }).toBeLessThan(before);
    const count = await dialog.getByRole('listitem').count();
    await line.getByRole('button', { name: 'Put away' }).click();
    await expect.poll(() => dialog.getByRole('listitem').count()).toBe(count - 1);
    await page.keyboard.press('Escape');
    await page.reload();
    await page.locator('main[data-painted=true]').waitFor();
    await page.getByRole('button', { name: `Notes: ${count - 1}` }).waitFor();
    await page.getByRole('button', { name: `Notes: ${count - 1}` }).click();
    await dialog.getByRole('button', { name: 'Bring the one put away back' }).click();
    await expect.poll(() => dialog.getByRole('listitem').count()).toBe(count);
    await page.keyboard.press('Escape');
  });

  it('shows a difference as ΔE00, and the tones of what is there with their ends', async () => {
    const { at } = await openOwn(page, 'pinafore.jpg');
    await addLayer(page, 'Exposure');
    await setNumber(page, 'Exposure', 0.3);
    await pin(at, '5 × 5', [700, 900]);
    await page.getByRole('button', { name: 'How readings are shown, and more' }).click();
    await page.getByRole('menuitem', { name: 'Lab' }).click();
    const [before, after] = [await numbers('Reading A', 'before'), await numbers('Reading A', 'after')];
    await expect.poll(async () => (await numbers('Reading A', 'after'))[0]! - before[0]!).toBeGreaterThan(0.5);
    const lab = ([l, a, b]: number[]): Lab => ({ l: l!, a: a!, b: b! });
    const off = deltaE2000(lab(before), lab(await numbers('Reading A', 'after')));
    expect(after).toHaveLength(3);
    await page.getByRole('main').focus();
    await page.keyboard.press('a');
    await page.keyboard.press('Shift+E');
    await page.getByRole('radio', { name: 'ΔE00' }).click();
    // Beside the ring, where the cloth is the same: white stands for 10.
    await expect.poll(async () => Math.abs((await colourAt(page, at(740, 930)))[0]! - off * 25.5)).toBeLessThan(28);
    const [r, g, b] = await colourAt(page, at(740, 930));
    expect([g, b]).toEqual([r, r]);
    await page.keyboard.press('Shift+E');

    await page.getByRole('button', { name: 'Hues', exact: true }).click();
    await page.getByRole('button', { name: 'Histogram' }).click();
    const tones = page.getByRole('img', { name: /^Tones of red, green, blue and luminosity/ });
    await tones.waitFor();
    await page.getByRole('radiogroup', { name: 'Whose tones' }).getByRole('radio', { name: 'Result' }).click();
    await setNumber(page, 'Exposure', 3);
    await page.getByRole('img', { name: /; in \d+(\.\d)? % a channel is at its upper end$/ }).waitFor();
    await page.getByRole('button', { name: 'Hue census' }).click();
    expectNoComplaints(complaints);
  });
});
