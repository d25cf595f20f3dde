/** The stack of layers as it is worked with: groups, points in between, colourways, versions, paint and palettes, shared masks, foreign files. */
import { adjustments } from '@umbo/core/adjust';
import { sources } from '@umbo/core/content';
import {
  adjustmentLayer,
  childrenOf,
  eachLayer,
  emptyDocument,
  everywhere,
  findLayer,
  groupLayer,
  hasPassed,
  sourceLayer,
  type Layer,
  type UmboDocument,
} from '@umbo/core/document';
import { maskPartKind, type BrushPart } from '@umbo/core/mask';
import type { Browser, BrowserContext, Page } from 'playwright-core';
import sharp from 'sharp';
import { readFile } from 'node:fs/promises';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import {
  addLayer,
  addPart,
  base,
  change,
  colourAt,
  databaseId,
  demo,
  drag,
  editOf,
  eventually,
  expectNoComplaints,
  fitted,
  handOver,
  kept,
  launch,
  maskShown,
  more,
  newPage,
  openBench,
  openHow,
  photographs,
  pixels16,
  selectLayers,
  setColour,
  setNumber,
  sha256Of,
  type Summary,
  violations,
  write,
} from './harness.ts';

const complaints: string[] = [];
let browser: Browser;
let context: BrowserContext;
let page: Page;
let shoot: Summary[];

beforeAll(async () => {
  browser = await launch();
  context = await browser.newContext();
  shoot = await photographs('Makers, spring');
});
beforeEach(async () => {
  page = await newPage(context, complaints);
});
afterAll(() => browser.close());

const photo = (name: string): number => shoot.find((candidate) => candidate.name === name)!.id;
const layersOf = async (id: number): Promise<Layer[]> => (await editOf(id)).document.layers;
const sizeOf = async (id: number): Promise<{ width: number; height: number }> =>
  (await (await fetch(`${base()}/api/photographs/${id}`)).json()) as { width: number; height: number };
const near = (colour: readonly number[], wanted: readonly number[], by = 3): boolean =>
  colour.every((v, i) => Math.abs(v - wanted[i]!) <= by);
const menu = async (layer: string, item: string): Promise<void> => {
  await page.getByRole('button', { name: `More about ${layer}`, exact: true }).click();
  await page.getByRole('menuitem', { name: item, exact: true }).click();
};
const rename = async (layer: string, name: string): Promise<void> => {
  await menu(layer, 'Rename…');
  await page.getByRole('dialog').getByRole('textbox').fill(name);
  await page.keyboard.press('Enter');
};
/** A flat fill over everything, of a colour and a name. */
const addFill = async (name: string, hex: string): Promise<void> => {
  await addLayer(page, 'Fill');
  await rename('Fill #808080', name);
  await setColour(page, 'Fill colour', hex);
};
/** What the desk says of a layer's kind. */
const kindWords = ({ what: { kind } }: Layer): string =>
  [...adjustments, ...sources].find((one) => one.kind === kind)?.name.replace('&', '&amp;') ?? 'Group';
const openEdit = (document: unknown, name = 'edit.umbo.json'): Promise<void> =>
  page.getByLabel('An edit to open').setInputFiles({
    name,
    mimeType: 'application/json',
    buffer: Buffer.from(typeof document === 'string' ? document : JSON.stringify(document)),
  });

describe('the stack', () => {
  it('groups, clips, notes, solos, shows points in between, and is eased as a whole', async () => {
    const id = photo('garden-1.jpg');
    await openBench(page, id);
    const at = (await fitted(page, await sizeOf(id)))(30, 30);
    const original = await colourAt(page, at);
    await addFill('Red', '#ff0000');
    await addFill('Blue', '#0000ff');
    await setNumber(page, 'Opacity', 50);
    await eventually(page, at, (c) => near(c, [128, 0, 128]));
    await selectLayers(page, 'Red', 'Blue');
    await page.keyboard.press('h');
    await page.getByRole('row', { name: 'Group 1', exact: true }).waitFor();
    await setNumber(page, 'Opacity', 50);
    const halves = original.map((v, c) => v / 2 + [64, 0, 64][c]!);
    await eventually(page, at, (c) => near(c, halves));

    // The picture at a point, and a layer alone.
    await page.getByRole('button', { name: 'Picture before all layers' }).click();
    await eventually(page, at, (c) => near(c, original, 1));
    await page.getByRole('button', { name: 'Picture after Red' }).click();
    await page.getByText('After “Red”').waitFor();
    await eventually(page, at, (c) =>
      near(
        c,
        original.map((v, i) => v / 2 + [128, 0, 0][i]!),
      ),
    );
    await page.getByRole('button', { name: 'Show all' }).click();
    await selectLayers(page, 'Blue');
    await page.keyboard.press('x');
    await eventually(page, at, (c) =>
      near(
        c,
        original.map((v, i) => v * 0.75 + [0, 0, 64][i]!),
      ),
    );
    await page.keyboard.press('x');
    await eventually(page, at, (c) => near(c, halves));

    // Blue is clipped to red: where red is painted away, there is none of both.
    await page.keyboard.press('k');
    await openHow(page);
    await page.getByRole('switch', { name: 'Clip to the layer below' }).isChecked();
    await selectLayers(page, 'Red');
    await setNumber(page, 'Strength of the mask', 0);
    await addPart(page, 'Brush');
    await eventually(page, at, (c) => near(c, halves)); // an empty brush at strength 0 acts everywhere
    await setNumber(page, 'Strength of the mask', 100);
    await eventually(page, at, (c) => near(c, original, 1));
    await page.keyboard.press('Control+z');
    await eventually(page, at, (c) => near(c, halves));

    await menu('Red', 'Add a note…');
    await page.getByRole('dialog').getByRole('textbox').fill('As on the client’s swatch');
    await page.getByRole('button', { name: 'Keep the note' }).click();
    await page.getByLabel('Note: As on the client’s swatch').waitFor();

    await page.getByRole('button', { name: /Strength of the whole edit/ }).click();
    await setNumber(page, 'Whole edit', 0);
    await page.mouse.click(1200, 60); // beside it, which closes it
    await eventually(page, at, (c) => near(c, original, 1));
    await kept(page);
    const { document, labels } = await editOf(id);
    expect(document.strength).toBe(0);
    const [group] = document.layers;
    expect(group!.what.kind === 'group' && group!.what.layers.map(({ name, clip, note }) => [name, clip, note])).toEqual([
      ['Red', undefined, 'As on the client’s swatch'],
      ['Blue', true, undefined],
    ]);
    expect(labels).toEqual(expect.arrayContaining(['Group 2 layers', 'Clip Blue to the layer below', 'Whole edit 0 %']));
    // Ungrouped, both are there again.
    await selectLayers(page, 'Group 1');
    await page.keyboard.press('Shift+h');
    await expect.poll(async () => (await layersOf(id)).map(({ name }) => name)).toEqual(['Red', 'Blue']);
    expectNoComplaints(complaints);
  });

  it('is reordered and grouped by dragging cards, and gives masks from card to card', async () => {
    const id = photo('garden-2.jpg');
    await openBench(page, id);
    for (const name of ['a', 'b', 'c']) {
      await page.getByRole('main').focus();
      await page.keyboard.press('n');
      await rename('Layer 1', name);
    }
    await page.getByRole('main').focus();
    await addLayer(page, 'Group');
    await selectLayers(page, 'a');
    await addPart(page, 'Hue range');
    const names = async (): Promise<string> => {
      const words = (list: readonly Layer[]): string =>
        list.map((layer) => layer.name + ('layers' in layer.what ? `(${words(layer.what.layers)})` : '')).join(' ');
      return words(await layersOf(id));
    };
    await expect.poll(names).toBe('a b c Group 1()');
    const dropAt = async (card: string, onto: string, share: number, modifier?: string): Promise<void> => {
      const [from, to] = await Promise.all([card, onto].map((name) => page.getByRole('row', { name, exact: true }).boundingBox()));
      await page.mouse.move(from!.x + 90, from!.y + 40);
      await page.mouse.down();
      if (modifier) await page.keyboard.down(modifier);
      await page.mouse.move(from!.x + 110, from!.y + 44, { steps: 4 });
      await page.mouse.move(to!.x + to!.width * share, to!.y + 44, { steps: 8 });
      await page.mouse.move(to!.x + to!.width * share + 1, to!.y + 44);
      await page.waitForTimeout(150);
      await page.mouse.up();
      if (modifier) await page.keyboard.up(modifier);
    };
    await dropAt('a', 'c', 0.9);
    await expect.poll(names).toBe('b c a Group 1()');
    await dropAt('c', 'Group 1', 0.5);
    await expect.poll(names).toBe('b a Group 1(c)');
    // A mask: copied in the middle of the other card.
    await dropAt('a', 'b', 0.5);
    await expect.poll(async () => findLayer((await editOf(id)).document, (await layersOf(id))[0]!.id)!.where.parts.length).toBe(1);
    // With Alt, it is linked instead.
    await dropAt('a', 'b', 0.5, 'Alt');
    await expect.poll(async () => (await layersOf(id))[0]!.where.link).toBe((await layersOf(id))[1]!.id);
    // And linked from the desk: one edit serves both, until it is made the layer's own.
    await selectLayers(page, 'c');
    await page.getByRole('button', { name: 'mask of…' }).click();
    await page.getByRole('menuitem', { name: 'a', exact: true }).last().click();
    await page.getByText('Linked: what is changed there acts here.').waitFor();
    await page.getByRole('button', { name: 'Go there' }).click();
    await setNumber(page, 'Feather', 9);
    await selectLayers(page, 'c');
    await page.getByRole('button', { name: 'Make it this layer’s own' }).click();
    await kept(page);
    const c = (await layersOf(id))[2]!.what;
    const { where } = (c.kind === 'group' ? c.layers : [])[0]!;
    expect([where.link, where.parts.length, where.refine]).toEqual([undefined, 1, [{ kind: 'feather', radius: 9 }]]);
    // A loop of links is refused in words.
    await page.getByRole('button', { name: 'mask of…' }).click();
    await page.getByRole('menuitem', { name: 'a', exact: true }).last().click();
    await selectLayers(page, 'a');
    await page.getByRole('button', { name: 'mask of…' }).click();
    await page.getByRole('menuitem', { name: 'c', exact: true }).last().click();
    await page.getByText(/they would wait for each other/).waitFor();
    expectNoComplaints(complaints);
  });

  it('is walked through by arrows, chosen by ranges, and has its groups folded, also after a reload', async () => {
    await openBench(page, photo('garden-2.jpg')); // as the last test left it
    const row = (name: string) => page.getByRole('row', { name, exact: true });
    const rows = (): Promise<string[]> => page.getByRole('row').evaluateAll((all) => all.map((one) => one.getAttribute('aria-label')!));
    const chosen = (): Promise<string[]> =>
      page.getByRole('row', { selected: true }).evaluateAll((all) => all.map((one) => one.getAttribute('aria-label')!));
    await expect.poll(rows).toEqual(['b', 'a', 'Group 1', 'c']);
    await row('b').click({ position: { x: 90, y: 32 } });
    await page.keyboard.press('Shift+ArrowRight');
    await expect.poll(chosen).toEqual(['b', 'a']);
    await page.keyboard.press('Shift+ArrowRight');
    await expect.poll(chosen).toEqual(['b', 'a', 'Group 1']);
    await page.keyboard.press('ArrowRight');
    await expect.poll(chosen).toEqual(['c']);
    await row('b').click({ position: { x: 90, y: 32 } });
    await row('Group 1').click({ modifiers: ['Shift'] });
    await expect.poll(chosen).toEqual(['b', 'a', 'Group 1']);

    // Folding from inside works on the group; the layer worked on is never hidden.
    await selectLayers(page, 'c');
    await page.keyboard.press('l');
    await expect.poll(rows).toEqual(['b', 'a', 'Group 1']);
    await expect.poll(chosen).toEqual(['Group 1']);
    await row('Group 1').getByText('1 layer').waitFor();
    await page.reload();
    await page.locator('main[data-painted=true]').waitFor();
    await expect.poll(rows).toEqual(['b', 'a', 'Group 1']);
    await page.getByRole('button', { name: 'Unfold Group 1' }).click();
    await expect.poll(rows).toEqual(['b', 'a', 'Group 1', 'c']);
    expectNoComplaints(complaints);
  });

  it('steps through blend modes and lets only some of a change through, by key and slider, live', async () => {
    const id = photo('garden-3.jpg');
    await openBench(page, id);
    const at = (await fitted(page, await sizeOf(id)))(40, 40);
    const original = await colourAt(page, at);
    await addFill('Grey', '#808080');
    await eventually(page, at, (c) => near(c, [128, 128, 128]));
    await page.getByRole('main').focus();
    await page.keyboard.press('y');
    await eventually(page, at, (c) =>
      near(
        c,
        original.map((v) => (v * 128) / 255),
      ),
    );
    await page.keyboard.press('Shift+y');
    await openHow(page);
    await setNumber(page, 'Chroma let through', 0);
    await setNumber(page, 'Lightness let through', 0);
    await eventually(page, at, (c) => near(c, original, 2));
    await setNumber(page, 'Lightness let through', 100);
    await setNumber(page, 'Chroma let through', 100);
    // Its own tone is outside the limits: nothing is left of it.
    await page.getByRole('radio', { name: 'The layer' }).click();
    const handle = (await page.getByRole('slider', { name: 'high inner' }).boundingBox())!;
    await drag(page, [
      [handle.x + 4, handle.y + 6],
      [handle.x - 200, handle.y + 6],
      [handle.x - 290, handle.y + 6],
    ]);
    // A click that moves nothing is no step of the history.
    await kept(page);
    const steps = (await editOf(id)).labels.length;
    await page.getByRole('slider', { name: 'low outer' }).click();
    await kept(page);
    expect((await editOf(id)).labels.length).toBe(steps);
    await page.getByRole('slider', { name: 'high outer' }).focus();
    for (let i = 0; i < 7; i++) await page.keyboard.press('Shift+ArrowLeft');
    await eventually(page, at, (c) => near(c, original, 1));
    await kept(page);
    const { how } = (await layersOf(id))[0]!;
    expect(how.letThrough).toBeUndefined();
    expect(how.limitsSelf!.high[1]).toBe(30);
    await page.getByRole('button', { name: 'All tones' }).click();
    await eventually(page, at, (c) => near(c, [128, 128, 128]));
    await kept(page);
    expectNoComplaints(complaints);
  });
});

describe('gradients', () => {
  it('have their stops dragged, coloured, added and taken away, and run between handles on the photograph', async () => {
    const id = photo('garden-3.jpg');
    await openBench(page, id);
    const size = await sizeOf(id);
    await addLayer(page, 'Fill');
    await page.getByRole('radio', { name: 'Linear', exact: true }).click();
    const stop = page.getByRole('button', { name: /^Stop 1, at/ });
    const box = (await stop.boundingBox())!;
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await drag(page, [
      [x, y],
      [x + 60, y],
      [x + 120, y],
    ]);
    await setColour(page, 'Stop colour', '#204080');
    await page.getByRole('button', { name: 'New stop' }).click();
    await page.getByRole('button', { name: 'Remove the stop' }).click();
    const handle = page.getByRole('main').getByRole('button', { name: 'Gradient ends' });
    const end = (await handle.boundingBox())!;
    await drag(page, [
      [end.x + 7, end.y + 7],
      [end.x + 40, end.y - 20],
      [end.x + 107, end.y - 43],
    ]);
    await kept(page);
    const fill = (await layersOf(id)).at(-1)!.what;
    if (fill.kind !== 'fill') throw new Error('The last layer is no fill');
    const { stops, to, from } = fill.settings;
    expect(stops).toHaveLength(2);
    expect(stops[0]!.at).toBeGreaterThan(0.3);
    expect(stops[0]!.at).toBeLessThan(0.5);
    expect(stops[0]!.colour.map((v) => Math.round(v * 255))).toEqual([0x20, 0x40, 0x80]);
    expect(to.x).toBeGreaterThan(size.width / 2 + 200);
    expect(to.y).toBeLessThan(size.height * 0.75 - 100);
    expect(from).toEqual({ x: size.width / 2, y: size.height * 0.25 });
    // Above its beginning the gradient has the colour of its first stop.
    const top = (await fitted(page, size))(size.width / 2, 20);
    await eventually(page, top, (c) => near(c, [0x20, 0x40, 0x80]));
    expectNoComplaints(complaints);
  });
});

describe('alternatives', () => {
  it('show one at a time, all beside each other, and are handed over one file each', async () => {
    const id = photo('smile.jpg');
    await openBench(page, id);
    const at = (await fitted(page, await sizeOf(id)))(40, 40);
    await addFill('Moss', '#406030');
    await addPart(page, 'Brush'); // the mask that both will share
    await page.getByRole('radio', { name: 'Full', exact: true }).click();
    await addLayer(page);
    await page.getByRole('button', { name: 'mask of…' }).click();
    await page.getByRole('menuitem', { name: 'Moss', exact: true }).last().click();
    await page.getByText('Linked: what is changed there acts here.').waitFor();
    await menu('Moss', 'Make colourways of it');
    await page.getByRole('row', { name: 'Moss 2', exact: true }).waitFor();
    await rename('Moss 2', 'Rust');
    await selectLayers(page, 'Rust');
    await setColour(page, 'Fill colour', '#b04010');
    await page.getByRole('main').focus();
    // What is worked on shows.
    await eventually(page, at, (c) => near(c, [0xb0, 0x40, 0x10]));
    await page.keyboard.press('u');
    await eventually(page, at, (c) => near(c, [0x40, 0x60, 0x30]));
    await page.keyboard.press('u');
    await eventually(page, at, (c) => near(c, [0xb0, 0x40, 0x10]));
    await page.getByRole('button', { name: 'Show Moss' }).click();
    await eventually(page, at, (c) => near(c, [0x40, 0x60, 0x30]));
    await page.getByRole('button', { name: 'Show Rust' }).click();
    await eventually(page, at, (c) => near(c, [0xb0, 0x40, 0x10]));
    // The mask is the set's now, and what was linked to it follows.
    await kept(page);
    const [set, linked] = await layersOf(id);
    expect([set!.where.parts.length, linked!.where.link]).toEqual([1, set!.id]);
    await selectLayers(page, 'Colourways 1');
    await page.getByRole('button', { name: 'All beside each other' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByRole('button', { name: 'Moss' }).click();
    await eventually(page, at, (c) => near(c, [0x40, 0x60, 0x30]));

    await page.getByRole('button', { name: 'Hand over' }).click();
    await dialog.getByRole('radio', { name: 'PNG' }).click();
    await dialog.getByRole('switch', { name: /every colourway/ }).click({ force: true });
    await dialog.getByRole('button', { name: 'Render 2 files' }).click();
    for (const [name, colour] of [
      ['Moss', [0x40, 0x60, 0x30]],
      ['Rust', [0xb0, 0x40, 0x10]],
    ] as const) {
      const link = dialog
        .getByRole('listitem')
        .filter({ hasText: `smile - ${name}` })
        .getByRole('link', { name: 'Download' });
      await link.waitFor();
      const [download] = await Promise.all([page.waitForEvent('download'), link.click()]);
      expect(download.suggestedFilename()).toBe(`smile - ${name}.png`);
      const pixels = await sharp(await readFile(await download.path()))
        .removeAlpha()
        .raw()
        .toBuffer();
      expect([...pixels.subarray(0, 3)]).toEqual(colour);
    }

    // To measured colours: what cannot be reached is said, and remembered as what has not passed.
    await page.keyboard.press('Escape');
    await change(id, (draft) => {
      draft.readings = [{ id: 'r', letter: 'A', name: 'Cloth', where: { ...everywhere(), link: set!.id }, tolerance: 1 }];
    });
    await page.getByRole('button', { name: 'Cloth', exact: true }).waitFor();
    await selectLayers(page, 'Colourways 1');
    await page.getByRole('button', { name: 'To targets…' }).click();
    await dialog.getByRole('combobox', { name: 'Target of Moss' }).fill('lab(40 -20 30)');
    await dialog.getByRole('combobox', { name: 'Target of Rust' }).fill('lab(55 95 60)');
    expect(await violations(page, '[role=dialog]')).toEqual([]);
    await dialog.getByRole('button', { name: 'Bring all to target' }).click();
    await dialog.getByRole('row', { name: /^Moss/ }).filter({ hasText: 'passed' }).waitFor();
    await dialog.getByRole('row', { name: /^Rust/ }).filter({ hasText: 'out of reach' }).waitFor();
    await dialog.getByRole('button', { name: 'Close' }).click();
    await kept(page);
    const { document, labels } = await editOf(id);
    expect(labels.at(-1)).toBe('2 alternatives of Colourways 1 to target');
    expect(childrenOf(document.layers[0]!).map((way) => [way.name, hasPassed(way.foundBy, document.readings!)])).toEqual(
      expect.arrayContaining([
        ['Moss', true],
        ['Rust', false],
      ]),
    );
    expectNoComplaints(complaints);
  });
});

describe('versions', () => {
  it('are kept beside the history, compared, and restored as one step', async () => {
    const id = photo('window-portrait.jpg');
    await openBench(page, id);
    const size = await sizeOf(id);
    const at = (await fitted(page, size))(size.width / 2, 260);
    await addFill('Red', '#c02020');
    await page.getByRole('button', { name: 'Versions', exact: true }).click();
    await page.getByRole('button', { name: 'Keep a version…' }).click();
    await page.getByRole('dialog').getByRole('textbox').fill('In red');
    await page.keyboard.press('Enter');
    const version = page.getByRole('list', { name: 'Versions' }).getByRole('listitem').filter({ hasText: 'In red' });
    await version.waitFor();
    await setColour(page, 'Fill colour', '#2020c0');
    await eventually(page, at, (c) => near(c, [0x20, 0x20, 0xc0]));

    await page.getByRole('button', { name: 'More about In red' }).click();
    await page.getByRole('menuitem', { name: 'Compare with it' }).click();
    // The wipe: the version left of it, what is now right of it.
    const box = (await page.getByRole('main').boundingBox())!;
    const middle: [number, number] = [box.x + box.width / 2, at[1]];
    await eventually(page, [middle[0] - 30, middle[1]], (c) => near(c, [0xc0, 0x20, 0x20]));
    await eventually(page, [middle[0] + 30, middle[1]], (c) => near(c, [0x20, 0x20, 0xc0]));
    await page.getByRole('main').focus();
    await page.keyboard.press('e');
    await eventually(page, [box.x + box.width / 4, middle[1] + 200], (c) => near(c, [0xc0, 0x20, 0x20]));
    await eventually(page, [box.x + (3 * box.width) / 4, middle[1] + 200], (c) => near(c, [0x20, 0x20, 0xc0]));
    await page.keyboard.press('Shift+e');
    await eventually(page, at, (c) => near(c, [255, 255, 255], 0)); // more than a quarter of the way apart
    await page.keyboard.press('Shift+e');
    await eventually(page, at, (c) => near(c, [0x20, 0x20, 0xc0]));

    // Undone to the beginning and overwritten, it is still there.
    await page.getByRole('button', { name: 'History', exact: true }).click();
    await page.getByRole('button', { name: 'Photograph as it came' }).click();
    await page.getByText('What is to be done?').waitFor();
    await page.getByRole('main').focus();
    await page.keyboard.press('n');
    await page.getByRole('button', { name: 'Versions', exact: true }).click();
    await page.getByRole('button', { name: 'More about In red' }).click();
    await page.getByRole('menuitem', { name: 'Restore' }).click();
    await eventually(page, at, (c) => near(c, [0xc0, 0x20, 0x20]));
    await kept(page);
    const { labels, document } = await editOf(id);
    expect(labels).toEqual(['New layer Layer 1', 'Version In red restored']);
    expect(document.layers.map(({ name }) => name)).toEqual(['Red']);
    expectNoComplaints(complaints);
  });
});

describe('paint, palettes and references', () => {
  it('paints in colours that are sampled, kept as swatches, swapped, and travel as files', async () => {
    const id = photo('garden-3.jpg');
    await openBench(page, id);
    const size = await sizeOf(id);
    const at = await fitted(page, size);
    // A colour from a reference: the mean of 31 x 31 of its own pixels.
    await more(page, 'Reference photographs');
    await page.getByRole('button', { name: 'Open a reference' }).click();
    await page.getByRole('option', { name: 'garden-1.jpg' }).click();
    await page.getByRole('complementary', { name: 'References' }).getByRole('radio', { name: '31 × 31' }).click();
    const reference = page.getByRole('img', { name: 'Reference garden-1.jpg' });
    await reference.waitFor();
    await addLayer(page, 'Paint');
    const box = (await reference.boundingBox())!;
    const field = page.getByRole('textbox', { name: 'Paint colour, hexadecimal' });
    const was = await field.inputValue();
    const spot: [number, number] = [Math.round(box.x + box.width / 2), Math.round(box.y + box.height / 3)];
    await page.mouse.click(...spot);
    await expect.poll(() => field.inputValue()).not.toBe(was);
    const taken = await field.inputValue();
    const garden = await sizeOf(photo('garden-1.jpg'));
    const middle = [((spot[0] - box.x) / box.width) * garden.width, ((spot[1] - box.y) / box.height) * garden.height].map(Math.floor);
    const stats = await sharp(
      await sharp(new URL('../demo/photographs/garden-1.jpg', import.meta.url).pathname)
        .extract({ left: middle[0]! - 15, top: middle[1]! - 15, width: 31, height: 31 })
        .png()
        .toBuffer(),
    ).stats();
    const rgb = [1, 3, 5].map((i) => parseInt(taken.slice(i, i + 2), 16));
    expect(
      near(
        rgb,
        stats.channels.slice(0, 3).map(({ mean }) => mean),
        2,
      ),
      `${taken} for ${stats.channels.map(({ mean }) => mean).join(' ')}`,
    ).toBe(true);
    await more(page, 'Close the reference photographs');

    await setNumber(page, 'Brush size', 300);
    await setNumber(page, 'Hardness', 100);
    await setNumber(page, 'Flow', 100);
    const [a, b] = [at(size.width / 4, 300), at((size.width * 3) / 4, 300)];
    await page.waitForTimeout(300); // the stage has its full width again
    await drag(page, [a, [a[0] + 8, a[1]]]);
    await eventually(page, a, (c) => near(c, rgb, 2));
    await setColour(page, 'Paint colour', '#10a040');
    await drag(page, [b, [b[0] + 8, b[1]]]);
    await eventually(page, b, (c) => near(c, [0x10, 0xa0, 0x40], 2));
    await page.getByRole('button', { name: 'Keep the colour as a swatch' }).click();
    await page.getByRole('button', { name: '#10A040', exact: true }).waitFor();

    // What was painted in the first colour is swapped for another.
    await setColour(page, 'Paint colour', '#2040c0');
    await page.getByRole('button', { name: `Painted colour ${taken}` }).click();
    await page.getByRole('button', { name: 'Swap it for the paint colour' }).click();
    await page.keyboard.press('Escape');
    await eventually(page, a, (c) => near(c, [0x20, 0x40, 0xc0], 2));
    expect(near(await colourAt(page, b), [0x10, 0xa0, 0x40], 2)).toBe(true);

    // The palette as a file, there and back.
    await page.getByRole('button', { name: 'More about the palette' }).click();
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('menuitem', { name: 'Export as CSV' }).click()]);
    expect(download.suggestedFilename()).toBe('Palette.csv');
    const csv = await readFile(await download.path());
    expect(csv.toString()).toBe('name,red,green,blue\r\n#10A040,16,160,64');
    const picker = page.getByLabel('A palette to import');
    await picker.setInputFiles({ name: 'Yarns.csv', mimeType: 'text/csv', buffer: Buffer.from(`${csv.toString()}\r\nClay,200,120,90`) });
    await page.getByRole('button', { name: /Palette$/ }).click();
    await page.getByRole('option', { name: 'Yarns' }).click();
    await page.getByRole('button', { name: 'Clay', exact: true }).click();
    expect(await field.inputValue()).toBe('#C8785A');
    await picker.setInputFiles({ name: 'notes.csv', mimeType: 'text/csv', buffer: Buffer.from('hello') });
    await page.getByRole('alert').filter({ hasText: '“notes.csv” was not imported' }).waitFor();
    expectNoComplaints(complaints);
  });
});

describe('frames', () => {
  it('lay another photograph of the shoot over this one, the same on the stage and in the file', async () => {
    const id = photo('garden-2.jpg');
    await openBench(page, id);
    const size = await sizeOf(id);
    await addLayer(page, 'Frame');
    await page.getByRole('button', { name: /choose one/ }).click();
    await page.getByRole('option', { name: 'garden-3.jpg' }).click();
    const frameHandle = () => page.getByRole('main').getByRole('button', { name: 'Frame’s middle' });
    await setNumber(page, 'Across', 100);
    await setNumber(page, 'Down', -50);
    // Dragged by its middle handle: 40 pixels of the photograph to the right.
    const handle = (await frameHandle().boundingBox())!;
    await frameHandle().focus();
    for (let i = 0; i < 4; i++) await page.keyboard.press('Shift+ArrowRight');
    await kept(page);
    // In the group that was selected, which an earlier test left there.
    const { what } = [...eachLayer(await layersOf(id))].find((one) => one.what.kind === 'frame')!;
    expect(what.settings).toMatchObject({ photograph: sha256Of(demo('photographs/garden-3.jpg')), x: 140, y: -50, rotate: 0, scale: 100 });
    expect((await frameHandle().boundingBox())!.x).toBeGreaterThan(handle.x + 8);

    const { bytes } = await handOver(page, 'PNG', '8 bit');
    const [file, other, own] = await Promise.all([
      pixels16(bytes),
      pixels16(demo('photographs/garden-3.jpg')),
      pixels16(demo('photographs/garden-2.jpg')),
    ]);
    const pixel = (pixels: Uint16Array, x: number, y: number): number[] => [
      ...pixels.subarray((y * size.width + x) * 3, (y * size.width + x) * 3 + 3),
    ];
    for (const [x, y] of [
      [800, 1000],
      [300, 400],
      [1500, 1900],
    ] as const)
      expect(pixel(file, x, y)).toEqual(pixel(other, x - 140, y + 50));
    expect(pixel(file, 60, 1000)).toEqual(pixel(own, 60, 1000)); // beside the frame
    await maskShown(page, 'Not shown');
    // It is there again after a reload.
    await openBench(page, id);
    await selectLayers(page, 'Frame 1');
    await frameHandle().waitFor();
    const at = (await fitted(page, size))(60, 1000);
    expect(
      near(
        await colourAt(page, at),
        pixel(own, 60, 1000).map((v) => v / 257),
        25,
      ),
    ).toBe(true);
    expectNoComplaints(complaints);
  });
});

describe('pages', () => {
  it('are drawn by the server for an edit that ends with any kind of layer', async () => {
    const id = photo('window-portrait.jpg');
    const size = await sizeOf(id);
    const kinds: Layer[] = [
      ...adjustments.map(({ kind }) => adjustmentLayer(`s-${kind}`, kind, kind)),
      ...sources.map(({ kind }) => sourceLayer(`s-${kind}`, kind, kind, size)),
      groupLayer('s-group', 'group'),
    ];
    for (const layer of kinds) {
      if (layer.what.kind === 'fill') layer.what.settings.shape = 'linear';
      if (layer.what.kind === 'frame') layer.what.settings.photograph = sha256Of(demo('photographs/garden-1.jpg'));
      const { revision, document } = await editOf(id);
      const whole = (value: Layer[]) => [{ op: 'replace', path: ['layers'], value }];
      const entry = { id: layer.id, label: layer.name, patches: whole([layer]), inverse: whole(document.layers) };
      expect(
        (
          await write(`/api/photographs/${id}/changes`, {
            id: layer.id,
            database: await databaseId(id),
            base: revision,
            changes: [{ type: 'edit', entry }],
          })
        ).status,
      ).toBe(200);
      const answer = await fetch(`${base()}/photographs/${id}`);
      expect(answer.status, layer.name).toBe(200);
      expect(await answer.text(), layer.name).toContain(kindWords(layer));
    }
  });
});

describe('files from elsewhere', () => {
  const empty = (id: number): Promise<UmboDocument> => editOf(id).then(({ document }) => ({ ...emptyDocument(document.photo) }));

  it('that are no edits are refused in a sentence and change nothing', async () => {
    const id = photo('garden-3.jpg');
    await openBench(page, id);
    const before = await layersOf(id);
    const good = await empty(id);
    const layer = adjustmentLayer('a', 'hueSaturation', 'A');
    const link = (own: string, to: string): Layer => ({ ...layer, id: own, where: { ...layer.where, link: to } });
    for (const [document, words] of [
      ['not json at all', /it is not JSON/],
      ['{}', /not valid/],
      [{ format: 'another', layers: [] }, /not valid/],
      [{ ...good, layers: [{ ...layer, what: { kind: 'sparkle', settings: {} } }] }, /not valid/],
      [{ ...good, layers: [link('a', 'b'), link('b', 'a')] }, /linked in a loop/],
      [{ ...good, layers: [layer, layer] }, /two layers have the id/],
    ] as const) {
      await openEdit(document);
      await page.getByRole('status').filter({ hasText: words }).waitFor();
      await page.getByRole('button', { name: 'Close the notice' }).click();
    }
    expect(await layersOf(id)).toEqual(before);
    expect(complaints.splice(0).every((text) => /400/.test(text))).toBe(true);
  });

  it('with 500 layers, and with 10 MB of strokes, open to a bench that works', async () => {
    const id = photo('garden-2.jpg');
    await openBench(page, id);
    const good = await empty(id);
    const layers = Array.from({ length: 499 }, (_, i) => adjustmentLayer(`l${i}`, 'hueSaturation', `Layer ${i}`));
    Object.assign(layers[250]!.what.settings, { hue: 180 });
    const group = groupLayer('g', 'All of them');
    if (group.what.kind === 'group') group.what.layers = layers;
    await openEdit({ ...good, layers: [group] });
    await page.getByRole('row', { name: 'Layer 0', exact: true }).waitFor();
    // One more than there may be is refused at once, and nothing is stuck.
    await page.getByRole('main').focus();
    await page.keyboard.press('n');
    await page.getByRole('status').filter({ hasText: 'more than 500 layers' }).waitFor();
    await page.getByRole('button', { name: 'Close the notice' }).click();
    await kept(page);
    await page.getByRole('grid', { name: 'Layers' }).evaluate((row) => (row.scrollLeft = (249 / 500) * row.scrollWidth));
    const row = page.getByRole('row', { name: 'Layer 250', exact: true });
    // While the row is still moving, cards take no clicks.
    const chosen = async (): Promise<string | null> => {
      await row.click({ position: { x: 90, y: 32 } });
      return row.getAttribute('aria-selected');
    };
    await expect.poll(chosen, { interval: 300 }).toBe('true');
    await setNumber(page, 'Hue', 90);
    await kept(page);
    const hue = (await editOf(id)).document.layers[0]!.what;
    expect(hue.kind === 'group' && hue.layers[250]!.what.settings).toMatchObject({ hue: 90 });

    const brush = maskPartKind<BrushPart>('brush').create('b', 'add', { width: 1600, height: 2000 });
    const stroke = (k: number) => ({
      id: `s${k}`,
      size: 40,
      hardness: 0.5,
      flow: 0.5,
      opacity: 1,
      erase: false,
      // As a hand draws: every point near the one before.
      points: Array.from({ length: 19_300 }, (_, i) => [
        Math.round(8000 + 6000 * Math.sin(k + i / 900)) / 10,
        Math.round(10_000 + 8000 * Math.sin(i / 700)) / 10,
        0.55,
      ]).flat(),
    });
    const painted = adjustmentLayer('p', 'hueSaturation', 'Painted');
    painted.where.parts = [{ ...brush, strokes: Array.from({ length: 25 }, (_, k) => stroke(k)) }];
    const heavy = JSON.stringify({ ...good, layers: [painted] });
    expect(heavy.length).toBeGreaterThan(7e6);
    await openEdit(heavy, 'painted.umbo.json');
    await page.getByRole('row', { name: 'Painted', exact: true }).waitFor();
    await setNumber(page, 'Hue', 120);
    await kept(page);
    expect((await layersOf(id))[0]!.what.settings).toMatchObject({ hue: 120 });
    await page.reload();
    await page.locator('main[data-painted=true]').waitFor();
    await page.getByRole('row', { name: 'Painted', exact: true }).waitFor();
    expectNoComplaints(complaints);
  });
});
