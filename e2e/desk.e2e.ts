/** The desk and the tools over long days: what is set where, what is remembered, what becomes of layers that are added, hidden, carried. */
import type { BrushPart, MaskPart } from '@umbo/core/mask';
import { rgbToOklch, srgb, type Colour } from '@umbo/core/colour';
import type { Layer } from '@umbo/core/document';
import type { Browser, BrowserContext, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  addLayer,
  addPart,
  colourAt,
  drag,
  editOf,
  eventually,
  expectNoComplaints,
  kept,
  launch,
  newPage,
  openBench,
  ownShoot,
  selectLayers,
  setNumber,
  violations,
} from './harness.ts';

type EllipsePart = Extract<MaskPart, { kind: 'ellipse' }>;
type GradientPart = Extract<MaskPart, { kind: 'gradient' }>;

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

const openOwn = ownShoot('Desk');
const open = (name: string) => openOwn(page, name);
const layersOf = async (id: number): Promise<Layer[]> => {
  await kept(page);
  return (await editOf(id)).document.layers;
};
const press = async (...keys: string[]): Promise<void> => {
  await page.getByRole('main').focus();
  for (const key of keys) await page.keyboard.press(key);
};
const inHand = (tool: string): Promise<string | null> => page.getByRole('radio', { name: tool, exact: true }).getAttribute('aria-checked');
const strip = () => page.getByRole('group', { name: 'Tool settings' });
const sees = (words: string | RegExp): Promise<void> => page.getByRole('status').filter({ hasText: words }).first().waitFor();

describe('tools', () => {
  it('that make a part are always there, say how it joins, and draw it by one drag', async () => {
    const { id, at } = await open('garden-1.jpg');
    await addLayer(page);
    await press('o');
    expect(await inHand('Outline')).toBe('true');
    expect(await strip().textContent()).toContain('begins the mask');
    // Down to the right, held to whole steps of 15°, as long as the drag.
    await press('Shift+O');
    await page.keyboard.down('Shift');
    await drag(page, [at(400, 300), at(500, 500), at(520, 840)]);
    await page.keyboard.up('Shift');
    await press('Shift+O', 'Shift+O');
    expect(await strip().textContent()).toContain('adds to Linear gradient');
    await drag(page, [at(600, 700), at(700, 900), at(1000, 1300)]);
    await press('m');
    await page.mouse.click(...at(800, 1000));
    await page.getByRole('button', { name: /^Pick/, pressed: true }).waitFor();
    const [gradient, ellipse, pick] = (await layersOf(id))[0]!.where.parts as [
      GradientPart,
      EllipsePart,
      { combine: string; kind: string },
    ];
    const [dx, dy] = [gradient.to.x - gradient.from.x, gradient.to.y - gradient.from.y];
    const steps = (Math.atan2(dy, dx) * 12) / Math.PI;
    expect(steps).toBeCloseTo(Math.round(steps), 2);
    expect(Math.abs(Math.hypot(dx, dy) - Math.hypot(120, 540))).toBeLessThan(8);
    expect(
      Math.max(Math.abs(ellipse.x - 800), Math.abs(ellipse.y - 1000), Math.abs(ellipse.rx - 200), Math.abs(ellipse.ry - 300)),
    ).toBeLessThan(8);
    expect([ellipse.combine, pick.kind, pick.combine]).toEqual(['add', 'pick', 'common']);

    // What the next stroke does is said, and can be chosen.
    await press('d');
    await page.getByRole('button', { name: /How it joins the mask/ }).click();
    await page.getByRole('option', { name: 'cuts from the mask, as a part of its own' }).click();
    await drag(page, [at(500, 800), at(600, 800)]);
    await drag(page, [at(500, 840), at(600, 840)]);
    const brush = (await layersOf(id))[0]!.where.parts[3] as BrushPart;
    expect([brush.combine, brush.strokes.length]).toEqual(['cut', 2]);
    expect(await strip().textContent()).toContain('goes on in Brush, 2 strokes');
    // The part in work alone is moved; with Ctrl all that have a place.
    await press('j');
    await drag(page, [at(700, 700), at(740, 700), at(800, 700)]);
    await page.keyboard.down('Control');
    await drag(page, [at(700, 700), at(700, 740), at(700, 800)]);
    await page.keyboard.up('Control');
    const [moved, , , stroked] = (await layersOf(id))[0]!.where.parts as [GradientPart, EllipsePart, object, BrushPart];
    expect([moved.from.x - gradient.from.x, moved.from.y - gradient.from.y].map(Math.round)).toEqual([0, expect.closeTo(100, -1)]);
    const [x0, y0] = brush.strokes[0]!.points;
    expect(Math.abs(stroked.strokes[0]!.points[0]! - x0! - 100) + Math.abs(stroked.strokes[0]!.points[1]! - y0! - 100)).toBeLessThan(16);
    expectNoComplaints(complaints);
  });

  it('D paints on a new layer, brushes are as they were left, and there are settings before the first stroke', async () => {
    const { id, at } = await open('garden-2.jpg');
    await press('n', 'd');
    await setNumber(page, 'Brush size', 210);
    await setNumber(page, 'Flow', 100);
    await setNumber(page, 'Most that a stroke covers', 60);
    await press('n', 'd');
    expect(await inHand('Paint')).toBe('true');
    await drag(page, [at(600, 700), at(700, 800)]);
    await press('d');
    expect(await inHand('Erase')).toBe('true');
    await addPart(page, 'Brush');
    expect(await inHand('Erase')).toBe('true');
    await press('Control+z', 'd');
    await kept(page);
    const where = (await layersOf(id)).at(-1)!.where;
    expect((where.parts[0] as BrushPart).strokes[0]).toMatchObject({ size: 210, flow: 1, opacity: 0.6 });

    await press(',', '9');
    await page.reload();
    await page.locator('main[data-painted=true]').waitFor();
    await press('d');
    expect(await page.getByRole('textbox', { name: 'Brush size, number' }).inputValue()).toBe('210 px');
    // Folded away it is out of the way of keys and readers, too.
    await expect.poll(() => page.getByRole('complementary', { name: 'Readings and history' }).count()).toBe(0);
    expect((await page.getByRole('row').first().boundingBox())!.height).toBeLessThan(60);
    await press('0'); // what is not folded yet is folded, too
    await expect.poll(async () => Math.round((await page.getByRole('main').boundingBox())!.width)).toBe(1280);
    await press('0');
    await expect.poll(async () => Math.round((await page.getByRole('main').boundingBox())!.width)).toBe(736);
    const bar = (await page.getByRole('separator', { name: 'Width of the desk' }).boundingBox())!;
    await drag(page, [
      [bar.x, bar.y + 200],
      [bar.x - 60, bar.y + 200],
      [bar.x - 100, bar.y + 200],
    ]);
    await page.reload();
    await page.locator('main[data-painted=true]').waitFor();
    await expect.poll(async () => Math.round((await page.getByRole('main').boundingBox())!.width)).toBeLessThan(650);
    expectNoComplaints(complaints);
  });
});

describe('the desk', () => {
  it('folds to a line each, eases by keys, shows a layer without its mask, and folds runs in its history', async () => {
    const { id, at } = await open('garden-3.jpg');
    await addLayer(page, 'Exposure');
    await setNumber(page, 'Exposure', 2);
    await press('d');
    for (const y of [700, 760, 820]) await drag(page, [at(600, y), at(700, y)]);
    await press('7', '7', '7', '8');
    const probe = at(200, 200);
    const before = await colourAt(page, probe);
    await press('6');
    await sees('“Exposure 1” without its mask');
    await eventually(page, probe, (colour) => colour[0]! > before[0]! + 8);
    await press('6');
    await eventually(page, probe, (colour) => colour.every((v, i) => Math.abs(v - before[i]!) < 3));

    await page.getByRole('row', { name: 'Exposure 1' }).dblclick();
    await page.getByRole('dialog').getByRole('textbox').fill('Window');
    await page.keyboard.press('Enter');
    await kept(page);
    const list = page.getByRole('list', { name: 'History' });
    expect((await list.getByRole('button').allInnerTexts()).filter((text) => text !== '')).toEqual([
      'Photograph as it came',
      'New layer Window',
      expect.stringMatching(/^Exposure \+2.* on Window$/),
      'Paint on Window, 3 strokes',
      'Opacity 90 % on Window, 4 times',
      'Name Window',
    ]);
    expect((await layersOf(id))[0]!.how.opacity).toBe(0.9);
    await page.getByRole('button', { name: 'Steps of Paint on Window, 3 strokes' }).click();
    await list.getByRole('button', { name: 'Paint on Window', exact: true }).first().click();
    await expect.poll(async () => ((await layersOf(id))[0]!.where.parts[0] as BrushPart).strokes.length).toBe(1);
    await press('Control+Shift+Z', 'Control+Shift+Z');

    await page.getByRole('button', { name: /^Where Brush, / }).click();
    expect(await page.getByRole('region', { name: 'Where' }).count()).toBe(0);
    await addLayer(page, 'Exposure');
    expect(await page.getByRole('region', { name: 'Where' }).count()).toBe(0); // as it was left for this kind
    await page.getByRole('button', { name: 'Where the whole photograph' }).click();
    await page.getByRole('button', { name: /^How / }).click();
    expect(await violations(page)).toEqual([]);

    // What has the keys gives them back.
    await page.getByRole('button', { name: /^Strength of the whole edit/ }).click();
    await setNumber(page, 'Whole edit', 80);
    await page.keyboard.press('Escape');
    await page.keyboard.press('n');
    await expect.poll(async () => (await layersOf(id)).length).toBe(3);
    expectNoComplaints(complaints);
  });

  it('turns the one hue of a colourised layer by a pull, chooses by a press, sets families together, derives ramps anew', async () => {
    const { id, at } = await open('fruit.jpg');
    await addLayer(page);
    await press('p');
    await page.mouse.click(...at(500, 500));
    await expect
      .poll(() => page.getByRole('group', { name: 'Which hues' }).locator('[aria-pressed=true]').textContent())
      .not.toBe('all hues');
    const family = await page.getByRole('group', { name: 'Which hues' }).locator('[aria-pressed=true]').textContent();
    await kept(page);
    expect((await editOf(id)).labels).toEqual(['New layer Layer 1']);
    await page.reload();
    await page.locator('main[data-painted=true]').waitFor();
    expect(await page.getByRole('group', { name: 'Which hues' }).locator('[aria-pressed=true]').textContent()).toBe(family);
    await page.getByRole('button', { name: 'all hues', exact: true }).click();
    await page.getByText('One hue').click();
    await press('p');
    await drag(page, [at(500, 500), at(560, 500), at(700, 500)]);
    await expect
      .poll(async () => (await layersOf(id))[0]!.what.settings)
      .toMatchObject({ colouriseHue: expect.not.closeTo(30, 0), hue: 0 });

    await addLayer(page, 'Colour families');
    await page.getByRole('button', { name: 'Reds', exact: true }).click();
    await page.getByRole('button', { name: 'Oranges', exact: true }).click();
    await setNumber(page, 'All but reds, oranges, saturation', -60);
    const families = (await layersOf(id))[1]!.what.settings as Record<string, number>;
    expect(Object.entries(families).filter(([, v]) => v !== 0)).toHaveLength(6);
    expect([families.redSaturation, families.greenSaturation]).toEqual([0, -60]);
    expect((await editOf(id)).labels.at(-1)).toBe('Saturation of all but reds, oranges −60 on Colour families 1');

    await addLayer(page, 'Even-out ramp');
    await page.getByRole('button', { name: 'Derive the ramp' }).click();
    await page.getByRole('button', { name: 'Derive it anew' }).waitFor();
    const derived = (await layersOf(id))[2]!.what.settings as { driver: string; colours: unknown };
    await page.getByRole('button', { name: /Driven by/ }).click();
    await page.getByRole('option', { name: 'Blue' }).click();
    await expect.poll(async () => ((await layersOf(id))[2]!.what.settings as typeof derived).driver).toBe('blue');
    expect(((await layersOf(id))[2]!.what.settings as typeof derived).colours).not.toEqual(derived.colours);
    expectNoComplaints(complaints);
  });
});

describe('colours', () => {
  it('are chosen by eye, typed as CSS writes them, and kept with those chosen last; curves begin with one of some', async () => {
    const { id } = await open('enamel-red.jpg');
    await addLayer(page, 'Fill');
    const typed = page.getByRole('textbox', { name: 'Fill colour, hexadecimal' });
    await typed.fill('oklch(60% 0.1 200)');
    await typed.press('Enter');
    expect(await typed.inputValue()).toBe('#0D9298');
    await page.getByRole('button', { name: 'Choose the fill colour by eye' }).click();
    const plane = page.getByRole('group', { name: 'Fill colour: chroma and lightness' });
    expect(await violations(page, '[role=dialog]')).toEqual([]);
    await plane.focus();
    await page.keyboard.press('Shift+ArrowUp'); // a tenth lighter, at the same hue and chroma
    const box = (await page.getByRole('group', { name: 'Fill colour: hue' }).boundingBox())!;
    await drag(page, [
      [box.x + 8, box.y + box.height / 2],
      [box.x + 8, box.y + box.height * 0.85],
      [box.x + 8, box.y + box.height * 0.9],
    ]);
    await page.getByRole('button', { name: 'Back to #0D9298' }).waitFor();
    await kept(page);
    const { colour } = (await layersOf(id))[0]!.what.settings as { colour: Colour };
    const { l, h } = rgbToOklch(srgb, ...colour);
    expect([l, h]).toEqual([expect.closeTo(0.7, 2), expect.closeTo(36, -1)]);
    expect(await page.getByRole('group', { name: 'Colours chosen last' }).getByRole('button').count()).toBe(3);
    await page.keyboard.press('Escape');

    await addLayer(page, 'Curves');
    await page.getByRole('button', { name: 'Begin with…' }).click();
    await page.getByRole('menuitem', { name: 'Firmer contrast' }).click();
    await expect
      .poll(async () => (await layersOf(id))[1]!.what.settings)
      .toMatchObject({
        rgb: [
          [0, 0],
          [0.25, 0.19],
          [0.75, 0.81],
          [1, 1],
        ],
      });
    expectNoComplaints(complaints);
  });
});

describe('layers', () => {
  it('go where they are looked for, are switched together, and say when they do not show', async () => {
    const { id } = await open('vases.jpg');
    await addLayer(page, 'Group');
    await addLayer(page, 'Exposure');
    expect((await layersOf(id)).map(({ name, what }) => [name, 'layers' in what ? what.layers.length : -1])).toEqual([['Group 1', 1]]);
    await selectLayers(page, 'Exposure 1');
    await page.getByRole('button', { name: 'More about Exposure 1' }).click();
    await page.getByRole('menuitem', { name: 'Make colourways of it' }).click();
    await selectLayers(page, 'Exposure 1 2');
    // Selected is shown; added beside it, a layer is none of the alternatives.
    const set = async (): Promise<Layer> => {
      const [group] = await layersOf(id);
      return (group!.what as Extract<Layer['what'], { kind: 'group' }>).layers[0]!;
    };
    const inSet = async (): Promise<string[]> => {
      const { what } = await set();
      return what.kind === 'colourways'
        ? what.layers.map(
            ({ name }) =>
              `${name}${name !== '' && what.layers.find((one) => one.id === what.settings.shown)!.name === name ? ' shown' : ''}`,
          )
        : [];
    };
    await expect.poll(inSet).toEqual(['Exposure 1', 'Exposure 1 2 shown']);
    await addLayer(page, 'Curves');
    await expect.poll(inSet).toEqual(['Exposure 1', 'Exposure 1 2 shown']);
    await press('s');
    await page.getByRole('button', { name: 'Straight' }).waitFor();
    await press('y');
    await sees('does not show: “Curves 1” is switched off');
    await addLayer(page, 'Fill');
    expect(await page.getByRole('row', { name: /^Fill #[0-9A-F]{6}$/ }).count()).toBe(1);
    // As the one worked on.
    await selectLayers(page, 'Exposure 1', 'Curves 1');
    await press('s', 's');
    await kept(page);
    expect((await editOf(id)).labels.slice(-2)).toEqual(['2 layers on', '2 layers off']);
    expectNoComplaints(complaints);
  });

  it('keep their links and the strength of the stack on another photograph; what is there already is asked about', async () => {
    const first = await open('estuary-2.jpg');
    await addLayer(page, 'Exposure');
    await addPart(page, 'Hue range');
    for (const kind of ['Tone', 'Curves']) {
      await addLayer(page, kind);
      await page.getByRole('button', { name: 'mask of…' }).click();
      await page
        .getByRole('menuitem', { name: /^Exposure 1/ })
        .last()
        .click();
    }
    await page.getByRole('row', { name: 'Tone on Exposure 1' }).waitFor();
    await page.getByRole('button', { name: /^Strength of the whole edit/ }).click();
    await setNumber(page, 'Whole edit', 75);
    await page.keyboard.press('Escape');
    await kept(page);
    await press('Control+a', 'Control+c');
    await sees('3 layers are copied');
    // What was said goes by itself.
    await page.getByRole('status').filter({ hasText: '3 layers are copied' }).waitFor({ state: 'detached' });
    const second = await open('estuary-dusk.jpg');
    await press('Control+v');
    await expect.poll(async () => (await layersOf(second.id)).length).toBe(3);
    const carried = (await editOf(second.id)).document;
    expect(carried.strength).toBe(0.75);
    const giver = carried.layers.find(({ where }) => where.link === undefined)!;
    expect(carried.layers.filter(({ where }) => where.link === giver.id)).toHaveLength(2);

    // Changed there and pasted again: replaced where they stand, or added.
    await openBench(page, first.id);
    await setNumber(page, 'Opacity', 40);
    await press('Control+a', 'Control+c');
    await sees('3 layers are copied');
    await openBench(page, second.id);
    await press('Control+v');
    await page.getByRole('dialog', { name: 'These layers are here already' }).getByRole('button', { name: 'Replace' }).click();
    await expect.poll(async () => (await layersOf(second.id)).some(({ how }) => how.opacity === 0.4)).toBe(true);
    const replaced = (await editOf(second.id)).document.layers;
    expect(replaced.map(({ id }) => id)).toEqual(carried.layers.map(({ id }) => id));
    expect(replaced.filter(({ where }) => where.link === giver.id)).toHaveLength(2);
    await press('Control+v');
    await page.getByRole('button', { name: 'Add copies' }).click();
    await expect.poll(async () => (await layersOf(second.id)).length).toBe(6);
    expectNoComplaints(complaints);
  });

  it('come in one action: on the same mask, alike, colour only, as another kind; grouped they share their mask', async () => {
    const { id, at } = await open('smile.jpg');
    // As on a browser that has no kinds to remember.
    await page.evaluate(() => localStorage.clear());
    await openBench(page, id);
    await press('v');
    await page.mouse.click(...at(500, 500));
    await strip()
      .getByText(/^#[0-9A-F]{6}$/)
      .waitFor();
    const hex = (await strip()
      .getByText(/^#[0-9A-F]{6}$/)
      .textContent())!;
    await addLayer(page, 'Fill, colour only');
    await press('d');
    await drag(page, [at(500, 500), at(600, 520)]);
    const also = page.getByRole('group', { name: 'More on the same mask' });
    await also.getByRole('button', { name: 'White balance' }).click();
    await press('Shift+C');
    await selectLayers(page, `Fill ${hex}`);
    await press('Shift+M');
    await page.getByText(`On the mask of “Fill ${hex}”:`).waitFor();
    await page.getByRole('menuitem', { name: 'Exposure', exact: true }).click();
    await page.getByRole('button', { name: /^More about Exposure on/ }).click();
    await page.getByRole('menuitem', { name: 'Change to…' }).click();
    await page.getByText(/^Instead, “Exposure on/).waitFor();
    await page.getByRole('menuitem', { name: 'Tone', exact: true }).click();
    const layers = await layersOf(id);
    const fill = layers[0]!;
    expect(layers.map(({ name, how, what, where }) => [name, what.kind, how.mode, where.link === fill.id])).toEqual([
      [`Fill ${hex}`, 'fill', 'color', false],
      ['Tone 1', 'tone', 'normal', true],
      [`White balance on Fill ${hex}`, 'whiteBalance', 'normal', true],
      ['White balance 1', 'whiteBalance', 'normal', false],
    ]);
    // Each card shows the picture after its layer.
    const canvases = page.getByRole('grid', { name: 'Layers' }).locator('canvas');
    await expect
      .poll(() => canvases.evaluateAll((all) => all.map((one) => (one as HTMLCanvasElement).width > 20)))
      .toEqual([true, true, true, true]);
    await selectLayers(page, `Fill ${hex}`, `White balance on Fill ${hex}`, 'Tone 1');
    await press('h');
    await page.getByRole('row', { name: 'Group 1', exact: true }).waitFor();
    const group = (await layersOf(id)).find(({ what }) => what.kind === 'group')!;
    const inside = (group.what as Extract<Layer['what'], { kind: 'group' }>).layers;
    expect([group.where.parts.length, ...inside.map(({ where }) => where.parts.length + (where.link ? 10 : 0))]).toEqual([1, 0, 0, 0]);
    // What does not fit is counted.
    for (let i = 0; i < 5; i++) await press('n');
    await page.getByRole('button', { name: /^\d+ more before$/ }).click();
    await page.getByRole('button', { name: /^\d+ more after$/ }).waitFor();
    expectNoComplaints(complaints);
  });

  it('wait on the next photograph of the shoot, at the same place', async () => {
    const { id } = await open('vases.jpg');
    await press('g');
    await page.getByText('100 %', { exact: true }).first().waitFor();
    await press('PageDown');
    await page.waitForURL((url) => !url.pathname.endsWith(`/${id}`));
    await page.locator('main[data-painted=true]').waitFor();
    await page.getByText('100 %', { exact: true }).first().waitFor();
    await page.getByRole('button', { name: 'Previous photograph' }).click();
    await page.waitForURL((url) => url.pathname.endsWith(`/${id}`));
    await page.locator('main[data-painted=true]').waitFor();
    expectNoComplaints(complaints);
  });
});
