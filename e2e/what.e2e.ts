/** What adjustments are for, measured on the demo photographs against their references and truth masks. */
import { srgb, linearToSrgb, srgbToLinear, rgbToOklch } from '@umbo/core/colour';
import { readFile } from 'node:fs/promises';
import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { adjustments } from '@umbo/core/adjust';
import { sources } from '@umbo/core/content';
import { adjustmentLayer, sourceLayer } from '@umbo/core/document';
import {
  addLayer,
  addPart,
  change,
  demo,
  drag,
  editOf,
  eventually,
  expectNoComplaints,
  handOver,
  kept,
  launch,
  meanDifference,
  meanLab,
  newPage,
  outline,
  ownShoot,
  pixels16,
  setHueRange,
  setNumber,
  truth,
  violations,
} from './harness.ts';

let browser: Browser;
let page: Page;
const complaints: string[] = [];
const openOwn = ownShoot('What, measured');
const open = (name: string) => openOwn(page, name);

beforeAll(async () => {
  browser = await launch();
  page = await newPage(await browser.newContext({ permissions: ['clipboard-read', 'clipboard-write'] }), complaints);
});
afterAll(() => browser.close());

/** The result at full size, as a file has it. */
async function result(): Promise<Uint16Array> {
  await kept(page);
  return pixels16((await handOver(page, 'PNG', '16 bit')).bytes);
}

async function hueRange(hues: readonly [number, number, number, number], greys: number): Promise<void> {
  await addPart(page, 'Hue range');
  await setNumber(page, 'Spare greys', greys);
  await setHueRange(page, hues);
}
const section = (name: string) => page.getByRole('radio', { name, exact: true }).click();

describe('measured changes', () => {
  it('make a bright stool white by hue & saturation', async () => {
    const { at } = await open('stool.jpg');
    await addLayer(page);
    await hueRange([18, 26, 54, 62], 0.05);
    // Its light falls on what is around it: a rough outline keeps that out.
    await addPart(page, 'Outline');
    await outline(page, at, [310, 310, 950, 310, 1000, 1225, 250, 1225, 280, 460]);
    await setNumber(page, 'Saturation', -90);
    await setNumber(page, 'Lightness', 55);
    const [before, white, mask] = await Promise.all([
      pixels16(demo('photographs/stool.jpg')),
      pixels16(demo('references/stool-white.jpg')),
      truth('stool.stool'),
    ]);
    const after = await result();
    const [was, is] = [meanDifference(before, white, mask), meanDifference(after, white, mask)];
    console.log(`stool to white: mean ΔE00 ${was.toFixed(2)} before, ${is.toFixed(2)} after`);
    expect(is).toBeLessThan(was * 0.4);
    expectNoComplaints(complaints);
  });

  it('darken the sky of estuary-dusk and leave the foreground alone', async () => {
    const { at } = await open('estuary-dusk.jpg');
    await addLayer(page, 'Curves');
    await addPart(page, 'Linear gradient');
    for (const [name, y] of [
      ['Gradient mask begins', 300],
      ['Gradient mask ends', 450],
    ] as const) {
      const handle = (await page.getByRole('button', { name }).boundingBox())!;
      await drag(page, [[handle.x + handle.width / 2, handle.y + handle.height / 2], [handle.x, at(720, y)[1] - 6], at(720, y)]);
    }
    // A click on the sky pins a point of the curve; it and the end are typed.
    await page.getByRole('radio', { name: 'Pull', exact: true }).click();
    await page.mouse.click(...at(300, 150));
    const curve = page.getByRole('group', { name: 'RGB curve' });
    await curve.getByRole('slider', { name: 'Point 3' }).waitFor();
    await curve.getByRole('slider', { name: 'Point 2' }).focus();
    await setNumber(page, 'Input', 204);
    await setNumber(page, 'Output', 140);
    await curve.getByRole('slider', { name: 'Point 3' }).focus();
    await setNumber(page, 'Output', 230);

    await addLayer(page, 'Colour balance');
    await page.getByRole('button', { name: 'mask of…' }).click();
    await page
      .getByRole('menuitem', { name: /Curves/ })
      .first()
      .click();
    await section('Midtones');
    await setNumber(page, 'Cyan/red', -15);
    await setNumber(page, 'Yellow/blue', 20);
    await section('Highlights');
    await setNumber(page, 'Cyan/red', -10);
    await setNumber(page, 'Yellow/blue', 15);

    await addLayer(page, 'Vignette');
    await setNumber(page, 'Amount', -20);
    // Its size by its handle on the photograph, to 60 % of the way to the corners.
    const begins = (await page.getByRole('button', { name: 'Vignette begins' }).boundingBox())!;
    await drag(page, [[begins.x + 7, begins.y + 7], [begins.x + 20, begins.y + 7], at(720 + 0.6 * 720 * Math.SQRT2, 480)]);
    expect(Number.parseFloat(await page.getByRole('textbox', { name: 'Size, number' }).inputValue())).toBeCloseTo(60, 0);
    await setNumber(page, 'Softness', 100);
    await setNumber(page, 'Spare darks', 100);
    const [before, sky, foreground] = await Promise.all([
      pixels16(demo('photographs/estuary-dusk.jpg')),
      truth('estuary-dusk.sky'),
      truth('estuary-dusk.foreground'),
    ]);
    const after = await result();
    const [was, is] = [meanLab(before, sky), meanLab(after, sky)];
    const moved = meanDifference(before, after, foreground);
    console.log(
      `sky: L* ${was.l.toFixed(1)} to ${is.l.toFixed(1)}, b* ${was.b.toFixed(1)} to ${is.b.toFixed(1)}; foreground ΔE00 ${moved.toFixed(2)}`,
    );
    expect(is.l).toBeLessThan(was.l - 15);
    expect(moved).toBeLessThan(1);
    expectNoComplaints(complaints);
  });
});

describe('changing by hand on the photograph', () => {
  it('pulls a family of colours, live, in one step of the history, and undoes it', async () => {
    const { id, at } = await open('vases.jpg');
    await addLayer(page);
    await page.getByRole('main').focus();
    await page.keyboard.press('p');
    const vase = at(660, 760);
    const [before] = [await eventually(page, vase, () => true)];
    await page.mouse.move(...vase);
    await page.mouse.down();
    await page.mouse.move(vase[0] + 60, vase[1], { steps: 6 });
    await page
      .getByText(/Hue of/)
      .last()
      .waitFor();
    await eventually(page, [vase[0] - 12, vase[1] + 12], (now) => Math.hypot(...now.map((v, i) => v - before![i]!)) > 25);
    await page.mouse.up();
    await kept(page);
    const { labels, document } = await editOf(id);
    expect(labels.at(-1)).toMatch(/^Hue of \w+ [+]\d+° on Layer 1$/);
    expect(labels).toHaveLength(2);
    expect(document.layers[0]!.what.settings).toMatchObject({ hue: 0, ranges: [{ hue: expect.any(Number) as number }] });
    await page.getByRole('main').focus();
    await page.keyboard.press('Control+z');
    await expect.poll(async () => JSON.stringify((await editOf(id)).document.layers[0]!.what.settings)).not.toContain('ranges');
    expectNoComplaints(complaints);
  });

  it('takes a cast out by a sample of something neutral, below the layer', async () => {
    const { id, at } = await open('vases.jpg');
    await addLayer(page, 'Exposure');
    await setNumber(page, 'Exposure', -0.5);
    const jar = [1330, 640] as const;
    // Curves show the tone that the pointer is over as it is below them: the red that was read out, darker by half a stop.
    await addLayer(page, 'Curves');
    await page.getByRole('radio', { name: 'Red', exact: true }).click();
    const under = async (): Promise<number> => {
      await page.mouse.move(...at(jar[0] + 2, jar[1]));
      await page.mouse.move(...at(...jar));
      const path = page.getByTestId('tone-under-pointer');
      return (await path.count()) === 1 ? Number(/^M([\d.]+)/.exec((await path.getAttribute('d'))!)![1]) / 320 : -1;
    };
    const red = (await pixels16(demo('photographs/vases.jpg')))[(jar[1] * 1680 + jar[0]) * 3]! / 65535;
    await expect.poll(async () => Math.abs((await under()) - linearToSrgb(srgbToLinear(red) * Math.SQRT1_2))).toBeLessThan(0.02);
    await addLayer(page, 'White balance');
    await page.getByRole('button', { name: 'Sample something neutral' }).click();
    await page.getByRole('radio', { name: '31 × 31' }).click();
    await page.mouse.click(...at(...jar));
    await expect.poll(async () => JSON.stringify((await editOf(id)).document.layers.at(-1)!.what.settings)).not.toContain('"kelvin":6504');
    const pixels = await result();
    const sum = [0, 0, 0];
    for (let y = -15; y <= 15; y++)
      for (let x = -15; x <= 15; x++) for (let c = 0; c < 3; c++) sum[c]! += pixels[((jar[1] + y) * 1680 + jar[0] + x) * 3 + c]! / 65535;
    const { c } = rgbToOklch(srgb, ...(sum.map((v) => v / 961) as [number, number, number]));
    expect(c).toBeLessThan(0.006);
    expectNoComplaints(complaints);
  });

  /** The controls of What that the foot of the desk covers, or that the window cuts off, of the first three. */
  const outOfSight = (): Promise<string[]> =>
    page.evaluate(() => {
      const [what, how] = ['What', 'How'].map((name) => document.querySelector(`[role=region][aria-label=${name}]`)!);
      const first = [...what!.querySelectorAll('input[type=range], svg [role=slider]')].slice(0, 3);
      const below = first.filter((one) => one.getBoundingClientRect().bottom > how!.getBoundingClientRect().top);
      const blending = [...how!.querySelectorAll('button[aria-haspopup=listbox], input[type=range]')];
      const cut = blending.filter((one) => one.getBoundingClientRect().bottom > innerHeight);
      const names = [...what!.querySelectorAll('button, label')].filter(
        (one) => one.scrollWidth > one.clientWidth + 1 && one.textContent !== '',
      );
      return [...below, ...cut, ...names, ...(blending.length >= 2 ? [] : [how!])].map((one) => one.outerHTML.slice(0, 90));
    });

  it('offers every kind of adjustment with its sliders in sight beside a brush in work, shows each live, and takes each back', async () => {
    const { id, size, at } = await open('fruit.jpg');
    await page.getByRole('button', { name: 'New layer', exact: true }).last().click();
    const all = await page.getByRole('menu', { name: 'New layer' }).getByRole('group').getByRole('menuitem').allInnerTexts();
    const names = [...new Set(all)].filter((name) => name !== 'Group' && name !== 'First correction' && !name.endsWith(', colour only'));
    expect(names.length).toBeGreaterThan(30);
    await page.keyboard.press('Escape');
    for (const name of names) {
      await addLayer(page, name);
      await page.getByRole('button', { name: `What ${name}` }).waitFor();
      await page.getByRole('main').focus();
      await page.keyboard.press('d');
      await drag(page, [at(500, 500), at(560, 520), at(600, 560)]);
      await page
        .getByRole('region', { name: 'Where' })
        .getByRole('slider', { name: 'Ease back the last stroke' })
        .or(page.getByRole('textbox', { name: 'Paint colour, hexadecimal' }))
        .first()
        .waitFor();
      expect(await outOfSight(), name).toEqual([]);
      expect(await violations(page, '[role=region][aria-label="What"]'), name).toEqual([]);
      expect(await page.getByRole('grid', { name: 'Layers' }).getByRole('row').count(), name).toBe(1);
      expect(await page.getByRole('main').getByRole('alert').count(), name).toBe(0);
      // The stroke, then the layer.
      await page.getByRole('main').focus();
      await page.keyboard.press('Control+z');
      await page.keyboard.press('Control+z');
      await expect.poll(() => page.getByRole('grid', { name: 'Layers' }).getByRole('row').count()).toBe(0);
    }
    // All kinds on each other are drawn without a complaint.
    await kept(page);
    const made = [
      ...adjustments.map(({ kind }) => adjustmentLayer(kind, kind, kind)),
      ...sources.map(({ kind }) => sourceLayer(kind, kind, kind, size)),
    ];
    await change(id, ({ layers }) => void layers.push(...made));
    await page.reload();
    await page.locator('main[data-painted=true]').waitFor();
    expect(await page.getByRole('main').getByRole('alert').count()).toBe(0);
    expectNoComplaints(complaints);
  });

  it('brings the ends, the balance and the contrast of a faded print nearer to what it was, as ordinary layers', async () => {
    const { id } = await open('faded-print-1.jpg');
    await page.getByRole('button', { name: 'New layer', exact: true }).last().click();
    await page.getByRole('menuitem', { name: 'First correction' }).click();
    await page.getByRole('row', { name: 'Gentle contrast' }).waitFor();
    const [before, right] = await Promise.all([
      pixels16(demo('photographs/faded-print-1.jpg')),
      pixels16(demo('references/faded-print-1-truth.jpg')),
    ]);
    const everywhere = new Uint8Array(before.length / 3).fill(255);
    const after = await result();
    const [was, is] = [meanDifference(before, right, everywhere), meanDifference(after, right, everywhere)];
    console.log(`faded print: mean ΔE00 to the scene ${was.toFixed(2)} before, ${is.toFixed(2)} after the first correction`);
    expect(is).toBeLessThan(was * 0.75);
    expect((await editOf(id)).document.layers.map(({ what }) => what.kind)).toEqual(['levels', 'whiteBalance', 'curves']);
    expectNoComplaints(complaints);
  });

  it('saves a change as a 3D LUT and reads it back to the same colours', async () => {
    await open('enamel-red.jpg');
    await addLayer(page, 'Chroma');
    await setNumber(page, 'All alike', 60);
    const changed = await result();
    await page.getByRole('button', { name: /^More about/ }).click();
    const waiting = page.waitForEvent('download');
    await page.getByRole('menuitem', { name: 'Save as 3D LUT, 33 points' }).click();
    const file = await (await waiting).path();
    expect((await readFile(file, 'utf8')).split('\n').length).toBeGreaterThan(33 ** 3);
    await page.getByRole('main').focus();
    await page.keyboard.press('Delete');
    await addLayer(page, '3D LUT');
    await page
      .getByLabel('A .cube file')
      .setInputFiles({ name: 'none.cube', mimeType: 'text/plain', buffer: Buffer.from('LUT_3D_SIZE 2\n0 0 0\n') });
    await page.getByText(/holds 1 of 8 colours/).waitFor();
    await page.getByRole('button', { name: 'Close the notice' }).click();
    await page.getByLabel('A .cube file').setInputFiles(file);
    await page.getByText(/33 points a side/).waitFor();
    const again = await result();
    let [sum, most] = [0, 0];
    for (let i = 0; i < again.length; i++)
      [sum, most] = [sum + Math.abs(again[i]! - changed[i]!), Math.max(most, Math.abs(again[i]! - changed[i]!))];
    console.log(`by the table: ${(sum / again.length / 257).toFixed(3)} of 255 in the mean, ${(most / 257).toFixed(1)} at most`);
    expect(sum / again.length / 257).toBeLessThan(1);
    expectNoComplaints(complaints);
  });
});
