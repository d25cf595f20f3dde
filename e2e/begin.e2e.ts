/** A newcomer's way: what is to be done, in words; the field that finds everything; and gestures that answer. */
import { readFile } from 'node:fs/promises';
import { deltaE2000 } from '@umbo/core/colour';
import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import {
  addLayer,
  demo,
  editOf,
  expectNoComplaints,
  handOver,
  kept,
  labAt,
  launch,
  meanDifference,
  newPage,
  ownShoot,
  pixels16,
  truth,
  violations,
} from './harness.ts';

let browser: Browser;
let page: Page;
const complaints: string[] = [];
const open = ownShoot('Beginnings');

beforeAll(async () => {
  browser = await launch();
  page = await newPage(browser, complaints);
});
afterAll(() => browser.close());

const says = (words: string) => page.getByRole('status', { name: 'What to do next' }).filter({ hasText: words }).waitFor();
/** The mean difference in hue and chroma: the light of both is taken to be the second one's. */
function meanOffHue(pixels: Uint16Array, right: Uint16Array, mask: Uint8Array): number {
  let [sum, n] = [0, 0];
  for (let i = 0; i < mask.length; i += 7) {
    if (mask[i]! < 128) continue;
    const wanted = labAt(right, i);
    sum += deltaE2000({ ...labAt(pixels, i), l: wanted.l }, wanted);
    n++;
  }
  return sum / n;
}

const layers = async (id: number) => (await editOf(id)).document.layers;

it('makes a cast shoulder agree with sound skin by three presses from the empty desk, guided by words', async () => {
  const { id, at } = await open(page, 'mixed-light.png');
  expect(await violations(page, '[aria-label=Desk]')).toEqual([]);
  await page.getByRole('button', { name: /^Make this agree with that/ }).click();
  await says('Press on what is off');
  await page.mouse.click(...at(1180, 1560));
  await says('Now press on what is right');
  await page.mouse.click(...at(560, 1500));
  await says('The layer acts on what is like the place you pressed on');
  await page.getByRole('row', { name: 'A as B' }).waitFor();
  await kept(page);
  const [layer] = await layers(id);
  expect(layer).toMatchObject({
    foundBy: { kind: 'solver', readings: [{ aim: { kind: 'reading', keepsLight: true } }] },
    where: { parts: [{ kind: 'likeness' }] },
  });
  const { bytes } = await handOver(page, 'PNG', '16 bit');
  const [before, after, right, skin, cast] = await Promise.all([
    pixels16(demo('photographs/mixed-light.png')),
    pixels16(bytes),
    pixels16(demo('references/mixed-light-neutral.png')),
    truth('mixed-light.body-skin'),
    truth('mixed-light.magenta-cast'),
  ]);
  const lit = skin.map((v, i) => (v >= 128 && cast[i]! >= 64 ? 255 : 0));
  const [was, is] = [before, after].map((pixels) => meanDifference(pixels, right, lit)) as [number, number];
  const [hueWas, hueIs] = [before, after].map((pixels) => meanOffHue(pixels, right, lit)) as [number, number];
  console.log(`agreement by three presses: mean ΔE00 on cast skin ${was.toFixed(1)} → ${is.toFixed(1)}, light left out ${hueWas.toFixed(1)} → ${hueIs.toFixed(1)}`); // prettier-ignore
  expect(hueIs).toBeLessThan(hueWas * 0.75);
  expect(is).toBeLessThan(was);
  // Left at any step, what was done stays, and nothing waits.
  await page.keyboard.press('Escape');
  await page.getByRole('status', { name: 'What to do next' }).waitFor({ state: 'detached' });
  expectNoComplaints(complaints);
});

it('gives a thing a colour that was typed, and says what is wrong with one that is none', async () => {
  const { id, at } = await open(page, 'vases.jpg');
  await page.getByRole('button', { name: /^Give this a colour I was told/ }).click();
  await page.mouse.click(...at(490, 560));
  const field = page.getByRole('textbox', { name: 'Colour', exact: true });
  await field.fill('plum-ish');
  await field.press('Enter');
  await page.getByRole('alert').filter({ hasText: 'This is no colour' }).waitFor();
  await field.fill('#7a2e3b');
  await field.press('Enter');
  await page.getByRole('row', { name: 'A to #7a2e3b' }).waitFor();
  await kept(page);
  expect((await editOf(id)).document.readings).toMatchObject([{ target: { kind: 'colour', name: '#7a2e3b' } }]);
  const [layer] = await layers(id);
  expect(layer!.foundBy).toMatchObject({ off: expect.any(Number) as number });
  expect((layer!.foundBy as { off: number }).off).toBeLessThan(2);
  expectNoComplaints(complaints);
});

it('finds everything by the trade’s words and plain ones, says where it lives, and does it', async () => {
  const { id } = await open(page, 'fruit.jpg');
  const first = async (words: string): Promise<string> => {
    await page.getByRole('main').focus();
    await page.keyboard.press('Space');
    await page.keyboard.type(words);
    return page.getByRole('dialog', { name: 'Find anything' }).getByRole('menuitem').first().innerText();
  };
  for (const [words, expected] of [
    ['redder', 'Make this agree'],
    ['tooth', 'Whiten teeth'],
    ['cast', 'Take a cast out'],
    ['film', 'Grain'],
    ['zoom out', 'Zoom out'],
  ] as const) {
    expect(await first(words), words).toContain(expected);
    if (words === 'redder') expect(await violations(page, '[role=dialog]')).toEqual([]);
    await page.keyboard.press('Escape');
    await page.getByRole('dialog').waitFor({ state: 'detached' });
  }
  expect(await first('curves')).toContain('any tone to any other');
  await page.keyboard.press('Enter');
  await page.getByRole('row', { name: 'Curves 1' }).waitFor();
  expect(await first('multiply')).toContain('blend mode of Curves 1');
  await page.keyboard.press('Enter');
  await kept(page);
  expect((await layers(id))[0]!.how.mode).toBe('multiply');
  expectNoComplaints(complaints);
});

it('answers a double press, the second button, Ctrl S, keys after a press on a card, and files that are dropped', async () => {
  const { id, at } = await open(page, 'stool.jpg');
  const main = page.getByRole('main');
  const zoom = page.locator('footer');
  await page.mouse.dblclick(...at(700, 700));
  await zoom.filter({ hasText: /^100 %/ }).waitFor();
  await page.mouse.dblclick(...at(700, 700));
  await zoom.filter({ hasNotText: /^100 %/ }).waitFor();

  await page.mouse.click(...at(700, 700), { button: 'right' });
  await page.getByRole('menuitem', { name: 'Pin a reading here' }).click();
  await page.getByRole('region', { name: 'Reading A' }).waitFor();
  await main.focus();
  await page.keyboard.press('Control+s');
  await page.getByRole('status').filter({ hasText: 'All changes are kept.' }).waitFor();

  await addLayer(page, 'Invert');
  await page.getByRole('button', { name: 'Invert 1 off' }).click();
  await page.keyboard.press('q');
  await page.getByRole('button', { name: /Compare$/ }).filter({ hasText: 'Before' }).waitFor();
  await page.keyboard.press('q');

  const drop = (name: string, text: string): Promise<void> =>
    main.evaluate(
      (stage, [file, content]) => {
        const dataTransfer = new DataTransfer();
        dataTransfer.items.add(new File([content!], file!));
        stage.dispatchEvent(new DragEvent('drop', { dataTransfer, bubbles: true, cancelable: true }));
      },
      [name, text],
    );
  await drop('notes.txt', 'no picture');
  await page.getByRole('status').filter({ hasText: 'is not a picture that the browser can read' }).waitFor();
  await page.getByRole('button', { name: 'More', exact: true }).click();
  const [saved] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: 'Save the edit as a file' }).click(),
  ]);
  await main.focus();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Delete');
  await drop('again.json', await readFile(await saved.path(), 'utf8'));
  await page.getByRole('row', { name: 'Invert 1' }).waitFor();
  await kept(page);
  expect((await editOf(id)).labels.at(-1)).toBe('Open again.json');
  expectNoComplaints(complaints);
});
