/** Ways of working that are kept: saved on the bench, tried before anything is changed, run, brought up to date, let go, as a file. */
import { readFile } from 'node:fs/promises';
import { adjustmentLayer, childrenOf, everywhere, type Layer, type Reading } from '@umbo/core/document';
import { maskPartKind, type EllipsePart } from '@umbo/core/mask';
import type { CarryDetail, CarrySummary, ColourFacts, TreatmentSummary } from '@umbo/data';
import type { Browser, BrowserContext, Page } from 'playwright-core';
import sharp from 'sharp';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { demo } from '../core/test/measures.ts';
import {
  change,
  editOf,
  expectNoComplaints,
  get,
  kept,
  launch,
  newPage,
  openBench,
  openPage,
  ownShoot,
  selectLayers,
  setNumber,
  violations,
  write,
} from './harness.ts';

const complaints: string[] = [];
let browser: Browser;
let context: BrowserContext;
let page: Page;
let shootId: number;
const ids = { from: 0, first: 0, second: 0 };

/** The one group of a photograph's treatment, and what is in it. */
async function groupOf(id: number): Promise<{ group: Layer; inside: Layer[] }> {
  const group = (await editOf(id)).document.layers.find(({ what }) => what.kind === 'group')!;
  return { group, inside: childrenOf(group) };
}
const settingsOf = async (id: number): Promise<unknown[]> => (await groupOf(id)).inside.map(({ what }) => what.settings);
const own = async (): Promise<TreatmentSummary[]> =>
  (await get<TreatmentSummary[]>('/api/treatments')).filter(({ isStarter }) => !isStarter);

beforeAll(async () => {
  browser = await launch();
  context = await browser.newContext();
  page = await newPage(context, complaints);
});
afterAll(() => browser.close());

it('are saved on the bench: which settings are found anew is chosen', async () => {
  const openOwn = ownShoot('Treated');
  ids.first = (await openOwn(page, 'stool.jpg')).id;
  ids.second = (await openOwn(page, 'fruit.jpg')).id;
  ids.from = (await openOwn(page, 'vases.jpg')).id;
  shootId = (await get<{ id: number; name: string }[]>('/api/shoots')).find(({ name }) => name === 'Treated')!.id;
  const photo = (await editOf(ids.from)).document.photo;
  await change(ids.from, (draft) => {
    const part: EllipsePart = maskPartKind<EllipsePart>('ellipse').create('patch-e', 'add', photo);
    draft.regions = [{ id: 'patch', name: 'Patch', where: { ...everywhere(), parts: [part] } }];
    const reading: Reading = { id: 'patch-r', letter: 'A', name: 'Patch', where: { ...everywhere(), link: 'patch' } };
    draft.readings = [{ ...reading, target: { kind: 'colour', lab: { l: 60, a: 0, b: 0 } } }];
    draft.layers.push(adjustmentLayer('contrast', 'tone', 'Contrast'));
    Object.assign(draft.layers[0]!.what.settings, { contrast: 10 });
  });
  await openBench(page, ids.from);
  await page
    .getByRole('button', { name: /^Patch/ })
    .first()
    .waitFor();
  // The reading is brought to its target by a new layer, which remembers what it was solved for.
  await page.getByRole('button', { name: 'Patch', exact: true }).click();
  await page.getByRole('button', { name: 'Match by…' }).click();
  await page.getByRole('menuitem', { name: 'Curves', exact: true }).click();
  await page.getByRole('row', { name: 'Curves on Patch' }).waitFor();
  const found = page.getByRole('group', { name: 'Found for readings' });
  await found.getByText('Found for A').waitFor();
  await found.getByRole('button', { name: 'Solve again' }).click();
  await kept(page);

  await selectLayers(page, 'Contrast', 'Curves on Patch');
  await page.keyboard.press('h');
  await page.getByRole('row', { name: /^Group/ }).waitFor();
  await page.getByRole('button', { name: /^More about Group/ }).click();
  await page.getByRole('menuitem', { name: 'Save as a treatment…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Save as a treatment' });
  await dialog.getByRole('textbox', { name: 'Name' }).fill('Patch to grey');
  await dialog.getByRole('textbox', { name: 'Note' }).fill('For the still lifes.');
  expect(await dialog.getByRole('radio', { name: 'Solved anew' }).isChecked()).toBe(true);
  expect(await violations(page, '[role=dialog]')).toEqual([]);
  await dialog.getByRole('button', { name: 'Save' }).click();
  await page.getByText('Kept as “Patch to grey”, version 1').waitFor();
  await kept(page);
  const [treatment] = await own();
  expect(treatment).toMatchObject({ name: 'Patch to grey', note: 'For the still lifes.', version: 1 });
  expect((await groupOf(ids.from)).group.treatment).toEqual({ id: treatment!.id, version: 1 });
  expectNoComplaints(complaints);
});

it('are tried with nothing changed, run as strong as wanted, and solved on each photograph', async () => {
  await openPage(page, `/shoots/${shootId}`);
  await page.getByRole('row', { name: 'stool.jpg' }).click({ position: { x: 60, y: 50 } });
  await page.getByRole('row', { name: 'fruit.jpg' }).click({ position: { x: 60, y: 50 }, modifiers: ['Control'] });
  await page.getByRole('button', { name: 'More…' }).click();
  await page.getByRole('menuitem', { name: 'Try treatments' }).click();
  await page.getByRole('option', { name: 'Patch to grey' }).click();
  // As if the server took its time: until then what comes along is shown as it is, painted in the window.
  let isHeld = true;
  await page.route('**/api/carries/*', async (route) => {
    const response = await route.fetch();
    const answer = (await response.json()) as CarryDetail;
    const to = answer.to?.map((one) => (isHeld && one.state === 'done' ? { ...one, state: 'running', outcome: null } : one));
    await route.fulfill({ response, json: { ...answer, to, ...(isHeld && { done: 0 }) } });
  });
  await page.getByRole('button', { name: 'Try on 2 photographs' }).click();
  const cards = page.getByRole('list', { name: 'What would come of it' });
  const painted = cards.getByRole('img', { name: /as it comes along$/ });
  await expect.poll(() => painted.count()).toBe(2);
  await cards.getByText('A first look: what it needs is still being found on this photograph.').first().waitFor();
  const shown = await cards.getByRole('img', { name: 'stool.jpg, as it comes along' }).evaluate((canvas: HTMLCanvasElement) => ({
    size: [canvas.width, canvas.height],
    data: [...canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height).data],
  }));
  const own = await sharp(demo('photographs/stool.jpg'))
    .resize(shown.size[0], shown.size[1], { fit: 'fill' })
    .ensureAlpha()
    .raw()
    .toBuffer();
  expect(shown.data.reduce((total, v, i) => total + Math.abs(v - own[i]!), 0) / own.length).toBeGreaterThan(1);
  isHeld = false;
  await page.reload();
  await page.getByText('Nothing is changed yet.').waitFor();
  await page.unrouteAll();
  await expect.poll(() => cards.getByRole('img').count()).toBe(2);
  for (const name of ['stool.jpg', 'fruit.jpg'])
    expect(await cards.getByRole('listitem', { name }).textContent()).toMatch(/Patch: ΔE00 \d+\.\d → 0\.\d/);
  expect((await editOf(ids.first)).labels).toEqual([]);
  expect(await violations(page)).toEqual([]);
  await setNumber(page, 'Strength', 50);
  expect(await cards.getByRole('img', { name: 'stool.jpg, tried' }).evaluate((image) => getComputedStyle(image).opacity)).toBe('0.5');
  await page.getByRole('button', { name: 'Run on 2 photographs' }).click();
  // The photograph that it was made on uses it as well.
  await page.getByText('3 photographs use it').waitFor();
  await expect.poll(async () => (await editOf(ids.second)).labels).toEqual(['Patch to grey']);
  const [first, second] = [await groupOf(ids.first), await groupOf(ids.second)];
  expect([first.group.how.opacity, second.group.how.opacity]).toEqual([0.5, 0.5]);
  expect(first.inside[0]!.what.settings).toEqual(second.inside[0]!.what.settings);
  expect(first.inside[1]!.what.settings).not.toEqual(second.inside[1]!.what.settings);
  // Half of the way, not all of it with twice the effort.
  const [{ id }] = (await get<CarrySummary[]>(`/api/shoots/${shootId}/carries`)) as [CarrySummary];
  // What came of a photograph is measured after its edit was changed.
  const outcome = async () => (await get<CarryDetail>(`/api/carries/${id}`)).to[0]!.outcome;
  await expect.poll(outcome).not.toBeNull();
  const { before, after } = (await outcome())!.answered[0]!.reached[0]!;
  expect(after).toBeLessThan(1);
  const wanted = [{ id: ids.second, revision: (await editOf(ids.second)).revision }];
  const off = async (): Promise<number> => {
    await write('/api/previews', { wanted });
    return (await get<ColourFacts[]>(`/api/shoots/${shootId}/colours?of=${ids.second}`))[0]!.readings[0]?.off ?? 0;
  };
  await expect.poll(off).toBeGreaterThan(before * 0.3);
  expectNoComplaints(complaints);
});

it('come in a next version to the photographs that use them, with what was changed there; one that was let go stays', async () => {
  await change(ids.second, (draft) => {
    const group = draft.layers.find(({ what }) => what.kind === 'group')!;
    Object.assign(childrenOf(group)[1]!, { name: 'My own grey' });
    Object.assign(group.how, { opacity: 0.8 });
  });
  const [, solvedBefore] = await settingsOf(ids.first);
  await openBench(page, ids.from);
  await page.getByRole('row', { name: 'Contrast' }).click({ position: { x: 90, y: 32 } });
  await setNumber(page, 'Contrast', 35);
  await kept(page);
  await page.getByRole('button', { name: /^More about Group/ }).click();
  await page.getByRole('menuitem', { name: 'Save as a treatment…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Save as a treatment' });
  await dialog.getByRole('button', { name: /Version 2 of Patch to grey/ }).waitFor();
  await dialog.getByRole('button', { name: 'Save' }).click();
  await page.getByText('version 2: it is among the treatments').waitFor();
  await kept(page);
  const [{ id }] = (await own()) as [TreatmentSummary];

  await openPage(page, `/treatments?shoot=${shootId}&show=${id}`);
  await page.getByRole('button', { name: 'Bring 2 up to date' }).click();
  await expect.poll(() => page.getByText('up to date', { exact: true }).count()).toBe(3);
  for (const one of [ids.first, ids.second]) expect((await settingsOf(one))[0]).toMatchObject({ contrast: 35 });
  const second = await groupOf(ids.second);
  expect([second.group.how.opacity, second.inside[1]!.name, second.group.treatment!.version]).toEqual([0.8, 'My own grey', 2]);
  // More contrast below it: what is solved for is another.
  expect((await settingsOf(ids.first))[1]).not.toEqual(solvedBefore);
  await page.getByRole('list', { name: 'Photographs that use it' }).getByRole('button', { name: 'Let go' }).nth(1).click();
  await page.getByText('2 photographs use it').waitFor();
  expectNoComplaints(complaints);
});

it('go as a file and come back; what is no treatment changes nothing', async () => {
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save as a file' }).click()]);
  expect(download.suggestedFilename()).toBe('Patch to grey.umbo-treatment.json');
  const text = await readFile(await download.path(), 'utf8');
  await page.getByRole('button', { name: 'Remove it' }).click();
  await page.getByRole('alertdialog').getByRole('button', { name: 'Remove' }).click();
  await expect.poll(own).toEqual([]);
  const open = (name: string, content: string): Promise<void> =>
    page.getByLabel('A treatment’s file').setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(content) });
  for (const [name, content] of [
    ['notes.json', 'not JSON'],
    ['list.json', '[]'],
    ['deep.json', `${'['.repeat(5000)}${']'.repeat(5000)}`],
    ['other.json', text.replace('umbo-treatment', 'umbo-else')],
    ['huge.json', text.replace('"opacity":1', '"opacity":1e9')],
    ['odd.json', text.replace('"note":', '"__proto__":{"name":"x"},"note":')],
  ] as const) {
    await open(name, content);
    await page
      .getByRole('alert')
      .filter({ hasText: `“${name}” was not opened.` })
      .waitFor();
  }
  expect(await own()).toEqual([]);
  await open('back.json', text);
  await page.getByRole('heading', { name: 'Patch to grey' }).waitFor();
  expect(await page.getByRole('list', { name: 'Layers of the treatment' }).getByRole('listitem').count()).toBe(2);
  await page.getByRole('radio', { name: 'As numbers' }).click();
  await expect
    .poll(async () => (await get<{ treatment: { solve: string[] } }>(`/api/treatments/${(await own())[0]!.id}`)).treatment.solve)
    .toEqual([]);
  // The refused files are the browser's only complaints.
  expect(complaints.splice(0).filter((one) => !/status of 400/.test(one))).toEqual([]);
});
