import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import type { Browser, BrowserContext, Download, Page } from 'playwright-core';
import sharp from 'sharp';
import { expect, inject } from 'vitest';
import type { Size } from '@umbo/core/base';
import { demo } from '../core/test/measures.ts';
import { after, entryBetween, type Content, type UmboDocument } from '@umbo/core/document';
import type { DocumentState } from '@umbo/data';

export const base = (): string => inject('base');
export { demo, iou, labAt, meanDifference, meanLab, pixels16, spread, truth } from '../core/test/measures.ts';

/** By which edits name a file. */
export const sha256Of = (path: string): string => createHash('sha256').update(readFileSync(path)).digest('hex');

export { compare, launch, maskShown, more } from '../tools/browser.mjs';

/** A page that fails the test at its end when the browser complained about anything. */
export async function newPage(context: Browser | BrowserContext, complaints: string[]): Promise<Page> {
  const page = await context.newPage();
  page.setDefaultTimeout(120_000);
  await page.setViewportSize({ width: 1280, height: 800 });
  page.on(
    'console',
    (message) => ['error', 'warning'].includes(message.type()) && complaints.push(`${message.text()} ${message.location().url}`.trim()),
  );
  page.on('pageerror', (error) => complaints.push(error.message));
  return page;
}

export interface Summary {
  id: number;
  name: string;
}

/** Reads. A connection that was kept may be closed by the server while this process is busy: then it is asked again. */
const read = (path: string): Promise<Response> => fetch(base() + path).catch(() => fetch(base() + path));

/** The photographs of a demo shoot. */
export async function photographs(shoot: string): Promise<Summary[]> {
  const shoots = (await (await read(`/api/shoots`)).json()) as Summary[];
  const { id } = shoots.find(({ name }) => name === shoot)!;
  return ((await (await read(`/api/shoots/${id}`)).json()) as { photographs: Summary[] }).photographs;
}

export async function photographId(shoot: string, name: string): Promise<number> {
  return (await photographs(shoot)).find((photograph) => photograph.name === name)!.id;
}

export async function editOf(id: number): Promise<DocumentState> {
  return ((await (await read(`/api/photographs/${id}`)).json()) as { edit: DocumentState }).edit;
}

export const get = async <T>(path: string): Promise<T> => (await (await read(path)).json()) as T;

/** One step on an edit, as another window makes it. */
export async function change(id: number, next: (draft: UmboDocument) => void): Promise<void> {
  const { document, revision } = await editOf(id);
  const key = crypto.randomUUID();
  const entry = entryBetween(key, 'Changed', document, after(document, next));
  const batch = { id: key, database: await databaseId(id), base: revision, changes: [{ type: 'edit', entry }] };
  expect((await write(`/api/photographs/${id}/changes`, batch)).status).toBe(200);
}

/** The id of the database, which changes must name. */
export const databaseId = async (id: number): Promise<string> =>
  ((await (await read(`/api/photographs/${id}`)).json()) as { database: string }).database;

/** A write as a page of the application sends it. */
export const write = (path: string, body: unknown, method = 'POST'): Promise<Response> =>
  fetch(base() + path, { method, headers: { 'Content-Type': 'application/json', Origin: base() }, body: JSON.stringify(body) });

/** Opens a page and waits until React has taken it over: a press on what the server drew is lost before that. */
export async function openPage(page: Page, path: string): Promise<void> {
  await page.goto(base() + path);
  await page.waitForFunction(() => Object.keys(document.querySelector('main') ?? {}).some((key) => key.startsWith('__reactProps')));
}

export async function openBench(page: Page, id: number): Promise<void> {
  await page.goto(`${base()}/photographs/${id}`);
  await page.locator('main[data-painted=true]').waitFor();
}

export const kept = (page: Page): Promise<void> => page.getByTestId('keep-status').filter({ hasText: 'All changes kept' }).waitFor();

/** Adds a layer by the menu under the plus. */
export async function addLayer(page: Page, kind = 'Hue & saturation'): Promise<void> {
  await page.getByRole('button', { name: 'New layer', exact: true }).last().click();
  await page.getByRole('menuitem', { name: kind, exact: true }).click();
}

/** The settings of a hue & saturation layer. */
export const hueSaturation = (what: Content): { hue: number; saturation: number; lightness: number } => what.settings as never;

export async function addPart(page: Page, kind: string): Promise<void> {
  await page.getByRole('button', { name: 'part', exact: true }).click();
  await page.getByRole('menuitem', { name: kind }).click();
}

export async function setNumber(page: Page, label: string, value: number | string): Promise<void> {
  const field = page.getByRole('textbox', { name: `${label}, number` });
  await field.fill(String(value));
  await field.press('Enter');
}

/** Drags the handles of the hue range to OKLCh hues: outer start, inner start, inner end, outer end. */
export async function setHueRange(page: Page, hues: readonly [number, number, number, number]): Promise<void> {
  const census = page.getByRole('group', { name: 'Hue range on the hue census' });
  const toX = (box: { x: number; width: number }, hue: number): number => box.x + (((hue - 190 + 720) % 360) / 360) * box.width;
  // The range as a whole first: its handles cannot pass each other.
  const whole = (await census.boundingBox())!;
  const range = (await page.getByTestId('hue-range').boundingBox())!;
  const middle = hues[0] + ((hues[3] - hues[0] + 360) % 360) / 2;
  await drag(page, [
    [range.x + range.width / 2, range.y + range.height / 2],
    [range.x + range.width / 2 + 4, range.y + range.height / 2],
    [toX(whole, middle), range.y + range.height / 2],
  ]);
  for (const [name, hue] of [
    ['outer start', hues[0]],
    ['outer end', hues[3]],
    ['inner start', hues[1]],
    ['inner end', hues[2]],
  ] as const) {
    const box = (await census.boundingBox())!;
    const handle = (await page.getByRole('slider', { name: `Hue range, ${name}` }).boundingBox())!;
    const x = toX(box, hue);
    const y = handle.y + handle.height / 2;
    await drag(page, [
      [handle.x + handle.width / 2, y],
      [x - 3, y],
      [x, y],
    ]);
  }
}

/** Opens what How has above blend mode and opacity. */
export async function openHow(page: Page): Promise<void> {
  const title = page.getByRole('button', { name: /^How / });
  if ((await title.getAttribute('aria-expanded')) === 'false') await title.click();
}

export async function setColour(page: Page, label: string, hex: string): Promise<void> {
  const field = page.getByRole('textbox', { name: `${label}, hexadecimal` });
  await field.fill(hex);
  await field.press('Enter');
}

export async function setBlendMode(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: /Blend mode/ }).click();
  await page.getByRole('option', { name, exact: true }).click();
}

/** Selects the cards of layers, the last one to work on. */
export async function selectLayers(page: Page, ...names: string[]): Promise<void> {
  for (const [i, name] of names.entries())
    await page.getByRole('row', { name, exact: true }).click({ position: { x: 90, y: 32 }, ...(i > 0 && { modifiers: ['Control'] }) });
  await page.getByRole('main').focus();
}

/** Where a point of the photograph is on the screen, while it is fitted to the stage. */
export async function fitted(page: Page, size: { width: number; height: number }): Promise<(x: number, y: number) => [number, number]> {
  const box = (await page.getByRole('main').boundingBox())!;
  const margin = 8;
  const height = Math.round(box.height) - 72;
  const zoom = Math.min(1, (Math.round(box.width) - 2 * margin) / size.width, (height - 2 * margin) / size.height);
  const left = Math.round((Math.round(box.width) - size.width * zoom) / 2);
  const top = Math.round((height - size.height * zoom) / 2);
  return (x, y) => [box.x + left + x * zoom, box.y + top + y * zoom];
}

export async function drag(page: Page, points: [number, number][]): Promise<void> {
  await page.mouse.move(...points[0]!);
  await page.mouse.down();
  for (const point of points.slice(1)) await page.mouse.move(...point);
  await page.mouse.up();
}

/** The colours of the stage at a point, as a screenshot has them. */
export async function colourAt(page: Page, at: [number, number]): Promise<number[]> {
  const clip = { x: Math.round(at[0]), y: Math.round(at[1]), width: 1, height: 1 };
  return [
    ...(await sharp(await page.screenshot({ clip }))
      .removeAlpha()
      .raw()
      .toBuffer()),
  ];
}

/** Pixels of the bench, once its stage shows what was asked for last and they stand still: two pictures in a row are equal. */
export async function standing(page: Page, clip: { x: number; y: number; width: number; height: number }): Promise<Buffer> {
  await page.locator('main canvas[data-sharp=true]').waitFor({ state: 'attached' });
  const shot = async (): Promise<Buffer> =>
    sharp(await page.screenshot({ clip }))
      .removeAlpha()
      .raw()
      .toBuffer();
  for (let before = await shot(); ;) {
    await page.waitForTimeout(800);
    const now = await shot();
    if (now.equals(before)) return now;
    before = now;
  }
}

const axeSource = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

/** What axe finds against WCAG 2.2 AA, on the page or in a part of it. There are no frames: it need not be brought to any, nor asked in a page of its own. */
export async function violations(page: Page, within?: string): Promise<string[]> {
  await page.waitForFunction(() => document.title !== ''); // it comes a moment after a page that was gone to without a load
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axeSource);
  return page.evaluate(async (include) => {
    const { axe } = window as unknown as { axe: typeof import('axe-core') };
    const { violations: found } = await axe.run(include === undefined ? document : include, {
      runOnly: { type: 'tag', values: ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'] },
      resultTypes: ['violations'], // the others would be put together and thrown away
      iframes: false,
      preload: false, // for one rule, which is not among these
    });
    return found.map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.html.slice(0, 120)).join(' | ')}`);
  }, within);
}

/** Waits until what the stage shows at a point satisfies a condition. */
export async function eventually(page: Page, at: [number, number], condition: (colour: number[]) => boolean): Promise<number[]> {
  let colour: number[] = [];
  for (let i = 0; i < 300; i++) {
    colour = await colourAt(page, at);
    if (condition(colour)) return colour;
    await page.waitForTimeout(200);
  }
  throw new Error(`The stage shows ${colour.join(' ')}`);
}

/** Asks for a file in the hand-over dialog and returns its bytes. */
export async function handOver(
  page: Page,
  format: 'JPEG' | 'PNG' | 'TIFF',
  depth: '8 bit' | '16 bit',
): Promise<{ bytes: Buffer; name: string }> {
  await page.getByRole('button', { name: 'Hand over' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('radio', { name: format }).click();
  if (format !== 'JPEG') await dialog.getByRole('radio', { name: depth, exact: true }).click();
  const answer = page.waitForResponse((response) => response.url().endsWith('/api/hand-overs') && response.request().method() === 'POST');
  await dialog.getByRole('button', { name: 'Render the file' }).click();
  const { ids } = (await (await answer).json()) as { ids: number[] };
  const link = dialog.locator(`a[href*="/hand-overs/${ids[0]}/"]`);
  await link.waitFor();
  const [download] = await Promise.all<[Promise<Download>, Promise<void>]>([page.waitForEvent('download'), link.click()]);
  const bytes = await readFile(await download.path());
  await dialog.getByRole('button', { name: 'Close' }).click();
  return { bytes, name: download.suggestedFilename() };
}

export function expectNoComplaints(complaints: string[]): void {
  expect(complaints).toEqual([]);
}

/** A shoot of a test's own; its photographs are imported from the demo's when they are opened for the first time. */
export function ownShoot(title: string) {
  let shootId = 0;
  const imported = new Map<string, number>();
  return async (page: Page, name: string): Promise<{ id: number; size: Size; at: (x: number, y: number) => [number, number] }> => {
    if (shootId === 0) shootId = ((await (await write('/api/shoots', { name: title })).json()) as Summary).id;
    let id = imported.get(name);
    if (id === undefined) {
      const response = await fetch(`${base()}/api/shoots/${shootId}/photographs?name=${name}`, {
        method: 'POST',
        headers: { Origin: base(), 'Content-Type': 'application/octet-stream' },
        body: await readFile(demo(`photographs/${name}`)),
      });
      id = ((await response.json()) as Summary).id;
      imported.set(name, id);
    }
    await openBench(page, id);
    const { photo: size } = (await editOf(id)).document;
    return { id, size, at: await fitted(page, size) };
  };
}

/** Sets corners on the photograph and closes the shape. */
export async function outline(page: Page, at: (x: number, y: number) => [number, number], corners: readonly number[]): Promise<void> {
  await page.getByRole('radio', { name: 'Outline', exact: true }).click();
  for (let i = 0; i < corners.length; i += 2) await page.mouse.click(...at(corners[i]!, corners[i + 1]!));
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /Outline, 1 shape$/, pressed: true }).waitFor();
}
