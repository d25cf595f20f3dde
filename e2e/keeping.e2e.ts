/** Random schedules of two windows in the real browser, with the server kept away, answers lost, reloads and windows that are gone. */
import { readFile } from 'node:fs/promises';
import type { UmboDocument } from '@umbo/core/document';
import type { Browser, BrowserContext, Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import {
  addLayer,
  editOf,
  hueSaturation,
  kept,
  launch,
  newPage,
  openBench,
  ownShoot,
  selectLayers,
  setNumber,
  violations,
} from './harness.ts';

/** Thousands run in the unit tests, against the same state machine; here the browser's own parts are tried. */
const SCHEDULES = 8;
const STEPS = 6;

let browser: Browser;
let context: BrowserContext;
const complaints: string[] = [];
const open = ownShoot('Schedules');

beforeAll(async () => {
  browser = await launch();
  context = await browser.newContext();
});
afterAll(() => browser.close());

/** The same numbers at every run. */
let seed = 7;
const choose = (n: number): number => {
  seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648;
  return Math.floor((seed / 2_147_483_648) * n);
};

/** A window of its own layer. */
interface Own {
  page: Page;
  layer: string;
  /** The last hue that was set in it. */
  hue: number;
}

it('leave windows and server equal, and every window’s own layer as it was set last', async () => {
  const first = await newPage(context, complaints);
  const { id } = await open(first, 'smile.jpg');
  await addLayer(first);
  await addLayer(first);
  await kept(first);
  const second = await newPage(context, complaints);
  await openBench(second, id);
  const windows: Own[] = [
    { page: first, layer: 'Layer 1', hue: 0 },
    { page: second, layer: 'Layer 2', hue: 0 },
  ];
  const away = '**/changes';
  const hueOf = async (name: string): Promise<number> =>
    hueSaturation((await editOf(id)).document.layers.find((layer) => layer.name === name)!.what).hue;
  /**
   * Kept, whatever it took: what was changed again before it was found again, here or in the other window, is asked about. The newest
   * value of a layer is in its own window.
   */
  const answered = async ({ page, layer }: Own): Promise<void> => {
    const question = page.getByRole('alertdialog');
    await question
      .or(page.getByTestId('keep-status').filter({ hasText: 'All changes kept' }))
      .first()
      .waitFor();
    if (await question.isVisible()) {
      const found = question.getByRole('button', { name: 'What is here now' });
      const own = (await question.innerText()).includes(layer) ? 'This window’s' : 'The other window’s';
      await found.or(question.getByRole('button', { name: own })).click();
    }
    await kept(page);
  };
  const reload = async (own: Own): Promise<void> => {
    await openBench(own.page, id);
    await selectLayers(own.page, own.layer);
  };
  for (const own of windows) {
    own.page.on('dialog', (dialog) => void dialog.accept().catch(() => undefined));
    await selectLayers(own.page, own.layer);
  }

  for (let schedule = 0; schedule < SCHEDULES; schedule++) {
    for (let step = 0; step < STEPS; step++) {
      const own = windows[choose(2)]!;
      const action = choose(7);
      if (action <= 2) {
        own.hue = ((schedule * STEPS + step) % 170) + 1;
        await setNumber(own.page, 'Hue', own.hue);
      } else if (action === 3) await own.page.route(away, (route) => route.abort().catch(() => undefined));
      else if (action === 4)
        // The server gets it, and its answer is lost.
        await own.page.route(away, async (route) => {
          await route.fetch().catch(() => undefined);
          await route.abort().catch(() => undefined);
        });
      else if (action === 5) await own.page.unroute(away);
      else await reload(own);
    }
    for (const { page } of windows) await page.unroute(away);
    for (const own of windows) await answered(own);
    for (const own of windows) {
      // What a window left that was reloaded is taken over by the next.
      await expect.poll(() => hueOf(own.layer), { message: `${own.layer} after schedule ${schedule}` }).toBe(own.hue);
      await expect.poll(() => own.page.getByRole('textbox', { name: 'Hue, number' }).inputValue()).toMatch(new RegExp(`^[+]?${own.hue}°$`));
      expect(await own.page.getByRole('alertdialog').count()).toBe(0);
    }
  }
  // All of it can be walked back, and forth again.
  const { labels, document } = await editOf(id);
  const last = windows[0]!.page;
  await last.reload();
  await last.locator('main[data-painted=true]').waitFor();
  for (let i = 0; i < 5; i++) await last.keyboard.press('Control+z');
  await kept(last);
  for (let i = 0; i < 5; i++) await last.keyboard.press('Control+Shift+z');
  await kept(last);
  await expect.poll(async () => (await editOf(id)).document).toEqual(document);
  expect((await editOf(id)).labels).toEqual(labels);
});

it('a change that the server refuses is set aside as a file; all else is kept, also after a reload', async () => {
  const page = await newPage(context, []);
  const { id } = await open(page, 'smile.jpg');
  await addLayer(page);
  await kept(page);
  // As if this server knew a limit that the window does not.
  await page.route('**/changes', (route) => {
    const { changes } = route.request().postDataJSON() as { changes: { entry?: { label: string } }[] };
    const isOdd = changes.some(({ entry }) => entry?.label.includes('Saturation'));
    const detail = 'The edit is not valid: it is too colourful.';
    return isOdd ? route.fulfill({ status: 400, contentType: 'application/problem+json', body: JSON.stringify({ detail }) }) : route.continue(); // prettier-ignore
  });
  await setNumber(page, 'Hue', 11);
  await setNumber(page, 'Saturation', 22);
  await setNumber(page, 'Lightness', 7);
  await kept(page);
  const settings = async () => hueSaturation((await editOf(id)).document.layers.at(-1)!.what);
  expect(await settings()).toMatchObject({ hue: 11, saturation: 0, lightness: 7 });
  const aside = page.getByRole('button', { name: '1 change set aside' });
  await aside.waitFor();
  await openBench(page, id);
  await aside.click();
  await page.getByText('it is too colourful').waitFor();
  expect(await violations(page)).toEqual([]);
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save the edit with it' }).click()]);
  const saved = JSON.parse(await readFile(await file.path(), 'utf8')) as UmboDocument;
  expect(hueSaturation(saved.layers.at(-1)!.what).saturation).toBe(22);
  await page.getByRole('button', { name: 'Let go of it' }).click();
  await aside.waitFor({ state: 'detached' });
});
