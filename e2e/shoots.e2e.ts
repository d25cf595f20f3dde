/** Shoots, contact sheet and hand-over through the interface. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Color from 'colorjs.io';
import type { Browser, Page } from 'playwright-core';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  base,
  demo,
  expectNoComplaints,
  handOver,
  launch,
  newPage,
  openBench,
  openPage,
  photographId,
  photographs,
  pixels16,
  violations,
  write,
} from './harness.ts';

const complaints: string[] = [];
const folder = mkdtempSync(join(tmpdir(), 'umbo-files-'));
let browser: Browser;
let page: Page;

beforeAll(async () => {
  browser = await launch();
  page = await newPage(await browser.newContext(), complaints);
});
afterAll(async () => {
  await browser.close();
  rmSync(folder, { recursive: true, force: true });
});

const path = (name: string, content: string | Buffer): string => {
  writeFileSync(join(folder, name), content);
  return join(folder, name);
};

it('the demo shoots are there, with a finished edit among them', async () => {
  await openPage(page, '/');
  for (const name of ['Makers, spring', 'Saltings catalogue', 'Estuary at dusk', 'Kiln-house archive'])
    await page.getByRole('link', { name }).waitFor();
  await page.getByRole('link', { name: /Saltings catalogue/ }).click();
  await page.getByRole('radio', { name: 'Done' }).click();
  await page.getByText('stool.jpg').waitFor();
  expect(await page.getByRole('link', { name: /^Open / }).count()).toBe(1);
});

it('a contact sheet asks only for what is in sight, and holds no connection for it', async () => {
  const small = await newPage(browser, complaints);
  await small.setViewportSize({ width: 1280, height: 260 });
  const asked = new Set<number>();
  const early: string[] = [];
  small.on('request', (request) => {
    if (request.url().endsWith('/api/previews'))
      for (const { id } of (JSON.parse(request.postData()!) as { wanted: { id: number }[] }).wanted) asked.add(id);
  });
  small.on('response', (response) => {
    if (response.url().includes('/preview?') && response.status() !== 200) early.push(response.url());
  });
  await openPage(small, '/shoots/1');
  await small.getByRole('radio', { name: 'Large' }).click();
  await expect.poll(() => small.locator('[data-photograph] img').count()).toBeGreaterThan(0);
  await small.waitForTimeout(1000);
  const first = asked.size;
  expect(first).toBeLessThan(6);
  await small.mouse.move(600, 180);
  await small.mouse.wheel(0, 4000);
  await small.getByRole('row', { name: 'smile.jpg' }).waitFor();
  await expect.poll(() => asked.size).toBeGreaterThan(first);
  expect(early).toEqual([]);
  await small.getByRole('radio', { name: 'Medium' }).click();
  await small.close();
});

it('a new shoot takes dropped files, refuses others with a sentence each, and lets photographs go again', async () => {
  await openPage(page, '/');
  await page.getByRole('button', { name: 'New shoot', exact: true }).click();
  await page.getByRole('dialog').getByRole('textbox', { name: 'Name' }).fill('Window test');
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await page.getByText('This shoot is empty').waitFor();

  const picture = sharp({
    create: { width: 700, height: 500, channels: 3, background: '#6a8', noise: { type: 'gaussian', mean: 120, sigma: 30 } },
  });
  const jpeg = await picture.clone().jpeg().toBuffer();
  const files = [
    path('good.jpg', jpeg),
    path('good-16.tif', await picture.clone().toColourspace('rgb16').tiff({ compression: 'lzw' }).toBuffer()),
    path('small.webp', await picture.clone().webp().toBuffer()),
    path('modern.avif', await picture.clone().resize(200).avif().toBuffer()),
    path('empty.png', ''),
    path('short.jpg', jpeg.subarray(0, jpeg.length / 2)),
    path('script.png', '<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>'),
  ];
  await page.locator('input[type=file]').setInputFiles(files);
  const imports = page.getByRole('complementary', { name: 'Imports' });
  await imports.getByText('4 imported, 3 not').waitFor();
  const list = await imports.innerText();
  for (const sentence of ['The file is empty.', 'damaged or cut short', 'its content is text']) expect(list).toContain(sentence);
  await imports.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('link', { name: 'Open modern.avif' }).waitFor();
  expect(await page.getByRole('link', { name: /^Open / }).count()).toBe(4);
  /** Every picture on the sheet has really come. */
  const picturesAreThere = (): Promise<void> =>
    expect
      .poll(() =>
        page.locator('[data-photograph] img').evaluateAll((all) => all.every((img) => (img as HTMLImageElement).naturalWidth > 100)),
      )
      .toBe(true);
  await picturesAreThere();

  // An import that is called off leaves nothing.
  await page.route('**/photographs?name=*', async (route) => {
    await new Promise((done) => setTimeout(done, 1500));
    await route.continue().catch(() => undefined);
  });
  await page.locator('input[type=file]').setInputFiles([files[0]!]);
  await imports.getByRole('button', { name: 'Cancel good.jpg' }).click();
  await imports.getByText('cancelled').waitFor();
  await page.unroute('**/photographs?name=*');
  await page.reload();
  await expect.poll(() => page.getByRole('link', { name: /^Open / }).count()).toBe(4);
  // A photograph that goes while its picture or its page is still asked for would leave a complaint.
  await picturesAreThere();
  await page.waitForLoadState('networkidle');

  await page.getByRole('button', { name: 'More about small.webp' }).click();
  await page.getByRole('menuitem', { name: 'Remove', exact: true }).click();
  await page.getByRole('link', { name: 'Open small.webp' }).waitFor({ state: 'detached' });
  await page.getByRole('button', { name: 'More about Window test' }).click();
  await page.getByRole('menuitem', { name: 'Remove the shoot…' }).click();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await page.getByRole('heading', { name: 'Shoots' }).waitFor();
  await page.getByRole('link', { name: /Window test/ }).waitFor({ state: 'detached' });
  complaints.splice(0, complaints.length, ...complaints.filter((text) => !/422/.test(text))); // the browser tells of refused requests
  expectNoComplaints(complaints);
});

describe('photographs on the sheet', () => {
  const bar = () => page.getByRole('toolbar', { name: 'Chosen photographs' });
  const cell = (name: string) => page.getByRole('row', { name, exact: true });
  const chosen = (): Promise<string[]> =>
    page.locator('[data-photograph][data-selected]').evaluateAll((all) => all.map((one) => one.getAttribute('aria-label') ?? ''));
  const choose = (name: string, ...modifiers: ('Shift' | 'Control')[]): Promise<void> =>
    cell(name).click({ position: { x: 60, y: 50 }, modifiers });
  const counts = (words: string): Promise<void> => bar().getByText(words).waitFor();
  let own = 0;

  beforeAll(async () => {
    const shoot = (await (await write('/api/shoots', { name: 'Sheet' })).json()) as { id: number };
    own = shoot.id;
    for (let i = 1; i <= 7; i++) {
      const picture = sharp({ create: { width: 90, height: 60, channels: 3, background: { r: 250 - 30 * i, g: 40 * (i % 5), b: 90 } } });
      const dated = picture.withExif({ IFD0: { Model: `Kiln ${'ABC'[i % 3]}` }, IFD2: { DateTimeOriginal: `2026:05:0${8 - i} 10:00:00` } });
      const answer = await fetch(`${base()}/api/shoots/${own}/photographs?name=s${i}.jpg`, { method: 'POST', body: new Uint8Array(await dated.jpeg().toBuffer()), headers: { Origin: base() } }); // prettier-ignore
      expect(answer.status).toBe(200);
    }
  });

  it('are chosen by mouse, keys and band, sorted, searched for, and marked and removed together, with a way back', async () => {
    await openPage(page, `/shoots/${own}`);
    await choose('s2.jpg');
    await choose('s4.jpg', 'Shift');
    await choose('s3.jpg', 'Control');
    await counts('2 of 7 chosen');
    expect(await chosen()).toEqual(['s2.jpg', 's4.jpg']);
    await page.keyboard.press('Control+a');
    await counts('7 of 7 chosen');
    await page.keyboard.press('Escape');
    await bar().getByText('double-click or Enter opens').waitFor();
    // From left to right through the first row.
    const box = (name: string) => cell(name).boundingBox();
    const [from, to] = [(await box('s2.jpg'))!, (await box('s3.jpg'))!];
    await page.mouse.move(from.x + 50, from.y + 40);
    await page.mouse.down();
    await page.mouse.move(to.x + 50, to.y + 90, { steps: 5 });
    await page.mouse.up();
    expect(await chosen()).toEqual(['s2.jpg', 's3.jpg']);

    await bar().getByRole('button', { name: 'Mark as done' }).click();
    await page.getByText('2 photographs marked as done.').waitFor();
    await page.getByRole('radio', { name: 'Done' }).click();
    await expect.poll(() => page.locator('[data-photograph]').count()).toBe(2);
    await page.getByRole('radio', { name: 'All', exact: true }).click();
    // By the other button of the mouse it is done to all that are chosen.
    await cell('s3.jpg').click({ button: 'right', position: { x: 60, y: 50 } });
    await page.getByRole('menuitem', { name: 'Remove', exact: true }).click();
    await page.getByText('2 photographs removed.').waitFor();
    await expect.poll(() => page.locator('[data-photograph]').count()).toBe(5);
    await choose('s5.jpg');
    await page.keyboard.press('Control+z');
    await expect.poll(() => page.locator('[data-photograph]').count()).toBe(7);
    await page.keyboard.press('Control+z');
    await expect.poll(() => page.getByText('done', { exact: true }).count()).toBe(0);

    const names = (): Promise<string[]> => page.locator('[data-photograph]').evaluateAll((all) => all.map((one) => one.getAttribute('aria-label') ?? '')); // prettier-ignore
    await page.getByRole('button', { name: /As added/ }).click();
    await page.getByRole('option', { name: 'Time taken' }).click();
    await expect.poll(names).toEqual(['s7.jpg', 's6.jpg', 's5.jpg', 's4.jpg', 's3.jpg', 's2.jpg', 's1.jpg']);
    await page.getByRole('searchbox').fill('kiln b');
    await expect.poll(names).toEqual(['s7.jpg', 's4.jpg', 's1.jpg']);
    expect(await cell('s4.jpg').locator('.picture').getAttribute('title')).toContain('4 May 2026, 10:00 · Kiln B');
    expect(await violations(page)).toEqual([]);

    // The bench walks through what is chosen, in the order of the sheet, and the choice is there when one is back.
    await choose('s7.jpg');
    await choose('s1.jpg', 'Control');
    await bar().getByRole('button', { name: 'Open' }).click();
    await page.locator('main[data-painted=true]').waitFor();
    await page.getByRole('button', { name: 'Next photograph' }).click();
    await page.getByText('s1.jpg').first().waitFor();
    await page.locator('main[data-painted=true]').waitFor();
    await openPage(page, `/shoots/${own}`);
    await counts('2 of 7 chosen');
    await page.getByRole('button', { name: /Time taken/ }).click();
    await page.getByRole('option', { name: 'As added' }).click();
  });

  it('are handed over together: named by a pattern, without clashes, with kept settings, and as a ZIP that is sent while it is made', async () => {
    await openPage(page, `/shoots/${own}`);
    await choose('s1.jpg');
    await choose('s3.jpg', 'Shift');
    await bar().getByRole('button', { name: 'Hand over…' }).click();
    const dialog = page.getByRole('dialog', { name: 'Hand over 3 photographs' });
    const names = (): Promise<string[]> =>
      dialog.getByRole('list', { name: 'What the files will be called' }).getByRole('listitem').allInnerTexts();
    await expect.poll(names).toEqual(['s1.jpg', 's2.jpg', 's3.jpg']);
    const pattern = dialog.getByRole('textbox', { name: 'Names' });
    await pattern.fill('vessel');
    await dialog.getByRole('alert').filter({ hasText: 'One name is there more than once' }).waitFor();
    expect(await dialog.getByRole('button', { name: /^Render/ }).isDisabled()).toBe(true);
    await dialog.getByRole('button', { name: 'Add the field: Number in the order of the sheet' }).click();
    await expect.poll(names).toEqual(['vessel1.jpg', 'vessel2.jpg', 'vessel3.jpg']);
    await dialog.getByRole('radio', { name: 'WebP' }).click();
    await dialog.getByRole('button', { name: /As large as it is/ }).click();
    await page.getByRole('option', { name: 'Longer side' }).click();
    await dialog.getByRole('textbox', { name: 'Longer side, number' }).fill('45');
    await dialog.getByRole('textbox', { name: 'Longer side, number' }).press('Enter');
    await dialog.getByRole('radio', { name: 'For viewing' }).click();
    await dialog.getByRole('radio', { name: 'Rights only' }).click();
    await dialog.getByRole('button', { name: 'Kept settings…' }).click();
    await page.getByRole('menuitem', { name: 'Keep under a name…' }).click();
    await page.getByRole('dialog', { name: 'Keep these settings' }).getByRole('textbox').fill('Small for the web');
    await page.getByRole('button', { name: 'Keep', exact: true }).click();
    await dialog.getByRole('button', { name: 'Small for the web' }).waitFor();
    expect(await violations(page, '[role=dialog]')).toEqual([]);
    await expect.poll(names).toEqual(['vessel1.webp', 'vessel2.webp', 'vessel3.webp']);
    await dialog.getByRole('button', { name: 'Render 3 files' }).click();
    const zipLink = dialog.getByRole('link', { name: 'ZIP' });
    const [download] = await Promise.all([page.waitForEvent('download'), zipLink.click()]);
    const zip = await download.path();
    execFileSync('unzip', ['-tq', zip]);
    expect(execFileSync('unzip', ['-Z1', zip], { encoding: 'utf8' }).trim().split('\n')).toEqual([
      'vessel1.webp',
      'vessel2.webp',
      'vessel3.webp',
    ]);
    const second = execFileSync('unzip', ['-p', zip, 'vessel2.webp'], { maxBuffer: 1 << 24 });
    expect(await sharp(second).metadata()).toMatchObject({ format: 'webp', width: 45, height: 30 });
    await dialog.getByText('all done').waitFor();
    await page.getByText('3 files are ready.').waitFor();
    await dialog.getByRole('button', { name: 'Show the files' }).click();
    await dialog.getByText('45 × 30').first().waitFor();
    await dialog.getByRole('button', { name: 'Remove 3 files' }).click();
    await dialog.getByRole('listitem', { name: '3 files' }).waitFor({ state: 'detached' });
    await dialog.getByRole('button', { name: 'Small for the web' }).click();
    await page.getByRole('menuitem', { name: 'Remove “Small for the web”' }).click();
    await dialog.getByRole('button', { name: 'Kept settings…' }).waitFor();
    await dialog.getByRole('button', { name: 'Close' }).click();
  });

  it('are looked at beside each other: all nearer at once, before and after, and at the same place when one is back from the bench', async () => {
    await openPage(page, '/shoots/1');
    await choose('garden-1.jpg');
    await choose('garden-3.jpg', 'Shift');
    await bar().getByRole('button', { name: 'Line-up' }).click();
    const pictures = page.getByRole('main').locator('canvas');
    const painted = (side: string): Promise<void> =>
      expect.poll(() => pictures.evaluateAll((all) => all.map((one) => (one as HTMLElement).dataset.painted))).toEqual([side, side, side]);
    await painted('after');
    // Each shows its own photograph, at the place where it belongs.
    const names = ['garden-1.jpg', 'garden-2.jpg', 'garden-3.jpg'];
    /** What a cell shows, small. */
    const small = { width: 66, height: 60 };
    const seen = (name: string): Promise<number[]> =>
      page.getByRole('img', { name, exact: true }).evaluate((element, { width, height }) => {
        const copy = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
        copy.imageSmoothingQuality = 'high';
        copy.drawImage(element as HTMLCanvasElement, 0, 0, width, height);
        return [...copy.getImageData(0, 0, width, height).data];
      }, small);
    const differenceFrom = async (name: string): Promise<number> => {
      const data = await seen(name);
      const cell = (await page.getByRole('img', { name, exact: true }).boundingBox())!;
      const size = { width: Math.round(cell.width), height: Math.round(cell.height) };
      const fitted = await sharp(demo(`photographs/${name}`))
        .resize({ ...size, fit: 'contain' })
        .toBuffer();
      const expected = await sharp(fitted)
        .resize({ ...small, fit: 'fill' })
        .removeAlpha()
        .raw()
        .toBuffer();
      let [sum, n] = [0, 0];
      for (let i = 0; i < small.width * small.height; i++) {
        if (data[i * 4 + 3]! < 255) continue;
        for (let c = 0; c < 3; c++, n++) sum += Math.abs(data[i * 4 + c]! - expected[i * 3 + c]!);
      }
      return sum / n;
    };
    await page.keyboard.press('q');
    await painted('before');
    for (const name of names) expect(await differenceFrom(name), name).toBeLessThan(4);
    await page.keyboard.press('q');
    await painted('after');
    const before = await seen('garden-3.jpg');
    const box = (await page.getByRole('img', { name: 'garden-1.jpg', exact: true }).boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.wheel(0, -480);
    await expect
      .poll(async () => (await seen('garden-3.jpg')).filter((v, i) => i % 4 === 0 && Math.abs(v - before[i]!) > 8).length)
      .toBeGreaterThan(500);
    expect(await violations(page)).toEqual([]);
    // What comes near is moved there first, and sharp later.
    const sharpAll = (): Promise<void> =>
      expect.poll(() => pictures.evaluateAll((all) => all.every((one) => (one as HTMLElement).dataset.sharp === 'true'))).toBe(true);
    await sharpAll();
    const near = await seen('garden-2.jpg');
    await page.keyboard.press('Enter');
    await page.locator('main[data-painted=true]').waitFor();
    expect(page.url()).toContain(`/photographs/${await photographId('Makers, spring', 'garden-1.jpg')}`);
    await page.goBack();
    await painted('after');
    await sharpAll();
    await expect.poll(async () => (await seen('garden-2.jpg')).filter((v, i) => Math.abs(v - near[i]!) > 2).length).toBe(0);
  });

  it('are renamed and moved, lie in a bin until that is emptied, and are told to be there already when they come again', async () => {
    const other = (await (await write('/api/shoots', { name: 'Elsewhere' })).json()) as { id: number };
    await openPage(page, `/shoots/${own}`);
    await choose('s6.jpg');
    await page.keyboard.press('F2');
    await page.getByRole('dialog').getByRole('textbox').fill('Sixth.jpg');
    await page.getByRole('button', { name: 'Rename', exact: true }).click();
    await cell('Sixth.jpg').waitFor();
    await bar().getByRole('button', { name: 'More…' }).click();
    await page.getByRole('menuitem', { name: 'Elsewhere' }).click();
    await page.getByText('“Sixth.jpg” moved to “Elsewhere”.').waitFor();
    await cell('Sixth.jpg').waitFor({ state: 'detached' });
    expect((await photographs('Elsewhere')).map(({ name }) => name)).toEqual(['Sixth.jpg']);
    await choose('s5.jpg');
    await page.keyboard.press('Delete');
    await page.getByText('“s5.jpg” removed.').waitFor();
    const bin = page.getByRole('dialog', { name: 'Bin' });
    await page.getByRole('button', { name: 'More about Sheet', exact: true }).click();
    await page.getByRole('menuitem', { name: 'Bin (1)…' }).click();
    await bin.getByText(/One photograph with edits.*Emptying frees 1 kB/).waitFor();
    await bin.getByRole('button', { name: 'Empty the bin…' }).click();
    await bin.getByRole('button', { name: 'Let 1 go for good' }).click();
    await bin.getByText('Nothing lies in the bin.').waitFor();
    await bin.getByRole('button', { name: 'Close' }).click();

    const again = { create: { width: 30, height: 20, channels: 3, background: '#b50' } } as const;
    const [twice, copy] = await Promise.all(['twice.png', 'copy.png'].map(async (name) => path(name, await sharp(again).png().toBuffer())));
    const imports = page.getByRole('complementary', { name: 'Imports' });
    await page.locator('input[type=file]').setInputFiles([twice!]);
    await imports.getByText('1 imported').waitFor();
    await page.locator('input[type=file]').setInputFiles([copy!]);
    await imports.getByText('The same as “twice.png”, which was here already.').waitFor();
    // The sheet still asks for previews of what is deleted.
    await openPage(page, '/shoots/1');
    for (const id of [own, other.id]) await write(`/api/shoots/${id}`, undefined, 'DELETE');
    expectNoComplaints(complaints);
  });
});

it('dropped files come in wherever they are dropped', async () => {
  await openPage(page, '/shoots/1');
  const file = path(
    'dropped.png',
    await sharp({ create: { width: 60, height: 40, channels: 3, background: '#246' } })
      .png()
      .toBuffer(),
  );
  // As the operating system drops it: events made by a page carry no real files.
  const browserSide = await page.context().newCDPSession(page);
  const data = { items: [], files: [file], dragOperationsMask: 1 };
  for (const type of ['dragEnter', 'dragOver'] as const) await browserSide.send('Input.dispatchDragEvent', { type, x: 500, y: 400, data });
  await page.getByText('Drop photographs to add them to').last().waitFor();
  await browserSide.send('Input.dispatchDragEvent', { type: 'drop', x: 500, y: 400, data });
  await page.getByRole('link', { name: 'Open dropped.png' }).waitFor();
});

it('hands over TIFF and JPEG with their profiles, untouched where nothing was edited', async () => {
  const original = await pixels16(demo('photographs/garden-1.jpg'));
  await openBench(page, await photographId('Makers, spring', 'garden-1.jpg'));
  const tiff = await handOver(page, 'TIFF', '16 bit');
  expect(tiff.name).toBe('garden-1.tif');
  expect(await sharp(tiff.bytes).metadata()).toMatchObject({ format: 'tiff', depth: 'ushort' });
  expect(Buffer.compare(Buffer.from((await pixels16(tiff.bytes)).buffer), Buffer.from(original.buffer))).toBe(0);

  const jpeg = await handOver(page, 'JPEG', '8 bit');
  const meta = await sharp(jpeg.bytes).metadata();
  expect(meta).toMatchObject({ format: 'jpeg', space: 'srgb' });
  expect(meta.icc?.length).toBeGreaterThan(100);
  const lossy = await pixels16(jpeg.bytes);
  let sum = 0;
  for (let i = 0; i < lossy.length; i++) sum += Math.abs(lossy[i]! - original[i]!);
  expect(sum / lossy.length / 257).toBeLessThan(1.5);

  await page.getByRole('button', { name: 'Hand over' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Profile' }).click();
  await page.getByRole('option', { name: 'Display P3' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click();
  const p3 = await handOver(page, 'PNG', '16 bit');
  const wide = await pixels16(p3.bytes);
  for (let i = 0; i < wide.length; i += 3 * 49_999) {
    const expected = new Color('srgb', [original[i]! / 65535, original[i + 1]! / 65535, original[i + 2]! / 65535]).to('p3').coords;
    for (let c = 0; c < 3; c++) expect(Math.abs(wide[i + c]! / 65535 - expected[c]!)).toBeLessThan(2e-5);
  }

  await openPage(page, '/hand-over');
  const rows = page.getByRole('listitem');
  const before = await rows.count();
  expect(before).toBeGreaterThanOrEqual(3);
  await page.getByRole('button', { name: 'Remove garden-1.tif' }).click();
  await expect.poll(() => rows.count()).toBe(before - 1);
  expectNoComplaints(complaints);
});

it('stacked blend modes are those of Chromium’s canvas', async () => {
  const { blendModes } = await import('@umbo/core/blend');
  const steps = [0, 40, 90, 128, 170, 220, 255];
  const colours: number[][] = [];
  for (const r of steps) for (const g of [0, 100, 255]) for (const b of [30, 180, 255]) colours.push([r, g, b]);
  const pairs = colours.flatMap((b, i) => [3, 17, 29, 44].map((offset) => [b, colours[(i + offset) % colours.length]!] as const));
  const w3c = blendModes.filter(({ id }) => !['divide', 'add', 'subtract', 'linear-light'].includes(id));
  const fromCanvas = (await page.evaluate(
    ({ ids, pairs: list }) => {
      const canvas = document.createElement('canvas');
      canvas.width = list.length;
      canvas.height = 1;
      // In half floats: exact enough to see the formulas, where 8 bits would show the canvas's own rounding.
      const context = canvas.getContext('2d', { willReadFrequently: true, colorType: 'float16' } as CanvasRenderingContext2DSettings)!;
      return ids.map((id) => {
        for (const [i, [below, own]] of list.entries()) {
          context.globalCompositeOperation = 'copy';
          context.save();
          context.beginPath();
          context.rect(i, 0, 1, 1);
          context.clip();
          context.fillStyle = `rgb(${below.join(' ')})`;
          context.fillRect(i, 0, 1, 1);
          context.globalCompositeOperation = id === 'normal' ? 'source-over' : (id as GlobalCompositeOperation);
          context.fillStyle = `rgb(${own.join(' ')})`;
          context.fillRect(i, 0, 1, 1);
          context.restore();
        }
        const pixels = context.getImageData(0, 0, list.length, 1, { pixelFormat: 'rgba-float16' } as ImageDataSettings).data;
        return Array.from(pixels, (v) => v * 255);
      });
    },
    { ids: w3c.map(({ id }) => id), pairs },
  )) as number[][];
  for (const [k, mode] of w3c.entries()) {
    const planes = (which: 0 | 1) => {
      const plane = (c: number): Float32Array => Float32Array.from(pairs, (pair) => pair[which][c]! / 255);
      return { r: plane(0), g: plane(1), b: plane(2) };
    };
    const own = planes(1);
    mode.apply(planes(0), own, pairs.length);
    let worst = 0;
    for (const [i] of pairs.entries())
      for (const [c, plane] of [own.r, own.g, own.b].entries())
        worst = Math.max(worst, Math.abs(plane[i]! * 255 - fromCanvas[k]![i * 4 + c]!));
    expect(worst, mode.id).toBeLessThan(1);
  }
  expect(w3c).toHaveLength(16);
});
