/** One edit on many photographs: carried by the server while no tab is open, told with numbers, brought up to date, taken back. */
import { readFile } from 'node:fs/promises';
import { deltaE2000, type Lab } from '@umbo/core/colour';
import { adjustmentLayer, everywhere, foundIn } from '@umbo/core/document';
import type { CarriedTo, CarryDetail, CarrySummary, ColourFacts } from '@umbo/data';
import type { Browser, BrowserContext, Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import {
  base,
  change,
  editOf,
  expectNoComplaints,
  get,
  kept,
  launch,
  more,
  newPage,
  openBench,
  openPage,
  ownShoot,
  setNumber,
  truth,
  violations,
  write,
} from './harness.ts';

const complaints: string[] = [];
let browser: Browser;
let context: BrowserContext;
let page: Page;
let shootId: number;
const ids = { from: 0, alike: 0, other: 0 };

const layersOf = async (id: number) => (await editOf(id)).document.layers;
const carries = (): Promise<CarrySummary[]> => get(`/api/shoots/${shootId}/carries`);
/** The one that was asked for last, when all of it is done. */
async function carried(count: number): Promise<CarryDetail> {
  await expect.poll(async () => (await carries()).map(({ photographs, done }) => photographs - done)).toEqual(Array(count).fill(0));
  return get(`/api/carries/${(await carries())[0]!.id}`);
}
const toOf = ({ to }: CarryDetail, id: number): CarriedTo => to.find(({ photographId }) => photographId === id)!;
const chooseHow = async (words: string): Promise<void> => {
  await page.getByRole('dialog').getByRole('button', { name: /How$/ }).click();
  await page.getByRole('option', { name: words }).click();
};

beforeAll(async () => {
  browser = await launch();
  context = await browser.newContext();
  page = await newPage(context, complaints);
});
afterAll(() => browser.close());

it('goes on without its tab, finds regions anew, comes into open windows, and says what each mask covers', async () => {
  const openOwn = ownShoot('Carried');
  ids.alike = (await openOwn(page, 'estuary-2.jpg')).id;
  ids.other = (await openOwn(page, 'lane-sodium.jpg')).id;
  ids.from = (await openOwn(page, 'estuary-dusk.jpg')).id;
  shootId = (await get<{ id: number; name: string }[]>('/api/shoots')).find(({ name }) => name === 'Carried')!.id;
  await write(`/api/shoots/${shootId}/finding`, { key: 'carry', photographs: [ids.from] });
  await expect.poll(async () => (await editOf(ids.from)).document.regions?.length ?? 0).toBeGreaterThan(0);
  // Regions that no layer uses are known by their colours as well.
  const { revision } = await editOf(ids.from);
  const roles = async (): Promise<(string | null)[]> => {
    await write('/api/previews', { wanted: [{ id: ids.from, revision }] });
    return (await get<ColourFacts[]>(`/api/shoots/${shootId}/colours?of=${ids.from}`))[0]!.regions.map(({ role }) => role);
  };
  await expect.poll(roles).toContain('sky');
  await change(ids.from, (draft) => {
    const sky = draft.regions!.find(({ role }) => role === 'sky')!;
    const light = { ...adjustmentLayer('light', 'exposure', 'Light'), where: { ...everywhere(), link: sky.id } };
    Object.assign(light.what.settings, { stops: 0.5 });
    draft.layers.push(light, adjustmentLayer('tone', 'curves', 'Tone'));
  });

  const window = await newPage(context, complaints);
  await openBench(window, ids.alike);
  await openBench(page, ids.from);
  await page.getByRole('row', { name: 'Tone' }).waitFor();
  await more(page, 'Carry to other photographs…');
  const dialog = page.getByRole('dialog', { name: 'Carry to other photographs' });
  await dialog.getByText('All layers (2)').waitFor();
  await dialog.getByRole('button', { name: 'All', exact: true }).click();
  expect(await violations(page, '[role=dialog]')).toEqual([]);
  await dialog.getByRole('button', { name: 'Carry to 2 photographs' }).click();
  await dialog.getByRole('listitem', { name: 'From estuary-dusk.jpg to 2 photographs' }).waitFor();
  await page.close();

  await window.getByRole('row', { name: 'Light' }).waitFor();
  const carry = await carried(1);
  const [alike, other] = [toOf(carry, ids.alike), toOf(carry, ids.other)];
  // The link is a link, to the sky that was found here; as much is covered as the truth mask there and the mask that was found here say.
  const { layers, regions } = (await editOf(ids.alike)).document;
  const sky = regions!.find(({ role }) => role === 'sky')!;
  expect(layers.map(({ id, where }) => [id, where.link])).toEqual([
    ['light', sky.id],
    ['tone', undefined],
  ]);
  const mean = (values: Uint8Array): number => values.reduce((sum, v) => sum + v, 0) / 255 / values.length;
  const { masks } = await get<{ masks: { id: number; sha256: string; height: number }[] }>(`/api/shoots/${shootId}`);
  const { photograph } = foundIn(sky)!;
  const { id: maskId, height } = masks.find(({ sha256 }) => sha256 === photograph)!;
  const address = `/api/mask-pictures/${maskId}/pixels?of=${photograph}&level=0&from=0&to=${height}`;
  const found = new Uint16Array(await (await fetch(base() + address)).arrayBuffer());
  const mask = alike.outcome!.report.masks.find(({ name }) => name === 'Sky')!;
  expect(Math.abs(mask.before! - mean(await truth('estuary-dusk.sky')))).toBeLessThan(0.005);
  expect(Math.abs(mask.now - mean(new Uint8Array(found.map((v) => v / 257))))).toBeLessThan(0.005);
  expect(mask.now).toBeGreaterThan(0.1);
  expect(mask.words).toBeNull();
  // Under sodium lamps the light is another.
  expect(other.outcome!.report.words.join()).toContain('The light is another');
  expect(other.outcome!.remarks).toBeGreaterThan(0);
  // One step of the history, which undo takes back.
  expect((await editOf(ids.alike)).labels).toEqual(['2 layers from estuary-dusk.jpg']);
  await window.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(() => layersOf(ids.alike)).toEqual([]);
  await window.getByRole('button', { name: 'Redo' }).click();
  await expect.poll(() => layersOf(ids.alike)).toHaveLength(2);
  page = window;
  expectNoComplaints(complaints);
});

it('is told in a report, what is to be looked at first, with a way to mend it', async () => {
  await openPage(page, `/shoots/${shootId}`);
  await page.getByRole('region', { name: 'Carried' }).getByRole('link', { name: 'Report' }).click();
  const rows = page.getByRole('table').getByRole('row');
  await page.getByRole('heading', { name: 'From estuary-dusk.jpg to 2 photographs' }).waitFor();
  expect(await rows.nth(1).textContent()).toMatch(/lane-sodium\.jpg.*The light is another/);
  expect(await violations(page)).toEqual([]);
  await page.getByRole('radio', { name: 'To look at' }).click();
  await rows.nth(1).getByRole('link', { name: 'Mend' }).click();
  await page.locator('main[data-painted=true]').waitFor();
  // The mask that is meant is in work, and all that came along is listed.
  await page.getByRole('region', { name: 'Came along' }).getByRole('button', { name: /^Sky/ }).waitFor();
  await page.getByRole('complementary', { name: 'Desk' }).getByText('Sky').first().waitFor();
  await page.getByRole('link', { name: 'Report' }).click();
  await page.getByRole('button', { name: 'Take back on lane-sodium.jpg' }).click();
  await expect.poll(() => layersOf(ids.other)).toEqual([]);
  await page.getByText('Taken back').waitFor();
  expect(await layersOf(ids.alike)).toHaveLength(2);
  expectNoComplaints(complaints);
});

it('brings what changed since, and leaves what was changed there', async () => {
  await openBench(page, ids.alike);
  await page.getByRole('row', { name: 'Light' }).click({ position: { x: 90, y: 32 } });
  await setNumber(page, 'Exposure', 1.25);
  await kept(page);
  await change(ids.from, (draft) => {
    Object.assign(draft.layers[0]!.what.settings, { stops: 0.75 });
    draft.layers[1]!.how.opacity = 0.4;
    draft.layers.push(adjustmentLayer('more', 'whiteBalance', 'More'));
  });
  await openPage(page, `/shoots/${shootId}`);
  await page.getByRole('button', { name: 'More about estuary-dusk.jpg' }).click();
  await page.getByRole('menuitem', { name: 'Carry its edit to others…' }).click();
  await page.getByRole('dialog').getByRole('row', { name: 'estuary-2.jpg' }).click();
  await chooseHow('Only what changed since');
  await page.getByRole('button', { name: 'Carry to estuary-2.jpg' }).click();
  const carry = await carried(2);
  expect(toOf(carry, ids.alike).outcome!.kept).toEqual(['Light']);
  const layers = await layersOf(ids.alike);
  expect(layers.map(({ name, how, what }) => [name, how.opacity, (what.settings as { stops?: number }).stops])).toEqual([
    ['Light', 1, 1.25],
    ['Tone', 0.4, undefined],
    ['More', 1, undefined],
  ]);
  await page.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('region', { name: 'Carried' }).getByRole('link', { name: 'Report' }).first().click();
  await page.getByText('Changed here as well, and kept: Light.').waitFor();
  await page.getByRole('button', { name: 'Take back on all' }).click();
  await expect.poll(async () => (await layersOf(ids.alike)).map(({ name }) => name)).toEqual(['Light', 'Tone']);
  expectNoComplaints(complaints);
});

it('compares what photographs have in common, the farthest first', async () => {
  const labOf = async (id: number): Promise<Lab> => {
    const facts = await get<ColourFacts[]>(`/api/shoots/${shootId}/colours?of=${id}`);
    return facts[0]!.regions.find(({ role }) => role === 'sky')!.lab;
  };
  await openPage(page, `/shoots/${shootId}`);
  await page.getByRole('button', { name: 'More about Carried', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Compare colours' }).click();
  const rows = page.getByRole('table').getByRole('row');
  await expect.poll(() => rows.count()).toBe(3);
  await page.getByRole('button', { name: /Against$/ }).click();
  await page.getByRole('option', { name: 'estuary-2.jpg' }).click();
  const off = deltaE2000(await labOf(ids.alike), await labOf(ids.from)).toFixed(1);
  await expect.poll(() => rows.nth(1).textContent()).toMatch(new RegExp(`^estuary-dusk\\.jpg${off}`));
  expect(await rows.nth(2).textContent()).toMatch(/^estuary-2\.jpg0\.0/);
  expect(await violations(page)).toEqual([]);
  // The page follows what is done to the edits.
  await change(ids.from, (draft) => void Object.assign(draft.layers[0]!.what.settings, { stops: -2 }));
  await expect.poll(async () => deltaE2000(await labOf(ids.alike), await labOf(ids.from))).toBeGreaterThan(Number(off) + 2);
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'CSV' }).click()]);
  expect(await readFile(await download.path(), 'utf8')).toMatch(/^photograph,L,a,b,.*\r\nestuary-dusk\.jpg,/);

  // Solved and shown before anything is changed, then made.
  const { labels } = await editOf(ids.from);
  await page.getByRole('button', { name: 'Bring together…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Bring Sky together' });
  const tried = dialog.getByRole('listitem', { name: 'estuary-dusk.jpg' });
  await tried.getByRole('img', { name: 'estuary-dusk.jpg, tried' }).waitFor();
  expect(Number(/→ (\d+\.\d)/.exec((await tried.textContent())!)![1])).toBeLessThan(1);
  expect(await violations(page, '[role=dialog]')).toEqual([]);
  expect((await editOf(ids.from)).labels).toEqual(labels);
  await dialog.getByRole('button', { name: 'Bring one together' }).click();
  await page.getByRole('listitem', { name: 'Sky brought together on one photograph' }).waitFor();
  await expect.poll(async () => deltaE2000(await labOf(ids.alike), await labOf(ids.from))).toBeLessThan(1);
  expect((await editOf(ids.from)).labels).toEqual([...labels, 'Sky brought together']);
  await expect.poll(() => rows.nth(1).getAttribute('data-outlier')).toBeNull();
  await rows.last().getByRole('link').click();
  await page.locator('main[data-painted=true]').waitFor();
  expectNoComplaints(complaints);
});
