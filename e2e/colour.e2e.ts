/** Colours beyond sRGB from file to file, printing foreseen, and exposures laid over each other. */
import { crc32 } from 'node:zlib';
import Color from 'colorjs.io';
import { channelWords } from '@umbo/core/colour';
import type { ChannelSettings, JoinedSettings } from '@umbo/core/content';
import sharp from 'sharp';
import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import {
  addLayer,
  base,
  colourAt,
  compare,
  demo,
  editOf,
  eventually,
  expectNoComplaints,
  fitted,
  handOver,
  kept,
  launch,
  newPage,
  openBench,
  photographId,
  pixels16,
  setNumber,
  type Summary,
  violations,
  write,
} from './harness.ts';

const complaints: string[] = [];
let browser: Browser;
let page: Page;
let wide: number;
beforeAll(async () => {
  browser = await launch();
  page = await newPage(await browser.newContext(), complaints);
  const shoot = (await (await write('/api/shoots', { name: 'Wide colour' })).json()) as Summary;
  const response = await fetch(`${base()}/api/shoots/${shoot.id}/photographs?name=wide.png`, {
    method: 'POST',
    headers: { Origin: base(), 'Content-Type': 'application/octet-stream' },
    body: await wideFile(),
  });
  wide = ((await response.json()) as Summary).id;
});
afterAll(() => browser.close());

const size = { width: 240, height: 160 };
/** A teal and a yellow that Display P3 has and sRGB has not, also turned by 30°, side by side. */
const PATCHES = [
  [0.1, 0.7, 0.75],
  [0.9, 0.75, 0.2],
] as const;

/** A PNG of 16 bits that says by its code points that it is in Display P3 (PNG Third Edition, section 11.3.2.6). */
async function wideFile(): Promise<Uint8Array<ArrayBuffer>> {
  const { width, height } = size;
  const pixels = Uint16Array.from({ length: width * height * 3 }, (_, i) => {
    const x = Math.floor(i / 3) % width;
    return Math.round(PATCHES[x < width / 2 ? 0 : 1]![i % 3]! * 65535);
  });
  const png = await sharp(pixels, { raw: { ...size, channels: 3 } })
    .toColourspace('rgb16')
    .png()
    .toBuffer();
  const body = Buffer.from([...Buffer.from('cICP'), 12, 13, 0, 1]);
  const chunk = Buffer.alloc(16);
  chunk.writeUInt32BE(4, 0);
  body.copy(chunk, 4);
  chunk.writeUInt32BE(crc32(body), 12);
  const afterHeader = 8 + 25;
  return new Uint8Array(Buffer.concat([png.subarray(0, afterHeader), chunk, png.subarray(afterHeader)]));
}

const p3 = ([r, g, b]: readonly number[]): Color => new Color('p3', [r!, g!, b!]);
/** A colour of Display P3 with another hue. */
function turned(rgb: readonly number[]): Color {
  const { coords } = p3(rgb).to('oklch');
  return new Color('oklch', [coords[0]!, coords[1]!, (coords[2]! + 30) % 360]);
}
/** The colour in the middle of the left and of the right half of a file. */
async function halves(bytes: Buffer): Promise<number[][]> {
  const pixels = await pixels16(bytes);
  return [0.25, 0.75].map((share) => {
    const at = ((size.height >> 1) * size.width + Math.round(size.width * share)) * 3;
    return [...pixels.slice(at, at + 3)].map((v) => v / 65535);
  });
}

it('a file in Display P3 is worked on there, recoloured without loss, and handed over in it', async () => {
  await openBench(page, wide);
  expect((await editOf(wide)).document.workingSpace).toBe('display-p3');
  // This browser shows sRGB: what is on the stage is the nearest that it has.
  const at = await fitted(page, size);
  const shown = (await colourAt(page, at(60, 80))) as [number, number, number];
  const nearest = p3(PATCHES[0])
    .to('srgb')
    .coords.map((v) => Math.round(Math.min(1, Math.max(0, v!)) * 255));
  for (const [i, v] of nearest.entries()) expect(Math.abs(shown[i]! - v)).toBeLessThanOrEqual(2);

  await addLayer(page);
  await setNumber(page, 'Hue', 30);
  await kept(page);
  await page.getByRole('button', { name: 'Hand over' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Profile' }).click();
  await page.getByRole('option', { name: 'As it is worked on' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click();
  const { bytes } = await handOver(page, 'TIFF', '16 bit');
  for (const [i, got] of (await halves(bytes)).entries()) {
    const wanted = turned(PATCHES[i]!);
    expect(p3(got).deltaE(wanted, '2000')).toBeLessThan(0.5);
  }
});

it('the working space is changed as a step: colours stay, layers too, and undo leads back', async () => {
  const before = await halves((await handOver(page, 'TIFF', '16 bit')).bytes);
  await page.getByRole('button', { name: 'Working space: Display P3' }).click();
  await page.getByRole('button', { name: 'Worked on in' }).click();
  await page.getByRole('option', { name: 'ProPhoto RGB' }).click();
  await page.getByRole('dialog').getByText('ProPhoto RGB holds more').waitFor();
  await page.getByRole('dialog').getByText('Outline what it does not show').click();
  await page.getByText(/% out, up to ΔE/).waitFor();
  await page.getByRole('dialog').getByText('Outline what it does not show').click();
  expect(await violations(page, '[role=dialog]')).toEqual([]);
  await page.keyboard.press('Escape');
  await page.locator('main[data-painted=true]').waitFor();
  await kept(page);
  expect((await editOf(wide)).document.workingSpace).toBe('prophoto-rgb');
  const after = await halves((await handOver(page, 'TIFF', '16 bit')).bytes);
  for (const [i, rgb] of after.entries())
    expect(new Color('prophoto', rgb as [number, number, number]).deltaE(p3(before[i]!), '2000')).toBeLessThan(0.3);
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Working space: Display P3' }).waitFor();
  await kept(page);
  expect((await editOf(wide)).document.workingSpace).toBe('display-p3');

  // Read as sRGB, the same numbers are less saturated colours.
  await page.getByRole('button', { name: 'Working space: Display P3' }).click();
  await page.getByRole('button', { name: 'File read as' }).click();
  await page.getByRole('option', { name: 'sRGB', exact: true }).click();
  await page.keyboard.press('Escape');
  await kept(page);
  const read = await halves((await handOver(page, 'TIFF', '16 bit')).bytes);
  expect(p3(read[0]!).to('oklch').coords[1]).toBeLessThan(p3(before[0]!).to('oklch').coords[1]! - 0.01);
  await page.getByRole('button', { name: 'Undo' }).click();
  await kept(page);
});

it('a soft proof shows what a press makes of it, says how much is out of gamut, and a file is made for it', async () => {
  const at = await fitted(page, size);
  // Inks do not reach the blue: on the stage it is another.
  const bare = turned(PATCHES[0])
    .to('srgb')
    .coords.map((v) => Math.min(1, Math.max(0, v!)) * 255) as [number, number, number];
  const isBare = ([r, g, b]: number[]): boolean => Math.hypot(r! - bare[0], g! - bare[1], b! - bare[2]) < 6;
  await eventually(page, at(20, 20), isBare);
  await page.getByRole('button', { name: 'Proof: off' }).click();
  const dialog = page.getByRole('dialog', { name: 'Soft proof' });
  await page.getByLabel('An ICC profile', { exact: true }).setInputFiles(demo('profiles/umbo-coated.icc'));
  await page.getByRole('button', { name: 'Proof: Umbo made-up coated' }).waitFor({ state: 'attached' });
  await dialog.getByText('Outline what is out of gamut').waitFor();
  expect(await violations(page, '[role=dialog]')).toEqual([]);
  await eventually(page, at(20, 20), (colour) => !isBare(colour));
  await page.getByText(/% out, up to ΔE/).waitFor();
  await dialog.getByRole('button', { name: 'Compare without the proof' }).click();
  await page.keyboard.press('Escape');
  await compare(page, 'Before');
  await eventually(page, at(20, 20), isBare);
  await compare(page, 'After');

  // What is out gives colour until nothing is: as layers that can be changed and undone, and whose masks know the profile by themselves.
  await page.getByRole('button', { name: /^Proof: Umbo/ }).click();
  await page.getByRole('button', { name: 'Bring into gamut' }).click();
  await page.getByText(/were out of Umbo made-up coated, nothing is now/).waitFor();
  await page.keyboard.press('Escape');
  await page.getByText('nothing out of gamut').waitFor();
  await kept(page);
  const added = (await editOf(wide)).document.layers.at(-1)!;
  const [part] = ('layers' in added.what ? added.what.layers[0]! : added).where.parts;
  expect(part).toMatchObject({ kind: 'outOfGamut', gamut: { name: 'Umbo made-up coated', space: 'display-p3' } });
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByText(/% out, up to ΔE/).waitFor();

  await page.getByRole('button', { name: 'Hand over' }).click();
  const asked = page.getByRole('dialog');
  await asked.getByRole('button', { name: 'Profile' }).click();
  await page.getByRole('option', { name: 'Umbo made-up coated' }).click();
  await asked.getByText('Black becomes the darkest there is').waitFor();
  await asked.getByRole('button', { name: 'Close' }).click();
  const { bytes } = await handOver(page, 'TIFF', '8 bit');
  expect(await sharp(bytes).metadata()).toMatchObject({ space: 'cmyk', channels: 4, ...size });
  await page.getByRole('button', { name: /^Proof: Umbo/ }).click();
  await page.getByRole('dialog').getByText('Shown', { exact: true }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Proof: off' }).waitFor();
});

it('a second exposure is laid exactly over the first by one press, and the picture cut to what both cover', async () => {
  const id = await photographId('Kiln-house archive', 'workshop-long.jpg');
  await openBench(page, id);
  await addLayer(page, 'Frame');
  await page.getByRole('button', { name: /choose one Photograph|Photograph choose one/ }).click();
  await page.getByRole('option', { name: 'workshop-short.jpg' }).click();
  await page.getByRole('button', { name: 'Align to the photograph' }).click();
  await page.getByText(/is aligned: \d+ of \d+ places agree/).waitFor();
  await kept(page);
  const { what } = (await editOf(id)).document.layers.at(-1)!;
  const { x, y, rotate, scale } = what.settings as { x: number; y: number; rotate: number; scale: number };
  // demo/CREDITS.md: the long one is moved by dx 6.3, dy -4.1 and turned 0.25 degrees about the centre; so the short one lies on it.
  expect(x).toBeCloseTo(6.3, 0);
  expect(y).toBeCloseTo(-4.1, 0);
  expect(rotate).toBeCloseTo(0.25, 1);
  expect(scale).toBeCloseTo(100, 1);
  // Where the long one is too light, the short one shows: what was blown out is seen.
  const clipped = async (file: string | Buffer): Promise<number> => {
    const pixels = await pixels16(file);
    let count = 0;
    for (let i = 0; i < pixels.length; i += 3) if (Math.min(pixels[i]!, pixels[i + 1]!, pixels[i + 2]!) > 64_800) count++;
    return count / (pixels.length / 3);
  };
  const before = await clipped(demo('photographs/workshop-long.jpg'));
  await page.getByRole('button', { name: 'Blend in its lights' }).click();
  await kept(page);
  expect(before).toBeGreaterThan(0.05);
  expect(await clipped((await handOver(page, 'TIFF', '8 bit')).bytes)).toBeLessThan(before / 20);
  await page.getByRole('button', { name: 'Crop to what both cover' }).click();
  await kept(page);
  const crop = (await editOf(id)).document.geometry?.crop;
  expect(crop!.x).toBeGreaterThan(3);
  expect(crop!.width).toBeLessThan(1440);
  // Fused, each place comes from where it is exposed better; what moved is painted out beside that.
  await page.getByRole('button', { name: 'Fuse', exact: true }).click();
  await kept(page);
  expect(await clipped((await handOver(page, 'TIFF', '8 bit')).bytes)).toBeLessThan(before / 20);
  await page.getByRole('button', { name: 'Paint it out' }).click();
  const at = await fitted(page, { width: crop!.width, height: crop!.height });
  await page.mouse.move(...at(700, 330));
  await page.mouse.down();
  await page.mouse.move(...at(740, 340), { steps: 4 });
  await page.mouse.up();
  await kept(page);
  const { parts } = (await editOf(id)).document.layers.at(-1)!.where;
  expect(parts.map(({ kind, combine }) => [kind, combine])).toEqual([
    ['bracket', 'add'],
    ['brush', 'cut'],
  ]);
  for (let i = 0; i < 7; i++) await page.getByRole('button', { name: 'Undo' }).click();
  await kept(page);
  expect((await editOf(id)).document.layers).toEqual([]);
});

it('frames are chosen, aligned and joined as one layer', async () => {
  const id = await photographId('Kiln-house archive', 'workshop-long.jpg');
  await openBench(page, id);
  await addLayer(page, 'Frames joined');
  const list = page.getByRole('group', { name: 'Joined with this photograph' });
  await list.getByText('workshop-short.jpg').click();
  await page.getByRole('button', { name: 'Align to the photograph' }).click();
  await page.getByText(/is aligned: \d+ of \d+ places agree/).waitFor();
  await page.getByRole('radio', { name: 'Mean' }).click();
  await kept(page);
  const { settings } = (await editOf(id)).document.layers.at(-1)!.what as { settings: JoinedSettings };
  expect(settings.by).toBe('mean');
  expect(settings.frames.map(({ x, y }) => [Math.round(x), Math.round(y)])).toEqual([[6, -4]]);
  // The mean of both, as the server renders it.
  const [joined, long] = [
    await pixels16((await handOver(page, 'TIFF', '8 bit')).bytes),
    await pixels16(demo('photographs/workshop-long.jpg')),
  ];
  const mean = (values: Uint16Array): number => values.reduce((sum, v) => sum + v, 0) / values.length;
  const short = mean(await pixels16(demo('photographs/workshop-short.jpg')));
  expect(Math.abs(mean(joined) - (mean(long) + short) / 2)).toBeLessThan(0.01 * 65535);
  for (let i = 0; i < 4; i++) await page.getByRole('button', { name: 'Undo' }).click();
  await kept(page);
});

it('channels are tried in turn: those with most contrast first, by keys, and in modes', async () => {
  const id = await photographId('Saltings catalogue', 'enamel-red.jpg');
  await openBench(page, id);
  const count = (await editOf(id)).document.layers.length;
  await addLayer(page, 'Channel');
  const tiles = page.getByRole('radiogroup', { name: 'Channels, by contrast' }).getByRole('radio');
  await tiles.first().waitFor();
  const contrasts = async (): Promise<number[]> =>
    (await tiles.evaluateAll((all) => all.map((one) => one.getAttribute('aria-label')!))).map((label) =>
      Number(/contrast ([\d.]+)/.exec(label)![1]),
    );
  const found = await contrasts();
  expect(found).toHaveLength(16);
  expect(found).toEqual([...found].sort((a, b) => b - a));
  expect(await violations(page, 'aside:last-of-type')).toEqual([]);
  const names = await tiles.evaluateAll((all) => all.map((one) => one.getAttribute('aria-label')!.split(',')[0]!));
  const chosen = async (): Promise<string> => {
    const { model, channel } = ((await editOf(id)).document.layers.at(-1)!.what as { settings: ChannelSettings }).settings;
    return channelWords({ model, channel });
  };
  await tiles.nth(2).click();
  await kept(page);
  expect(await chosen()).toBe(names[2]);
  await page.locator('main').focus();
  await page.keyboard.press('Shift+G');
  await page.getByRole('radio', { name: names[3], checked: true }).waitFor();
  await page.keyboard.press('Shift+F');
  await page.getByRole('radio', { name: names[2], checked: true }).waitFor();
  await page.getByRole('radio', { name: 'Overlay', exact: true }).click();
  await kept(page);
  expect((await editOf(id)).document.layers.at(-1)!.how.mode).toBe('overlay');
  for (let i = 0; i < 5; i++) await page.getByRole('button', { name: 'Undo' }).click();
  await kept(page);
  expect((await editOf(id)).document.layers).toHaveLength(count);
});

it('the browser had nothing to complain about', () => expectNoComplaints(complaints));
