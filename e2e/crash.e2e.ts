/** Power cuts: the web server and the database are killed in the middle of writes. Nothing acknowledged may be lost, nothing half-written seen. */
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { adjustmentLayer, edit, insertLayers, onLayer, type UmboDocument } from '@umbo/core/document';
import type { DocumentState, HandOverSummary } from '@umbo/data';
import sharp from 'sharp';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { freePort } from '../tools/mariadb.mjs';
import { startStack, type Stack } from '../tools/stack.mjs';

const data = mkdtempSync(join(tmpdir(), 'umbo-crash-'));
let stack: Stack;

beforeAll(async () => {
  stack = await startStack({ data, port: await freePort(), demo: false, quiet: true });
});
afterAll(async () => {
  await stack.close();
  rmSync(data, { recursive: true, force: true });
});

const post = (path: string, body: BodyInit, type = 'application/json'): Promise<Response> =>
  fetch(stack.base + path, { method: 'POST', body, headers: { Origin: stack.base, 'Content-Type': type } });
/** Waits for a server that was killed: it is started again. */
async function json<T>(path: string): Promise<T> {
  for (let i = 0; ; i++)
    try {
      const response = await fetch(stack.base + path);
      if (response.ok || i > 100) return (await response.json()) as T;
    } catch (error) {
      if (i > 100) throw error;
      await sleep(200);
    }
}

async function newPhotograph(side = 64): Promise<number> {
  const shoot = (await (await post('/api/shoots', JSON.stringify({ name: 'Storm' }))).json()) as { id: number };
  const png = await sharp({ create: { width: side, height: side, channels: 3, background: '#a52' } })
    .png()
    .toBuffer();
  return ((await (await post(`/api/shoots/${shoot.id}/photographs?name=a.png`, new Uint8Array(png), 'image/png')).json()) as { id: number })
    .id;
}

interface Written {
  acknowledged: number;
  /** The state that each write led to. */
  documents: UmboDocument[];
}

/** So many writes are acknowledged before anything is broken, however slow the machine is. */
const FEW = 6;

/** Writes changes one after another until the connection breaks, or for some time. @param under calls when it is well under way */
async function writeUntilBroken(id: number, until = Infinity, under: () => void = () => undefined): Promise<Written> {
  const { database, edit: state } = await json<{ database: string; edit: DocumentState }>(`/api/photographs/${id}`);
  let { document, revision } = state;
  const documents = [document];
  let acknowledged = 0;
  for (let i = 1; Date.now() < until || acknowledged < FEW; i++) {
    const step = edit(
      document,
      i === 1
        ? insertLayers([adjustmentLayer('a', 'hueSaturation', 'Storm')], null)
        : onLayer('a', ({ what }) => void Object.assign(what.settings, { hue: i % 180 })),
    );
    document = step.document;
    documents.push(document);
    const entry = { id: `e${i}`, label: `step ${i}`, patches: step.patches, inverse: step.inverse };
    try {
      const response = await post(
        `/api/photographs/${id}/changes`,
        JSON.stringify({ id: `b${i}`, database, base: revision, changes: [{ type: 'edit', entry }] }),
      );
      if (!response.ok) return { acknowledged, documents };
      ({ revision } = (await response.json()) as { revision: number });
      acknowledged = i;
      if (i === FEW) under();
    } catch {
      break;
    }
  }
  return { acknowledged, documents };
}

async function expectWhole(id: number, { acknowledged, documents }: Written): Promise<void> {
  const { edit: state } = await json<{ edit: DocumentState }>(`/api/photographs/${id}`);
  console.log(`${acknowledged} acknowledged, ${state.position} kept`);
  expect(acknowledged).toBeGreaterThanOrEqual(FEW);
  // The one write that was under way may have made it; it is there wholly or not at all.
  expect([acknowledged, acknowledged + 1]).toContain(state.position);
  expect(state.document).toEqual(documents[state.position]);
  expect(state.labels).toHaveLength(state.position);
  expect(state.revision).toBe(state.position + 1);
}

it('kill -9 of the web server', async () => {
  const id = await newPhotograph();
  const written = await writeUntilBroken(id, Infinity, () => setTimeout(() => process.kill(stack.pid('web')!, 'SIGKILL'), 300));
  await expectWhole(id, written);
});

it('kill -9 of the database: it comes back by itself, and writers notice a pause and nothing else', async () => {
  const id = await newPhotograph();
  const first = stack.database!.pid()!;
  const written = await writeUntilBroken(id, Date.now() + 6000, () => setTimeout(() => process.kill(first, 'SIGKILL'), 300));
  expect(stack.database!.pid()).not.toBe(first);
  expect(written.documents.length).toBe(written.acknowledged + 1);
  await expectWhole(id, written);
});

it('a database that is frozen is said to give no answer, and work goes on when it does', async () => {
  const id = await newPhotograph();
  const database = stack.database!.pid()!;
  process.kill(database, 'SIGSTOP');
  // A thread that runs on another core stops a moment later.
  const states = (): string[] =>
    readdirSync(`/proc/${database}/task`).map((task) => readFileSync(`/proc/${database}/task/${task}/stat`, 'utf8').split(') ')[1]![0]!);
  await expect.poll(() => new Set(states())).toEqual(new Set(['T']));
  const answer = await fetch(`${stack.base}/api/photographs/${id}`);
  process.kill(database, 'SIGCONT');
  expect(answer.status).toBe(503);
  expect(((await answer.json()) as { detail: string }).detail).toMatch(/does not answer/);
  await expectWhole(id, await writeUntilBroken(id, Date.now() + 1500));
});

it('kill -9 of the render process: another one takes the hand-over up, and what the first left behind is gone', async () => {
  const id = await newPhotograph(2400);
  const { database, edit: before } = await json<{ database: string; edit: DocumentState }>(`/api/photographs/${id}`);
  const { document } = before;
  const layers = ['noiseReduction', 'localContrast'].map((kind) => adjustmentLayer(kind, kind as 'noiseReduction', kind));
  Object.assign(layers[1]!.what.settings, { broad: 40 });
  const { patches, inverse } = edit(document, insertLayers(layers, null));
  const changes = [{ type: 'edit', entry: { id: 'e', label: 'Both', patches, inverse } }];
  await post(`/api/photographs/${id}/changes`, JSON.stringify({ id: 'b', database, base: 1, changes }));
  const options = { fileName: 'a.png', format: 'png', bits: 16, space: 'srgb', quality: 90 };
  await post('/api/hand-overs', JSON.stringify({ key: 'crash', photographId: id, options }));
  const job = async (): Promise<{ state: string; progress: number }> =>
    (await json<{ state: string; progress: number }[]>('/api/hand-overs'))[0]!;
  await expect.poll(async () => (await job()).progress).toBeGreaterThan(0);
  process.kill(stack.pid('render')!, 'SIGKILL');
  expect((await job()).state).toBe('running');
  const left = (): string[] => readdirSync(join(data, 'cache', 'hand-overs'));
  expect(left()).toHaveLength(1);
  await expect.poll(async () => (await job()).state).toBe('done');
  await expect.poll(left).toEqual([]);
});

it('of three hundred files two are cancelled and a render process is killed: all others are there, none twice, and an urgent one does not wait for them', async () => {
  const shoot = (await (await post('/api/shoots', JSON.stringify({ name: 'Many' }))).json()) as { id: number };
  const ids: number[] = [];
  for (let i = 0; i < 60; i++) {
    const png = await sharp({ create: { width: 60, height: 40, channels: 3, background: { r: i * 4, g: 90, b: 255 - i * 4 } } })
      .png()
      .toBuffer();
    const made = await post(`/api/shoots/${shoot.id}/photographs?name=p${i}.png`, new Uint8Array(png), 'image/png');
    ids.push(((await made.json()) as { id: number }).id);
    for (const name of ['one', 'two', 'three', 'four']) await post(`/api/photographs/${ids[i]}/versions`, JSON.stringify({ name }));
  }
  const large = await newPhotograph(1800);
  const options = { format: 'png', bits: 8, space: 'srgb', quality: 90 };
  /** How long somebody waits for one file. */
  const urgent = async (key: string): Promise<number> => {
    const begun = Date.now();
    const asked = await post(
      '/api/hand-overs',
      JSON.stringify({ key, photographId: large, options: { ...options, fileName: `${key}.png` } }),
    );
    const { ids: [id] } = (await asked.json()) as { ids: [number] }; // prettier-ignore
    while ((await json<{ state: string }>(`/api/hand-overs/${id}`)).state !== 'done') await sleep(20);
    return Date.now() - begun;
  };
  const alone = Math.max(await urgent('alone-1'), await urgent('alone-2'));

  const wish = { photographs: ids, versions: 'both', colourways: false, pattern: '{name} {version}', options };
  const names = (await (await post('/api/hand-overs/batches/names', JSON.stringify(wish))).json()) as {
    names: string[];
    clashes: string[];
  };
  expect([names.names.length, names.clashes]).toEqual([300, []]);
  const batch = JSON.stringify({ key: 'many', ...wish });
  const [first, again] = await Promise.all([post('/api/hand-overs/batches', batch), post('/api/hand-overs/batches', batch)]);
  expect(await first!.json()).toEqual({ id: 'many', files: 300 });
  expect(await again!.json()).toEqual({ id: 'many', files: 300 });
  const files = (): Promise<HandOverSummary[]> => json('/api/hand-overs/batches/many');
  const waiting = (await files()).filter(({ state }) => state === 'queued');
  for (const { id } of waiting.slice(-2)) expect((await post(`/api/hand-overs/${id}/cancel`, '')).status).toBe(200);
  const beside = await urgent('beside');
  console.log(`an urgent file: ${alone} ms alone, ${beside} ms beside 300 others`);
  process.kill(stack.pid('render')!, 'SIGKILL');
  // How fast is the machine's affair; standing still for a while is not.
  const left = async (): Promise<number> => (await files()).filter(({ state }) => state === 'queued' || state === 'running').length;
  for (let some = await left(); some > 0; some = await left()) await expect.poll(left, { timeout: 45_000 }).toBeLessThan(some);
  const all = await files();
  expect(all).toHaveLength(300);
  expect(all.filter(({ state }) => state === 'done')).toHaveLength(298);
  expect(all.filter(({ state }) => state === 'cancelled').map(({ id }) => id)).toEqual(waiting.slice(-2).map(({ id }) => id));
  expect(new Set(all.map((one) => one.options.fileName)).size).toBe(300);
  // Each shows its own photograph.
  for (const { id, photographId } of all.filter((_, i) => i % 37 === 0)) {
    const bytes = Buffer.from(await (await fetch(`${stack.base}/api/hand-overs/${id}/file`)).arrayBuffer());
    const i = ids.indexOf(photographId);
    expect([...(await sharp(bytes).raw().toBuffer()).subarray(0, 3)]).toEqual([i * 4, 90, 255 - i * 4]);
  }
  // What the machine does beside is not the queue's: a second is.
  expect(beside).toBeLessThan(2 * alone + 1000);
  expect((await post('/api/hand-overs/batches/many/retry', '')).status).toBe(200);
  await expect.poll(async () => (await files()).filter(({ state }) => state === 'done').length, { timeout: 60_000 }).toBe(300);
  expect(await json('/api/hand-overs/batches')).toMatchObject([
    { id: 'many', files: 300, done: 300, failed: 0, cancelled: 0, progress: 1, secondsLeft: null },
  ]);
});
