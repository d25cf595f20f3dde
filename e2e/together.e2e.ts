/** What holds together: brackets and live links in masks, shared settings; what is compared, pointed at, and taken from elsewhere. */
import { fileURLToPath } from 'node:url';
import type { PaintSettings } from '@umbo/core/content';
import type { Layer } from '@umbo/core/document';
import type { BracketPart, BrushPart, MaskPart } from '@umbo/core/mask';
import type { Browser, BrowserContext, Page } from 'playwright-core';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  addLayer,
  addPart,
  colourAt,
  compare,
  drag,
  editOf,
  eventually,
  expectNoComplaints,
  hueSaturation,
  kept,
  launch,
  newPage,
  ownShoot,
  selectLayers,
  setColour,
  setNumber,
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

const openOwn = ownShoot('Together');
const open = (name: string) => openOwn(page, name);
const layersOf = async (id: number): Promise<Layer[]> => {
  await kept(page);
  return (await editOf(id)).document.layers;
};
const press = async (...keys: string[]): Promise<void> => {
  await page.getByRole('main').focus();
  for (const key of keys) await page.keyboard.press(key);
};
const choose = async (button: string, item: string): Promise<void> => {
  await page.getByRole('button', { name: button, exact: true }).first().click();
  await page.getByRole('menuitem', { name: item, exact: true }).first().click();
};
const grey = ([r, g, b]: number[]): boolean => Math.max(r!, g!, b!) - Math.min(r!, g!, b!) < 12;

describe('masks', () => {
  it('hold brackets: the same, narrower, cut away, then painted; what is added goes where the part in work stands', async () => {
    const { id, at } = await open('vases.jpg');
    await addLayer(page);
    await addPart(page, 'Luminosity');
    await choose('More for this part', 'The same, narrower, cut away');
    // The narrower one is in work, and set as any part is.
    await setNumber(page, 'Grade', 4);
    await page.getByRole('button', { name: 'Bracket', exact: true }).click();
    await setNumber(page, 'Own feather', 6);
    // Another part, beside the brackets: from the whole mask, not from within.
    await choose('More for this part', 'Copy');
    await page.keyboard.press('Control+z');
    await press('d');
    await drag(page, [at(700, 500), at(800, 520)]);
    const [bracket, ...others] = (await layersOf(id))[0]!.where.parts as [BracketPart, ...MaskPart[]];
    expect(others).toEqual([]);
    const inside = bracket.mask.parts as MaskPart[];
    expect(inside.map(({ kind, combine }) => `${combine} ${kind}`)).toEqual(['add luminosity', 'cut luminosity', 'common brush']);
    expect(inside.slice(0, 2).map((part) => (part as { grade?: number }).grade)).toEqual([1, 4]);
    expect(bracket.mask.refine).toEqual([{ kind: 'feather', radius: 6 }]);
    await page.getByRole('button', { name: 'Bracket', exact: true }).click();
    await choose('More for this part', 'Take the brackets away');
    await expect.poll(async () => (await layersOf(id))[0]!.where.parts.length).toBe(3);
    expectNoComplaints(complaints);
  });

  it('stand in each other, live: a zone of a mask is painted within it, and follows it; brushes paint through it', async () => {
    const { id, at } = await open('enamel-red.jpg');
    await addLayer(page, 'Exposure');
    await setNumber(page, 'Exposure', 0.3);
    await press('m');
    await page.mouse.click(...at(640, 560));
    await page.getByRole('button', { name: /^Pick/, pressed: true }).waitFor();
    await addLayer(page, 'Black & white');
    await page.getByRole('button', { name: 'mask of…' }).click();
    await page
      .getByRole('group', { name: /Add as a part, live/ })
      .getByRole('menuitem', { name: 'Exposure 1' })
      .click();
    await page.getByText('Live: the mask of Exposure 1').waitFor();
    // What is painted stays within it, without being told.
    await press('d');
    expect(await page.getByRole('group', { name: 'Tool settings' }).textContent()).toContain('stays within');
    await drag(page, [at(300, 560), at(900, 560)]);
    const [live, brush] = (await layersOf(id))[1]!.where.parts as [BracketPart, BrushPart];
    expect([live.mask.link, brush.combine]).toEqual([(await layersOf(id))[0]!.id, 'common']);
    await press('1');
    await eventually(page, at(640, 560), ([r, g]) => r! - g! < 40);
    expect(grey(await colourAt(page, at(330, 560)))).toBe(false); // painted, but not in the mask
    // A loop is refused with a sentence.
    await selectLayers(page, 'Exposure 1');
    await page.getByRole('button', { name: 'mask of…' }).click();
    await page
      .getByRole('group', { name: /Add as a part, live/ })
      .getByRole('menuitem')
      .click();
    await page.getByRole('status').filter({ hasText: 'they would wait for each other' }).waitFor();
    // The giver is inverted part by part: what follows it follows at once.
    await page.getByRole('button', { name: /^Pick, 1/ }).click();
    await page.getByRole('button', { name: 'Invert this part' }).click();
    await eventually(page, at(330, 560), grey);
    await press('Delete');
    await page.getByRole('row', { name: 'Exposure 1', exact: true }).waitFor({ state: 'detached' });
    const left = (await layersOf(id))[0]!.where.parts[0] as BracketPart;
    expect([left.mask.link, (left.mask.parts as MaskPart[]).map(({ kind }) => kind)]).toEqual([undefined, ['pick']]);
    // A brush through a mask: live, and then as a copy.
    await addLayer(page, 'Exposure');
    await press('d');
    await drag(page, [at(900, 300), at(1000, 300)]);
    await page.getByRole('button', { name: 'Through…' }).click();
    await page.getByRole('group', { name: 'Live, the mask of' }).getByRole('menuitem', { name: 'Black & white 1' }).click();
    await page.getByRole('button', { name: 'Make it a copy' }).click();
    const painted = (await layersOf(id))[1]!.where.parts[0] as BrushPart;
    expect([painted.through!.link, painted.through!.parts.length]).toEqual([undefined, 2]);
    expectNoComplaints(complaints);
  });

  it('are drawn and typed: the half of a gradient and the softness of an ellipse are handles, angle and place numbers', async () => {
    const { id } = await open('stool.jpg');
    await addLayer(page);
    await addPart(page, 'Linear gradient');
    await setNumber(page, 'Angle', 30);
    await page.getByRole('button', { name: 'Gradient mask is half' }).focus();
    for (let i = 0; i < 4; i++) await page.keyboard.press('Shift+ArrowDown');
    await addPart(page, 'Ellipse');
    await setNumber(page, 'Width', 400);
    await page.getByRole('button', { name: 'Ellipse’s softness' }).focus();
    await page.keyboard.press('Shift+ArrowLeft');
    const [gradient, ellipse] = (await layersOf(id))[0]!.where.parts as [
      Extract<MaskPart, { kind: 'gradient' }>,
      Extract<MaskPart, { kind: 'ellipse' }>,
    ];
    const angle = (Math.atan2(gradient.to.y - gradient.from.y, gradient.to.x - gradient.from.x) * 180) / Math.PI;
    expect(angle).toBeCloseTo(30, 1);
    expect(gradient.middle).toBeGreaterThan(0.5);
    expect([ellipse.rx, ellipse.soft < 50]).toEqual([200, true]);
    expectNoComplaints(complaints);
  });
});

describe('settings', () => {
  it('are shared by layers of one kind from the moment it is asked for, until it is not', async () => {
    const { id } = await open('garden-1.jpg');
    await addLayer(page);
    await setNumber(page, 'Saturation', -20);
    await addLayer(page);
    await choose('same settings as…', 'Layer 1');
    await page.getByText('Same settings as Layer 1', { exact: true }).waitFor();
    await setNumber(page, 'Hue', 12);
    expect((await layersOf(id)).map(({ what }) => [hueSaturation(what).hue, hueSaturation(what).saturation])).toEqual([
      [12, -20],
      [12, -20],
    ]);
    await page.keyboard.press('Control+z');
    expect((await layersOf(id)).map(({ what }) => hueSaturation(what).hue)).toEqual([0, 0]);
    await page.getByRole('button', { name: 'Settings of its own' }).click();
    await setNumber(page, 'Hue', 30);
    expect((await layersOf(id)).map(({ what }) => hueSaturation(what).hue)).toEqual([0, 30]);
    expectNoComplaints(complaints);
  });
});

describe('colours', () => {
  it('that are painted are changed live, in the list and on the photograph, and stop at edges where they are to', async () => {
    const { id, at } = await open('vases.jpg');
    await addLayer(page, 'Paint');
    await setColour(page, 'Paint colour', '#c03020');
    await setNumber(page, 'Only alike', 12);
    await drag(page, [at(300, 200), at(420, 210)]);
    const strokes = async (): Promise<PaintSettings['strokes']> => ((await layersOf(id)).at(-1)!.what.settings as PaintSettings).strokes;
    expect((await strokes())[0]!.alike).toBe(12);
    await page.getByRole('button', { name: 'Painted colour #C03020' }).click();
    const field = page.getByRole('group', { name: 'Painted colour: hue' });
    await field.focus();
    for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowUp');
    await page.keyboard.press('Escape');
    const [r, g, b] = (await strokes())[0]!.colour;
    expect(g! > r! && g! > b!, `${r} ${g} ${b}`).toBe(true);
    // Pulled where it was painted.
    await press('p');
    await page.getByRole('button', { name: /What a pull changes/ }).click();
    await page.getByRole('option', { name: 'Lightness' }).click();
    await drag(page, [at(360, 205), at(300, 205), at(200, 205)]);
    await expect.poll(async () => (await strokes())[0]!.colour[1]).toBeLessThan(g! - 0.05);
    // A swatch is named by typing at once.
    await page.getByRole('button', { name: 'Keep the colour as a swatch' }).click();
    await page.getByRole('textbox', { name: 'Name of the new swatch' }).waitFor();
    await page.keyboard.type('Brick');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Brick', exact: true }).waitFor();
    await press('d');
    await setNumber(page, 'Only alike', 0);
    expectNoComplaints(complaints);
  });

  it('are taken from a picture that is no photograph of the shoot, at any zoom', async () => {
    const made = await sharp({ create: { width: 60, height: 40, channels: 3, background: '#2f7d4a' } })
      .png()
      .toBuffer();
    await open('fruit.jpg');
    await addLayer(page, 'Fill');
    await press('b');
    await page.getByLabel('A picture as a reference').setInputFiles({ name: 'card.png', mimeType: 'image/png', buffer: made });
    await page.getByRole('img', { name: 'Reference card.png' }).waitFor();
    await page.getByRole('button', { name: 'Larger card.png' }).click();
    await page.getByRole('button', { name: 'Float card.png' }).click();
    await page.getByRole('img', { name: 'Reference card.png' }).click();
    await expect.poll(() => page.getByRole('textbox', { name: 'Fill colour, hexadecimal' }).inputValue()).toBe('#2F7D4A');
    await page.getByLabel('A picture as a reference').setInputFiles(fileURLToPath(import.meta.url));
    await page.getByRole('status').filter({ hasText: 'is not a picture that the browser can read' }).waitFor();
    await press('b');
    expectNoComplaints(complaints);
  });
});

describe('the stage', () => {
  it('lights up what a histogram or a range is pointed at, and puts it out again', async () => {
    const { at } = await open('vases.jpg');
    await addLayer(page, 'Hue & saturation');
    await page.getByRole('button', { name: 'blue', exact: true }).click();
    const blue = await colourAt(page, at(880, 480));
    expect(blue[2]! - blue[0]!).toBeGreaterThan(40);
    // While a range's handle moves, what it catches shows.
    const handle = page.getByRole('slider', { name: 'Hues changed, outer end' });
    const box = (await handle.boundingBox())!;
    await page.mouse.move(box.x + 4, box.y + 6);
    await page.mouse.down();
    await page.mouse.move(box.x + 10, box.y + 6, { steps: 3 });
    await eventually(page, at(620, 650), grey); // the green vase is no blue
    expect(grey(await colourAt(page, at(880, 480)))).toBe(false);
    await page.mouse.up();
    await eventually(page, at(620, 650), (colour) => !grey(colour));
    // A census that the pointer rests on.
    await page.getByRole('button', { name: 'Hues', exact: true }).click();
    const census = (await page.getByRole('img', { name: 'Which hues there are, by amount' }).boundingBox())!;
    await page.mouse.move(census.x + census.width * 0.88, census.y + 20);
    await eventually(page, at(880, 480), grey);
    await page.mouse.move(640, 300);
    await eventually(page, at(880, 480), (colour) => !grey(colour));
    expectNoComplaints(complaints);
  });

  it('compares any two: another photograph, a version, the stack up to a layer; and has them blink', async () => {
    const { at } = await open('garden-2.jpg');
    await addLayer(page, 'Invert');
    await page.getByRole('button', { name: 'Versions', exact: true }).click();
    await page.getByRole('button', { name: 'Keep a version…' }).click();
    await page.getByRole('textbox', { name: 'Name' }).fill('Inverted');
    await page.getByRole('button', { name: 'Keep', exact: true }).click();
    await page.getByRole('button', { name: 'More about Inverted' }).waitFor();
    await press('Delete');
    const place = at(700, 1000);
    const plain = await colourAt(page, place);
    // The version against itself differs nowhere; the version against the photograph does.
    await compare(page, 'Difference');
    const against = async (label: string, option: string): Promise<void> => {
      await page.getByRole('button', { name: label }).click();
      await page.getByRole('option', { name: option, exact: true }).click();
    };
    await against('What is compared', 'Inverted');
    await eventually(page, place, (colour) => Math.max(...colour) > 40);
    await against('Compare with', 'Inverted');
    await eventually(page, place, (colour) => Math.max(...colour) < 3);
    await against('What is compared', 'The result');
    await against('Compare with', 'vases.jpg');
    await compare(page, 'Before');
    await eventually(page, place, (colour) => Math.abs(colour[0]! - plain[0]!) + Math.abs(colour[2]! - plain[2]!) > 12);
    // A version that takes its time does not change what was chosen meanwhile.
    await page.route('**/api/versions/*', async (route) => {
      await new Promise((resolve) => setTimeout(resolve, 1500));
      await route.continue();
    });
    await against('Compare with', 'Inverted');
    await compare(page, 'Blink');
    const isInverted = (colour: number[]): boolean => Math.abs(colour[1]! - (255 - plain[1]!)) < 4;
    await eventually(page, place, isInverted);
    await eventually(page, place, (colour) => Math.abs(colour[1]! - plain[1]!) < 4);
    await eventually(page, place, isInverted);
    await compare(page, 'After');
    await eventually(page, place, (colour) => Math.abs(colour[1]! - plain[1]!) < 4);
    await page.unroute('**/api/versions/*');
    expectNoComplaints(complaints);
  });
});
