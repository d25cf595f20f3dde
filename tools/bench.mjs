/**
 * `npm run bench`: how fast the application is, on this machine and now. Prints medians, and ratios within the run;
 * a busy machine makes the milliseconds larger, the ratios less so. Not a test: nothing here passes or fails.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import mysql from 'mysql2/promise';
import sharp from 'sharp';
import { benchCarry } from './benchCarry.mjs';
import { benchFinding } from './benchFind.mjs';
import { benchReadings } from './benchReadings.mjs';
import { benchSheet, benchLineUp } from './benchSheet.mjs';
import { eightLayers } from './eightLayers.mjs';
import { launch, openBench, photographId, setNumber } from './browser.mjs';
import { loadCore } from './core.mjs';
import { freePort } from './mariadb.mjs';
import { buildApplication, root } from './prepare.mjs';
import { startStack } from './stack.mjs';

const quantile = (values, q) => [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * q))] ?? NaN;
const rows = [];
const report = (what, value, aim = '') => {
  rows.push([what, value, aim]);
  console.log(`${what.padEnd(62)} ${value.padStart(28)}   ${aim}`);
};
const ms = (values) => `${quantile(values, 0.5).toFixed(1)} ms (90 %: ${quantile(values, 0.9).toFixed(1)})`;

const blocking = (values) => `95 %: ${quantile(values, 0.95).toFixed(1)} ms (99 %: ${quantile(values, 0.99).toFixed(1)})`;

/** Runs in the page: times from a message to the engine until its picture is on the stage, and how long tasks block the main thread. */
function instrument() {
  const sent = new Map();
  window.umboBench = { latency: [], blocked: [] };
  const Original = window.Worker;
  window.Worker = class extends Original {
    constructor(...args) {
      super(...args);
      this.addEventListener('message', ({ data }) => {
        if (data?.type === 'painted' && sent.has(data.seq)) window.umboBench.latency.push(performance.now() - sent.get(data.seq));
      });
    }
    postMessage(message, ...rest) {
      if (message?.seq !== undefined) sent.set(message.seq, performance.now());
      return super.postMessage(message, ...rest);
    }
  };
  const { port1, port2 } = new MessageChannel();
  let last = performance.now();
  port1.onmessage = () => {
    const now = performance.now();
    window.umboBench.blocked.push(now - last);
    last = now;
    setTimeout(() => {
      last = performance.now();
      port2.postMessage(0);
    }, 1);
  };
  port2.postMessage(0);
}

async function gesture(page, points) {
  await page.mouse.move(...points[0]);
  await page.mouse.down();
  await page.evaluate(() => (window.umboBench = { latency: [], blocked: [] }));
  for (const point of points.slice(1)) {
    await page.mouse.move(...point);
    await page.waitForTimeout(25);
  }
  const result = await page.evaluate(() => window.umboBench);
  await page.mouse.up();
  return result;
}

await buildApplication({ web: true });
const data = mkdtempSync(join(tmpdir(), 'umbo-bench-'));
const stack = await startStack({ data, port: await freePort(), quiet: true });
const browser = await launch();
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(instrument);
  const id = await photographId(stack.base, 'mixed-light.png');

  const opening = [];
  for (let i = 0; i < 5; i++) {
    await page.goto(`${stack.base}/shoots/1`);
    await page.getByRole('link', { name: 'Open mixed-light.png' }).waitFor();
    await page.waitForTimeout(800);
    const begin = Date.now();
    await page.getByRole('link', { name: 'Open mixed-light.png' }).click();
    await page.locator('main[data-painted=true]').waitFor();
    opening.push(Date.now() - begin);
  }
  report('Open a 3-megapixel portrait from the contact sheet', ms(opening), 'aim: under 1500 ms');

  // Three layers: everywhere, a hue range, a hue range with feather.
  await openBench(page, stack.base, id);
  const settings = [{ Hue: 6 }, { Hue: 20, Saturation: -10 }, { Lightness: -5 }];
  for (const [i, values] of settings.entries()) {
    await page.getByRole('main').focus();
    await page.keyboard.press('n');
    if (i > 0) {
      await page.getByRole('button', { name: 'part', exact: true }).click();
      await page.getByRole('menuitem', { name: 'Hue range' }).click();
    }
    if (i === 2) await setNumber(page, 'Feather', 20);
    for (const [label, value] of Object.entries(values)) await setNumber(page, label, value);
  }
  const sliderPoints = async () => {
    const box = await page
      .locator('[role=region][aria-label=What] input[type=range]')
      .first()
      .evaluate((input) => {
        const track = input.closest('[role=group]').getBoundingClientRect();
        return { x: track.x, y: track.y, width: track.width, height: track.height };
      });
    const middle = box.x + 86 + (box.width - 152) / 2;
    return Array.from({ length: 60 }, (_, i) => [middle + 45 * Math.sin(i / 6), box.y + box.height / 2]);
  };
  for (const [layer, words] of [
    ['Layer 3', 'top of 3 layers'],
    ['Layer 1', 'lowest of 3, acting everywhere'],
  ]) {
    await page.getByRole('row', { name: layer }).click();
    await page.waitForTimeout(600);
    const { latency, blocked } = await gesture(page, await sliderPoints());
    report(`Hue slider, ${words}: input to painted`, ms(latency), 'aim: median under 33 ms');
    report(`Hue slider, ${words}: main thread blocked`, blocking(blocked), 'aim: under 8 ms');
  }
  await benchReadings({ page, report, ms, blocking, drag: async () => gesture(page, await sliderPoints()) });
  await page.getByRole('row', { name: 'Layer 3' }).click();
  await page.getByRole('radio', { name: 'Paint' }).click();
  const stage = await page.getByRole('main').boundingBox();
  const stroke = Array.from({ length: 60 }, (_, i) => [stage.x + 300 + 70 * Math.sin(i / 5), stage.y + 150 + i * 5]);
  const { latency, blocked } = await gesture(page, stroke);
  report('Brush stroke: input to painted', ms(latency), 'aim: median under 33 ms');
  report('Brush stroke: main thread blocked', blocking(blocked), 'aim: under 8 ms');
  await page.waitForTimeout(800);

  // Every kind of adjustment: its first slider (its opacity where it has none), alone on a 3-megapixel portrait at fit zoom.
  const alone = await photographId(stack.base, 'window-portrait.jpg');
  await openBench(page, stack.base, alone);
  await page.getByRole('button', { name: 'New layer', exact: true }).last().click();
  const sources = ['Fill', 'Paint', 'Paint, colour only', 'Self', 'Frame', 'Channel', 'Group', 'First correction'];
  const kinds = (await page.getByRole('menuitem').allInnerTexts()).filter((name) => !sources.includes(name));
  await page.keyboard.press('Escape');
  for (const kind of kinds) {
    await page.getByRole('button', { name: 'New layer', exact: true }).last().click();
    await page.getByRole('menuitem', { name: kind, exact: true }).click();
    await page.waitForTimeout(500);
    const own = await page.locator('[role=region][aria-label=What] input[type=range]').count();
    const input = page.locator(`[role=region][aria-label=${own > 0 ? 'What' : 'How'}] input[type=range]`).first();
    await input.scrollIntoViewIfNeeded();
    const track = await input.evaluate((element) => {
      const { x, y, width, height } = element.closest('[role=group]').getBoundingClientRect();
      return { x, y, width, height };
    });
    const stacked = track.height > 30;
    // Of a table of sliders the number takes less of the width, and words none.
    const tight = track.width < 120;
    const [left, width, y] = tight
      ? [track.x, track.width - 35, track.y + track.height / 2]
      : stacked
        ? [track.x, track.width, track.y + track.height - 10]
        : [track.x + 100, track.width - 166, track.y + track.height / 2];
    const points = Array.from({ length: 40 }, (_, i) => [left + width * (0.5 + 0.3 * Math.sin(i / 5)), y]);
    const { latency: preview } = await gesture(page, points);
    report(`Preview: ${kind}`, ms(preview), kind === 'Noise reduction' ? 'aim: under 300 ms' : 'aim: under 100 ms');
    await page.getByRole('main').focus();
    await page.keyboard.press('Delete');
    await page.waitForTimeout(200);
  }

  await benchFinding({
    browser,
    page,
    base: stack.base,
    report,
    quantile,
    drag: async () => (await gesture(page, await sliderPoints())).latency,
  });

  // Eight layers of all kinds: opened, and a slider of the fifth.
  const write = async (path, body, type = 'application/json') =>
    (await fetch(stack.base + path, { method: 'POST', headers: { Origin: stack.base, 'Content-Type': type }, body })).json();
  const { database } = await (await fetch(`${stack.base}/api/photographs/${await photographId(stack.base, 'garden-1.jpg')}`)).json();
  const replaceLayers = (photograph, layers) =>
    write(
      `/api/photographs/${photograph}/changes`,
      JSON.stringify({
        id: 'bench',
        database,
        base: 1,
        changes: [
          {
            type: 'edit',
            entry: {
              id: 'bench',
              label: 'Bench',
              patches: [{ op: 'replace', path: ['layers'], value: layers }],
              inverse: [{ op: 'replace', path: ['layers'], value: [] }],
            },
          },
        ],
      }),
    );
  const portrait = await photographId(stack.base, 'garden-1.jpg');
  await replaceLayers(portrait, eightLayers(await (await fetch(`${stack.base}/api/photographs/${portrait}`)).json()));
  const openings = [];
  for (let i = 0; i < 5; i++) {
    await page.goto(`${stack.base}/shoots/1`);
    await page.getByRole('link', { name: 'Open garden-1.jpg' }).waitFor();
    await page.waitForTimeout(800);
    const begin = Date.now();
    await page.getByRole('link', { name: 'Open garden-1.jpg' }).click();
    await page.locator('main[data-painted=true]').waitFor();
    openings.push(Date.now() - begin);
  }
  report('Open a 3-megapixel portrait with 8 layers', ms(openings), 'aim: under 1500 ms');
  await page.getByRole('row', { name: 'Skin', exact: true }).click();
  await page.waitForTimeout(1200);
  const fifth = await gesture(page, await sliderPoints());
  report('Hue slider, fifth of 8 layers: input to painted', ms(fifth.latency), 'aim: median under 33 ms');
  report('Hue slider, fifth of 8 layers: main thread blocked', blocking(fifth.blocked), 'aim: under 8 ms');

  // As many layers as there may be, one of them at work.
  const many = Array.from({ length: 500 }, (_, i) => ({ ...eightLayers({ width: 1, height: 1 }).at(-1), id: `l${i}`, name: `Layer ${i}` }));
  for (const { what } of many.slice(0, -1)) what.settings.saturation = 0;
  const crowded = await photographId(stack.base, 'garden-2.jpg');
  await replaceLayers(crowded, many);
  const crowdedBegin = Date.now();
  await openBench(page, stack.base, crowded);
  report('Open 500 layers by address', `${Date.now() - crowdedBegin} ms`);
  await page.waitForTimeout(1200);
  const busy = await gesture(page, await sliderPoints());
  report('Hue slider, last of 500 layers: input to painted', ms(busy.latency), 'aim: median under 33 ms');
  report('Hue slider, last of 500 layers: main thread blocked', blocking(busy.blocked), 'aim: under 8 ms');

  // A hand-over of 24 megapixels with the same three layers.
  const { edit } = await (await fetch(`${stack.base}/api/photographs/${id}`)).json();
  const large = await sharp(join(root, 'demo/photographs/estuary-dusk.jpg'))
    .resize(6000, 4000, { fit: 'fill' })
    .jpeg({ quality: 92 })
    .toBuffer();
  let begin = Date.now();
  const { id: largeId } = await write('/api/shoots/3/photographs?name=large.jpg', large, 'image/jpeg');
  report('Import of a 24-megapixel JPEG', `${((Date.now() - begin) / 1000).toFixed(1)} s`);
  const peakOf = (name) => Math.round(Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${stack.pid(name)}/status`, 'utf8'))[1]) / 1024);
  /** Hands the photograph over with layers; reports the time, and the most memory that rendering took meanwhile. */
  const handOver = async (photograph, layers, words, aim = '') => {
    await replaceLayers(photograph, layers);
    writeFileSync(`/proc/${stack.pid('render')}/clear_refs`, '5'); // the peak begins anew
    const options = { fileName: 'large.jpg', format: 'jpeg', bits: 8, space: 'srgb', quality: 92 };
    const started = Date.now();
    const { ids } = await write('/api/hand-overs', JSON.stringify({ key: crypto.randomUUID(), photographId: photograph, options }));
    for (;;) {
      const { state, error } = (await (await fetch(`${stack.base}/api/hand-overs`)).json()).find((item) => item.id === ids[0]);
      if (state === 'done') break;
      if (state === 'failed') throw new Error(error);
      await new Promise((done) => setTimeout(done, 50));
    }
    report(`Hand-over of ${words}`, `${((Date.now() - started) / 1000).toFixed(1)} s`, aim);
    report('Peak memory of the render process', `${peakOf('render')} MB`, 'aim: under 1024 MB');
  };
  await handOver(largeId, edit.document.layers, '24 megapixels with 3 layers', 'aim: under 10 s');

  begin = Date.now();
  await page.goto(`${stack.base}/photographs/${largeId}`);
  await page.locator('main[data-painted=true]').waitFor();
  report('Open 24 megapixels by its address, first sharp view', `${Date.now() - begin} ms`);
  await page.goto(stack.base);

  const { adjustmentLayer, maskPartKind } = await loadCore();
  const luminosity = maskPartKind('luminosity').create('l', 'add', { width: 1, height: 1 });
  const looking = { localContrast: { fine: 30, broad: 40 }, haze: { amount: 40 }, tone: { compression: 40 }, noiseReduction: {}, glow: {}, unsharp: {} }; // prettier-ignore
  const wide = Object.entries(looking).map(([kind, settings]) => {
    const layer = adjustmentLayer(kind, kind, kind);
    Object.assign(layer.what.settings, settings);
    return layer;
  });
  const { id: wideId } = await write('/api/shoots/3/photographs?name=wide.jpg', large, 'image/jpeg');
  await handOver(wideId, wide, '24 megapixels with 6 that look around');

  // A mask that follows edges as far as it can, on 24 and on 100 megapixels.
  const following = adjustmentLayer('edges', 'hueSaturation', 'Edges');
  following.what.settings.saturation = -40;
  following.where.parts.push(luminosity);
  following.where.refine.push({ kind: 'edges', radius: 200, overlook: 40 });
  const { id: edgesId } = await write('/api/shoots/3/photographs?name=edges.jpg', large, 'image/jpeg');
  await handOver(edgesId, [following], '24 megapixels with edges followed over 200 px');
  const huge = await sharp(large, { limitInputPixels: false }).resize(12_000, 8400, { fit: 'fill' }).jpeg({ quality: 90 }).toBuffer();
  writeFileSync(`/proc/${stack.pid('render')}/clear_refs`, '5');
  begin = Date.now();
  const { id: hugeId } = await write('/api/shoots/3/photographs?name=huge.jpg', huge, 'image/jpeg');
  report(
    'Import of a 100-megapixel JPEG',
    `${((Date.now() - begin) / 1000).toFixed(1)} s, render process at most ${peakOf('render')} MB, web at most ${peakOf('web')} MB`,
  );
  await handOver(hugeId, [following], '100 megapixels with edges followed over 200 px');

  // A thousand photographs on one contact sheet, and a bench that opens beside it.
  const connection = await mysql.createConnection(stack.url);
  await connection.query("INSERT INTO shoots (id, name, createdAt) VALUES (900, 'Thousand', UTC_TIMESTAMP(3))");
  await connection.query(`INSERT INTO photographs (shootId, assetId, name, width, height, bits, profile, createdAt)
    SELECT 900, p.assetId, CONCAT('p', s.seq, '.jpg'), p.width, p.height, 8, 'sRGB', UTC_TIMESTAMP(3) FROM photographs p, seq_1_to_1000 s WHERE p.id = ${alone}`);
  await connection.query(`INSERT INTO documents (photographId, revision, position, body)
    SELECT n.id, 1, 0, d.body FROM photographs n, documents d WHERE n.shootId = 900 AND d.photographId = ${alone}`);
  // Twelve photographs of 24 megapixels, each with an edit.
  await connection.query("INSERT INTO shoots (id, name, createdAt) VALUES (901, 'Twelve', UTC_TIMESTAMP(3))");
  await connection.query(`INSERT INTO photographs (shootId, assetId, name, width, height, bits, profile, createdAt)
    SELECT 901, p.assetId, CONCAT('l', s.seq, '.jpg'), p.width, p.height, 8, 'sRGB', UTC_TIMESTAMP(3) FROM photographs p, seq_1_to_12 s WHERE p.id = ${largeId}`);
  await connection.query(`INSERT INTO documents (photographId, revision, position, body)
    SELECT n.id, 1, 0, d.body FROM photographs n, documents d WHERE n.shootId = 901 AND d.photographId = ${largeId}`);
  const [twelve] = await connection.query('SELECT id FROM photographs WHERE shootId = 901');
  const [thousand] = await connection.query('SELECT id FROM photographs WHERE shootId = 900 ORDER BY id LIMIT 201');
  await connection.end();
  const openTime = async () => {
    const own = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
    const started = Date.now();
    await own.goto(`${stack.base}/photographs/${alone}`);
    await own.locator('main[data-painted=true]').waitFor();
    const took = Date.now() - started;
    await own.context().close();
    return took;
  };
  const quiet = [await openTime(), await openTime(), await openTime()].sort((a, b) => a - b)[1];
  const asked = new Set();
  page.on('request', (request) => {
    if (request.url().endsWith('/api/previews')) for (const { id: one } of JSON.parse(request.postData()).wanted) asked.add(one);
  });
  await benchLineUp({ page, base: stack.base, report, shootId: 901, ids: twelve.map(({ id: one }) => one) });
  await benchSheet({ page, base: stack.base, report, shootId: 900 });
  const [from, ...to] = thousand.map(({ id: one }) => one);
  await replaceLayers(from, eightLayers(await (await fetch(`${stack.base}/api/photographs/${from}`)).json()));
  await benchCarry({ base: stack.base, report, from, to, write });
  await page.goto(`${stack.base}/shoots/900`);
  asked.clear();
  await page.waitForTimeout(1000);
  report('Previews asked for by what is in sight', String(asked.size));
  await page.mouse.move(640, 400);
  for (let i = 0; i < 40; i++) await page.mouse.wheel(0, 2000);
  const beside = [await openTime(), await openTime(), await openTime()].sort((a, b) => a - b)[1];
  report(
    'Open the bench in another window: alone · beside the sheet, just scrolled through',
    `${quiet} · ${beside} ms (${asked.size} previews asked for)`,
  );
} finally {
  await browser.close();
  await stack.close();
  rmSync(data, { recursive: true, force: true });
}
console.log(execFileSync(process.execPath, ['tools/benchCore.mjs'], { cwd: root, encoding: 'utf8' }));
