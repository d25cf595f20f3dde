import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { chromium, type Browser, type BrowserContext, type Download, type Page } from 'playwright-core';
import sharp from 'sharp';
import { expect, inject } from 'vitest';
import type { DocumentState } from '@umbo/data';

export const base = (): string => inject('base');
export const demo = (path: string): string => fileURLToPath(new URL(`../demo/${path}`, import.meta.url));

/** Debian's Chromium, without the background services that would look for a network. */
export function launch(): Promise<Browser> {
  return chromium.launch({
    executablePath: process.env.UMBO_CHROMIUM ?? '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-dev-shm-usage',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--force-color-profile=srgb',
    ],
  });
}

/** A page that fails the test at its end when the browser complained about anything. */
export async function newPage(context: Browser | BrowserContext, complaints: string[]): Promise<Page> {
  const page = await context.newPage();
  await page.setViewportSize({ width: 1280, height: 800 });
  page.on('console', (message) => ['error', 'warning'].includes(message.type()) && complaints.push(message.text()));
  page.on('pageerror', (error) => complaints.push(error.message));
  return page;
}

export interface Summary {
  id: number;
  name: string;
}

/** The photographs of a demo shoot. */
export async function photographs(shoot: string): Promise<Summary[]> {
  const shoots = (await (await fetch(`${base()}/api/shoots`)).json()) as Summary[];
  const { id } = shoots.find(({ name }) => name === shoot)!;
  return ((await (await fetch(`${base()}/api/shoots/${id}`)).json()) as { photographs: Summary[] }).photographs;
}

export async function photographId(shoot: string, name: string): Promise<number> {
  return (await photographs(shoot)).find((photograph) => photograph.name === name)!.id;
}

export async function editOf(id: number): Promise<DocumentState> {
  return ((await (await fetch(`${base()}/api/photographs/${id}`)).json()) as { edit: DocumentState }).edit;
}

/** A write as a page of the application sends it. */
export const write = (path: string, body: unknown, method = 'POST'): Promise<Response> =>
  fetch(base() + path, { method, headers: { 'Content-Type': 'application/json', Origin: base() }, body: JSON.stringify(body) });

export async function openBench(page: Page, id: number): Promise<void> {
  await page.goto(`${base()}/photographs/${id}`);
  await page.locator('main[data-painted=true]').waitFor();
}

export const kept = (page: Page): Promise<void> => page.getByTestId('keep-status').filter({ hasText: 'All changes kept' }).waitFor();

export async function addPart(page: Page, kind: string): Promise<void> {
  await page.getByRole('button', { name: 'part', exact: true }).click();
  await page.getByRole('menuitem', { name: kind }).click();
}

export async function setNumber(page: Page, label: string, value: number | string): Promise<void> {
  const field = page.getByRole('textbox', { name: `${label}, number` });
  await field.fill(String(value));
  await field.press('Enter');
}

/** Where a point of the photograph is on the screen, while it is fitted to the stage. */
export async function fitted(page: Page, size: { width: number; height: number }): Promise<(x: number, y: number) => [number, number]> {
  const box = (await page.getByRole('main').boundingBox())!;
  const margin = Math.min(Math.round(box.width), Math.round(box.height)) * 0.03;
  const height = Math.round(box.height) - 44;
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

/** Asks for a file in the hand-over dialog and returns its bytes. */
export async function handOver(
  page: Page,
  format: 'JPEG' | 'PNG' | 'TIFF',
  depth: '8 bit' | '16 bit',
): Promise<{ bytes: Buffer; name: string }> {
  await page.getByRole('button', { name: 'Hand over' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('radio', { name: format }).click();
  if (format !== 'JPEG') await dialog.getByRole('radio', { name: depth }).click();
  await dialog.getByRole('button', { name: 'Render the file' }).click();
  const words = format === 'JPEG' ? 'JPEG quality' : `${format} ${depth}`;
  const link = dialog.getByRole('listitem').filter({ hasText: words }).getByRole('link', { name: 'Download' }).first();
  await link.waitFor({ timeout: 60_000 });
  const [download] = await Promise.all<[Promise<Download>, Promise<void>]>([page.waitForEvent('download'), link.click()]);
  const bytes = await readFile(await download.path());
  await dialog.getByRole('button', { name: 'Close' }).click();
  return { bytes, name: download.suggestedFilename() };
}

/** Interleaved RGB, 0..65535, without any conversion. */
export async function pixels16(input: string | Buffer): Promise<Uint16Array> {
  const { depth } = await sharp(input).metadata();
  const image = sharp(input, { ignoreIcc: true }).removeAlpha();
  if (depth !== 'ushort') return Uint16Array.from(await image.toColourspace('srgb').raw().toBuffer(), (v) => v * 257);
  const raw = await image.toColourspace('rgb16').raw({ depth: 'ushort' }).toBuffer();
  return new Uint16Array(raw.buffer, raw.byteOffset, raw.length / 2);
}

/** A truth mask, 0..255. */
export async function truth(name: string): Promise<Uint8Array> {
  return new Uint8Array(
    await sharp(demo(`truth/${name}.png`))
      .toColourspace('b-w')
      .raw()
      .toBuffer(),
  );
}

export function expectNoComplaints(complaints: string[]): void {
  expect(complaints).toEqual([]);
}
