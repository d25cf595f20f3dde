/** The bench as a tool used all day: keyboard, undo, reload, two windows, keeping through trouble, accessibility. */
import { request as httpRequest } from 'node:http';
import type { Browser, BrowserContext, Page } from 'playwright-core';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  addLayer,
  addPart,
  base,
  colourAt,
  compare,
  drag,
  editOf,
  eventually,
  expectNoComplaints,
  fitted,
  hueSaturation,
  kept,
  launch,
  more,
  newPage,
  openBench,
  openPage,
  photographs,
  setBlendMode,
  setNumber,
  standing,
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
  page = await newPage(context, complaints);
  shoot = await photographs('Saltings catalogue');
});
afterAll(() => browser.close());

const photo = (name: string): number => shoot.find((candidate) => candidate.name === name)!.id;
const layers = async (id: number) => (await editOf(id)).document.layers;
describe('layers', () => {
  it('are made, named, switched, moved, copied, deleted, blended; all of it undone and redone, also after a reload', async () => {
    const id = photo('vases.jpg');
    await openBench(page, id);
    await page.getByRole('main').focus();
    await page.keyboard.press('n');
    await page.keyboard.press('n');
    const grid = page.getByRole('grid', { name: 'Layers' });
    expect(await grid.getByRole('row').count()).toBe(2);

    await page.getByRole('button', { name: 'More about Layer 2' }).click();
    await page.getByRole('menuitem', { name: 'Rename…' }).click();
    await page.getByRole('dialog').getByRole('textbox').fill('Glaze');
    await page.keyboard.press('Enter');
    await setNumber(page, 'Hue', 90);
    await page.getByRole('button', { name: 'More about Glaze' }).click();
    await page.getByRole('menuitem', { name: 'Act earlier' }).click();
    await page.getByRole('button', { name: /Blend mode/ }).click();
    await page.getByRole('option', { name: 'Soft light' }).click();
    await setNumber(page, 'Opacity', '100 / 2');
    await page.getByRole('button', { name: 'Glaze off' }).click();
    await page.getByRole('main').focus();
    await page.keyboard.press('c');
    await page.getByRole('row', { name: /Layer 1/ }).click();
    await page.getByRole('main').focus();
    await page.keyboard.press('Delete');
    await kept(page);
    const state = await editOf(id);
    expect(state.document.layers.map(({ name, on, how, what }) => [name, on, how.mode, how.opacity, hueSaturation(what).hue])).toEqual([
      ['Glaze', false, 'soft-light', 0.5, 90],
      ['Glaze copy', false, 'soft-light', 0.5, 90],
    ]);
    expect(state.labels).toContain('Hue +90° on Glaze');
    expect(state.position).toBe(state.labels.length);

    await page.reload();
    await page.locator('main[data-painted=true]').waitFor();
    for (let i = 0; i < state.labels.length; i++) {
      await page.keyboard.press('Control+z');
      await page.waitForTimeout(60);
    }
    await page.getByText('What is to be done?').waitFor();
    await expect.poll(() => layers(id)).toEqual([]);
    await page.reload();
    await page.locator('main[data-painted=true]').waitFor();
    await page.getByRole('button', { name: state.labels.at(-1)! }).click();
    await expect.poll(() => layers(id)).toEqual(state.document.layers);
    expectNoComplaints(complaints);
  });

  it('are moved by dragging a card with the keyboard', async () => {
    const id = photo('vases.jpg');
    await page.getByRole('row', { name: 'Glaze copy' }).click();
    await page.getByRole('button', { name: 'Move Glaze copy' }).focus();
    await page.keyboard.press('Enter');
    // The drag begins a moment later; then arrows go from place to place, each announced by its name.
    const place = (): Promise<string> => page.evaluate(() => document.activeElement?.getAttribute('aria-label') ?? '');
    await expect.poll(place).toMatch(/^(Insert|Drop)/);
    for (let i = 0; i < 10 && (await place()) !== 'Insert before Glaze'; i++) {
      await page.keyboard.press('ArrowLeft');
      await page.waitForTimeout(80);
    }
    expect(await place()).toBe('Insert before Glaze');
    await page.keyboard.press('Enter');
    await expect.poll(async () => (await layers(id)).map(({ name }) => name)).toEqual(['Glaze copy', 'Glaze']);
  });
});

describe('the stage', () => {
  it('shows changes live, before, wipe and the masks', async () => {
    const id = photo('enamel-red.jpg');
    await openBench(page, id);
    const { width, height } = (await (await fetch(`${base()}/api/photographs/${id}`)).json()) as { width: number; height: number };
    const at = await fitted(page, { width, height });
    await addLayer(page);
    await addPart(page, 'Hue range');
    // The jug: found by its red in the picture itself.
    const shot = await sharp(await page.screenshot())
      .removeAlpha()
      .raw()
      .toBuffer();
    let jug: [number, number] = [0, 0];
    let reddest = 100;
    for (let y = 200; y < 700; y += 3)
      for (let x = 300; x < 900; x += 3) {
        const i = (y * 1280 + x) * 3;
        const red = shot[i]! - Math.max(shot[i + 1]!, shot[i + 2]!);
        if (red > reddest) [jug, reddest] = [[x, y], red];
      }
    expect(jug[0]).toBeGreaterThan(0);
    const wall = at(60, 60);
    const [before, wallBefore] = [await colourAt(page, jug), await colourAt(page, wall)];

    await setNumber(page, 'Hue', 180);
    const after = await eventually(page, jug, ([r, , b]) => b! > r!);
    expect(await colourAt(page, wall)).toEqual(wallBefore);
    await page.getByRole('main').focus();
    await page.keyboard.press('q');
    expect(await eventually(page, jug, ([r]) => r === before[0])).toEqual(before);
    await page.keyboard.press('q');
    await eventually(page, jug, ([r]) => r === after[0]);
    await page.keyboard.press('w');
    await page.getByRole('slider', { name: 'Wipe between before and after' }).waitFor();
    await page.keyboard.press('w');

    await page.keyboard.press('4');
    expect(await eventually(page, jug, ([r, g, b]) => r === g && g === b)).toEqual([255, 255, 255]);
    expect(await eventually(page, wall, ([r]) => r! < 40)).toBeDefined();
    await page.keyboard.press('3');
    const dim = await eventually(page, wall, ([r, g, b]) => r === g && g === b && r! > 40);
    // Grey of another lightness than what the mask lets in, so that it separates on monochrome pictures, too.
    const inside = 0.3 * after[0]! + 0.59 * after[1]! + 0.11 * after[2]!;
    expect(Math.abs(dim[0]! - inside)).toBeGreaterThan(60);
    expect(await colourAt(page, jug)).toEqual(after);
    await page.keyboard.press('2');

    await page.mouse.move(...jug);
    const readout = page.getByTestId('readout');
    await readout.waitFor();
    await expect.poll(async () => (await readout.innerText()).replace(/\s+/g, ' ')).toContain(`RGB ${before.join(' ')} ${after.join(' ')}`);
    expectNoComplaints(complaints);
  });

  it('says when a part of the picture failed, until the whole of it is there again', async () => {
    const id = photo('vases.jpg');
    await openBench(page, id);
    await page.getByRole('main').focus();
    await page.keyboard.press('n');
    await setNumber(page, 'Hue', 30);
    const stage = async (): Promise<string> => (await standing(page, (await page.getByRole('main').boundingBox())!)).toString('base64');
    const failure = page.getByRole('alert').filter({ hasText: 'Out of order' });
    const workers = page.workers();
    // A worker fails in the middle of its work: the second band that it takes.
    for (const worker of workers)
      await worker.evaluate(() => {
        const { add } = Atomics;
        let bands = 0;
        const failing = (of: Int32Array, at: number, value: number): number => {
          if (++bands < 2) return add(of, at, value);
          Atomics.add = add;
          throw new Error('Out of order');
        };
        Atomics.add = failing as typeof add;
      });
    await setNumber(page, 'Hue', 90);
    await failure.waitFor();
    // A change of nothing but one masked region would do with the rest of the picture, were the rest sound.
    await addPart(page, 'Luminosity');
    await failure.waitFor({ state: 'detached' });
    await kept(page);
    await page.mouse.move(640, 790);
    const after = await stage();
    await page.reload();
    await page.locator('main[data-painted=true]').waitFor();
    expect(after).toBe(await stage());
  });

  it('stays in its place: the page never scrolls, letters are keys wherever the focus was left, bars lie on their tracks', async () => {
    const id = photo('vases.jpg');
    await openBench(page, id);
    await addLayer(page, 'Colour families');
    await addPart(page, 'Luminosity');
    const desk = page.getByRole('region', { name: 'Where' }).locator('..');
    expect(await desk.evaluate((element) => element.scrollHeight > element.clientHeight)).toBe(true);
    await desk.hover();
    for (let i = 0; i < 20; i++) await page.mouse.wheel(0, 400);
    expect(await page.evaluate(() => [document.scrollingElement!.scrollHeight - innerHeight, scrollY])).toEqual([0, 0]);

    // From its neutral middle to +40 the bar is a fifth of the track, and as thin as it.
    await setNumber(page, 'Reds, hue', 40);
    await kept(page);
    const bar = (await page.getByRole('group', { name: 'Reds, hue' }).locator('i').last().boundingBox())!;
    expect(bar.height).toBeLessThan(5);
    expect(bar.width).toBeGreaterThan(6);

    await setBlendMode(page, 'Multiply');
    await page.keyboard.press('d');
    expect(await page.getByRole('radio', { name: 'Paint', exact: true }).getAttribute('aria-checked')).toBe('true');
    await page.keyboard.press('s');
    await kept(page);
    const layer = (await layers(id)).find(({ what }) => what.kind === 'colourFamilies');
    expect([layer!.how.mode, layer!.on]).toEqual(['multiply', false]);
    await page.getByRole('main').focus();
    await page.keyboard.press('Delete');
    await kept(page);
  });

  it('paints, swaps to erase on one key, takes simple sums, and zooms about the pointer', async () => {
    const id = photo('fruit.jpg');
    await openBench(page, id);
    const { width, height } = (await (await fetch(`${base()}/api/photographs/${id}`)).json()) as { width: number; height: number };
    const at = await fitted(page, { width, height });
    await addLayer(page);
    await setNumber(page, 'Lightness', -100);
    await page.getByRole('main').focus();
    await page.keyboard.press('d');
    const middle = at(width / 2, height / 2);
    await addPart(page, 'Brush');
    await setNumber(page, 'Brush size', 300);
    await setNumber(page, 'Flow', 100);
    await setNumber(page, 'Hardness', 100);
    await drag(page, [middle, [middle[0] + 30, middle[1]]]);
    await eventually(page, middle, ([r, g, b]) => r! + g! + b! < 6);
    await page.keyboard.press('d');
    await drag(page, [middle, [middle[0] + 2, middle[1]]]);
    await eventually(page, middle, ([r, g, b]) => r! + g! + b! > 60);
    await kept(page);
    const [layer] = await layers(id);
    expect(layer!.where.parts).toHaveLength(1);
    const [part] = layer!.where.parts;
    expect(part?.kind === 'brush' && part.strokes.map(({ erase, size }) => [erase, size])).toEqual([
      [false, 300],
      [true, 300],
    ]);
    await page.keyboard.press('a');
    await page.mouse.move(...middle);
    await page.mouse.wheel(0, -900);
    await page
      .locator('footer')
      .filter({ hasText: /1\d\d %/ })
      .waitFor();
    await page.getByRole('main').focus();
    await page.keyboard.press('f');
    await page.keyboard.press('?');
    await page.getByRole('dialog', { name: 'Keys' }).getByRole('textbox').fill('spotlight');
    await page.getByRole('dialog').getByText('Spotlight').waitFor();
    await page.keyboard.press('Escape');
    expectNoComplaints(complaints);
  });
});

describe('keeping', () => {
  it('two windows on one photograph: changes of different layers join, changes of the same layer ask', async () => {
    const id = photo('pinafore.jpg');
    await openBench(page, id);
    await page.getByRole('main').focus();
    await page.keyboard.press('n');
    await page.keyboard.press('n');
    await kept(page);
    const other = await newPage(context, complaints);
    await openBench(other, id);

    // At rest, a window follows the other.
    await setNumber(other, 'Hue', 15);
    await kept(other);
    await expect.poll(() => page.getByRole('textbox', { name: 'Hue, number' }).inputValue()).toBe('+15°');

    // Both at once: the server is kept away while both change something.
    const hold = (p: Page) => p.route('**/changes', (route) => route.abort());
    await Promise.all([hold(page), hold(other)]);
    await page.getByRole('row', { name: /Layer 1/ }).click();
    await setNumber(page, 'Saturation', -30);
    await setNumber(other, 'Lightness', 12);
    await page.getByTestId('keep-status').filter({ hasText: 'Not kept yet' }).waitFor();
    await other.getByTestId('keep-status').filter({ hasText: 'Not kept yet' }).waitFor();
    await page.unroute('**/changes');
    await kept(page);
    await other.unroute('**/changes');
    await kept(other);
    const joined = await layers(id);
    expect(joined.map(({ what }) => [hueSaturation(what).hue, hueSaturation(what).saturation, hueSaturation(what).lightness])).toEqual([
      [0, -30, 0],
      [15, 0, 12],
    ]);

    await Promise.all([hold(page), hold(other)]);
    await setNumber(page, 'Hue', 40);
    await other.getByRole('row', { name: /Layer 1/ }).click();
    await setNumber(other, 'Hue', 70);
    await page.getByTestId('keep-status').filter({ hasText: 'Not kept yet' }).waitFor();
    await other.getByTestId('keep-status').filter({ hasText: 'Not kept yet' }).waitFor();
    await page.unroute('**/changes');
    await kept(page);
    await other.unroute('**/changes');
    await other.getByRole('alertdialog').getByRole('button', { name: 'This window’s' }).click();
    await kept(other);
    expect(hueSaturation((await layers(id))[0]!.what).hue).toBe(70);
    expect((await editOf(id)).labels).toContain('Hue +40° on Layer 1');

    // In another browser, whose windows nobody tells anything but the server: followed at rest, and joined without a question.
    const elsewhere = await browser.newContext();
    const far = await newPage(elsewhere, complaints);
    await openBench(far, id);
    await setNumber(far, 'Lightness', -9);
    await kept(far);
    await page.getByRole('row', { name: /Layer 2/ }).click();
    await expect.poll(() => page.getByRole('textbox', { name: 'Lightness, number' }).inputValue()).toBe('−9');
    // Every window that is open keeps to one connection: more than browsers allow to one server still load.
    const more = await Promise.all(Array.from({ length: 7 }, () => newPage(elsewhere, complaints)));
    for (const one of more) await one.goto(`${base()}/hand-over`);
    await setNumber(page, 'Lightness', 4);
    await kept(page);
    await expect.poll(() => far.getByRole('textbox', { name: 'Lightness, number' }).inputValue()).toBe('+4');
    await elsewhere.close();
    await other.close();
    complaints.splice(0); // the browser tells of the aborted and the refused requests
  });

  it('a window that is closed before the server answered loses nothing', async () => {
    const id = photo('stool.jpg');
    const lost = await newPage(context, complaints);
    await openBench(lost, id);
    await context.setOffline(true);
    await setNumber(lost, 'Saturation', 77);
    await lost.getByTestId('keep-status').filter({ hasText: 'Not kept yet' }).waitFor();
    await lost.close({ runBeforeUnload: false });
    await context.setOffline(false);
    expect(hueSaturation((await layers(id)).at(-1)!.what).saturation).not.toBe(77);
    await openBench(page, id);
    await page.getByText('were found in this browser').waitFor();
    await kept(page);
    expect(hueSaturation((await layers(id)).at(-1)!.what).saturation).toBe(77);
    await page.getByRole('main').focus();
    await page.keyboard.press('Control+z');
    await expect.poll(async () => hueSaturation((await layers(id)).at(-1)!.what).saturation).not.toBe(77);
    complaints.splice(0); // the browser tells of the aborted requests
  });
});

describe('the doors', () => {
  it('writes are taken from the application’s own pages only, and broken ones get a problem response', async () => {
    const id = photo('vases.jpg');
    const path = `${base()}/api/photographs/${id}/changes`;
    const body = JSON.stringify({ id: 'x', database: 'd', base: 1, changes: [] });
    for (const headers of [{}, { Origin: 'http://evil.example' }, { Origin: 'null' }] as Record<string, string>[]) {
      const response = await fetch(path, { method: 'POST', headers, body });
      expect(response.status).toBe(403);
      expect(response.headers.get('content-type')).toBe('application/problem+json');
    }
    for (const [sent, words] of [
      ['{', /not valid JSON/],
      [body, /changes/],
    ] as const) {
      const response = await fetch(path, { method: 'POST', headers: { Origin: base() }, body: sent });
      expect(response.status).toBe(400);
      expect(((await response.json()) as { detail: string }).detail).toMatch(words);
    }
    expect((await fetch(`${base()}/api/photographs/999999`)).status).toBe(404);
    expect((await fetch(`${base()}/api/photographs/nonsense`)).status).toBe(404);
    expect((await fetch(`${base()}/photographs/999999`)).status).toBe(404);
    expect((await write('/api/shoots', { name: '   ' })).status).toBe(400);
    const home = await fetch(base());
    expect(home.headers.get('content-security-policy')).toMatch(/script-src 'self' 'nonce-[^']+' 'strict-dynamic'/);
    expect(home.headers.get('content-security-policy')).not.toMatch(/'unsafe-eval'/);
  });

  it('answer nobody else: other host names, other sites, malformed requests, another content', async () => {
    const id = photo('vases.jpg');
    /** By hand: fetch sets these itself. */
    const ask = (path: string, headers: Record<string, string> = {}, method = 'GET'): Promise<{ status: number; text: string }> =>
      new Promise((resolve, reject) => {
        const asked = httpRequest(base(), { path, method, headers }, (response) => {
          let text = '';
          response.on('data', (part: Buffer) => (text += part.toString())).on('end', () => resolve({ status: response.statusCode!, text }));
        });
        asked.on('error', reject).end();
      });
    for (const path of [`/photographs/${id}`, '/', '/api/shoots'])
      for (const more of [{}, { 'next-router-prefetch': '1' }, { 'next-router-prefetch': '1', RSC: '1' }] as Record<string, string>[]) {
        const { status, text } = await ask(path, { Host: 'evil.example', ...more });
        expect([307, 404, 421]).toContain(status); // Next answers some of its own requests by another address of the same page
        expect(text).not.toContain('vases');
      }
    for (const site of ['cross-site', 'same-site']) expect((await ask('/api/shoots', { 'Sec-Fetch-Site': site })).status).toBe(403);
    expect((await ask('/api/shoots', { 'Sec-Fetch-Site': 'same-origin' })).status).toBe(200);
    for (const path of ['/%', '/%ff', '/api/%c0']) expect((await ask(path)).status).toBe(400);
    for (const method of ['TRACE', 'PUT']) expect((await ask('/api/shoots', {}, method)).status).toBe(405);
    expect((await ask('/favicon.ico')).status).toBe(200);
    for (const query of ['level=0&from=0&to=4', `of=${'0'.repeat(64)}&level=0&from=0&to=4`])
      expect((await ask(`/api/photographs/${id}/pixels?${query}`)).status).toBe(404);
    expect((await ask(`/api/photographs/${id}/preview?database=another&revision=1`)).status).toBe(404);
    expect((await ask(`/api/photographs/${id}/preview?revision=999999999`)).status).toBe(404);
  });

  it('say what is wrong in sentences, and take every name that can be seen', async () => {
    const detail = async (body: unknown): Promise<string> =>
      ((await (await write('/api/shoots', body)).json()) as { detail: string }).detail;
    const good = await write('/api/shoots', { name: 'Spring / Summer 2027 🎞' });
    expect(good.status).toBe(200);
    await write(`/api/shoots/${((await good.json()) as Summary).id}`, undefined, 'DELETE');
    expect(await detail({ name: 'a\u0007b' })).toBe('The name needs something to see, without characters that cannot be seen.');
    expect(await detail({ name: '\ud83c' })).toMatch(/characters that cannot be seen/);
    expect(await detail({ name: 'x'.repeat(500) })).toBe('The name is longer than 120 characters.');
    expect(await detail({})).toBe('The name is missing.');
    const deep = await fetch(`${base()}/api/edits/check`, {
      method: 'POST',
      headers: { Origin: base() },
      body: '['.repeat(100_000) + ']'.repeat(100_000),
    });
    expect([deep.status, ((await deep.json()) as { detail: string }).detail]).toEqual([400, 'The request is nested more than 100 deep.']);
  });

  it('are open to everyone: axe finds nothing against WCAG 2.2 AA', async () => {
    const check = async (where: string): Promise<void> => {
      // Colours on their way from one to another are neither.
      await page.waitForFunction(() => document.getAnimations().every(({ playState }) => playState !== 'running'));
      expect(await violations(page), where).toEqual([]);
    };
    for (const path of ['/', `/shoots/1`, '/hand-over', `/photographs/${photo('vases.jpg')}`]) {
      await openPage(page, path);
      if (path.startsWith('/photographs')) await page.locator('main[data-painted=true]').waitFor();
      await check(path);
    }
    for (const kind of ['Paint', 'Levels', 'Fill']) {
      await addLayer(page, kind);
      if (kind === 'Fill') await page.getByRole('radio', { name: 'Linear', exact: true }).click();
      await check(`the desk of a ${kind.toLowerCase()} layer`);
    }
    await page.getByRole('main').focus();
    await page.keyboard.press('h');
    await page.getByRole('button', { name: /^Fold Group/ }).waitFor();
    await check('a group');
    await page.getByRole('button', { name: 'Versions', exact: true }).click();
    await more(page, 'Reference photographs');
    await compare(page, 'Difference');
    await check('versions, references and the difference');
  });
});
