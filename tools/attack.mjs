/**
 * `npm run attack`: what hostile or unlucky hours do to the application, on this machine only and with an end: requests of every wrong
 * form, files broken in every way, processes killed in the middle of work, first starts cut short. Prints a table; fails when anything
 * is answered by an error of the server, judged wrongly, or lost.
 */
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import sharp from 'sharp';
import { attackFiles, attackReaders } from './attackReaders.mjs';
import { loadCore } from './core.mjs';
import { freePort } from './mariadb.mjs';
import { root } from './prepare.mjs';
import { startStack } from './stack.mjs';

const REQUESTS = 4000;
const FILES = 600;
const KILLS = 60;
const STARTS = 30;

const { adjustmentLayer, edit, insertLayers, maskPartKind, onLayer } = await loadCore();
const parts = process.argv.slice(2);
const wanted = (name) => parts.length === 0 || parts.includes(name);
const rows = [];
let failures = 0;
const report = (what, how, outcome, failed = 0) => {
  failures += failed;
  rows.push([what, how, outcome]);
  console.log(`${failed ? 'FAILED ' : ''}${what}: ${how}: ${outcome}`);
};

/** The same numbers at every run. */
let seed = 20_261;
const random = () => {
  seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648;
  return seed / 2_147_483_648;
};
const pick = (list) => list[Math.floor(random() * list.length)];

const data = mkdtempSync(join(tmpdir(), 'umbo-attack-'));
let stack = await startStack({ data, port: await freePort(), demo: false, quiet: true });
const { base } = stack;
const call = (path, method = 'GET', body, headers = {}) =>
  fetch(base + path, {
    method,
    body,
    headers: { ...(method === 'GET' || method === 'HEAD' ? {} : { Origin: base }), ...headers },
    signal: AbortSignal.timeout(60_000),
  });
const post = (path, value) => call(path, 'POST', JSON.stringify(value), { 'Content-Type': 'application/json' });
const memory = (name) => Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${stack.pid(name)}/status`, 'utf8'))[1]) / 1024;

const shoot = (await (await post('/api/shoots', { name: 'Spring / Summer 2027' })).json()).id;
async function importFile(bytes, name = 'a.png') {
  const response = await call(`/api/shoots/${shoot}/photographs?name=${encodeURIComponent(name)}`, 'POST', bytes);
  return { status: response.status, ...(await response.json()) };
}
const noise = (width, height, channels = 3) =>
  sharp(Buffer.from(Array.from({ length: width * height * channels }, (_, i) => (i * 7919 + ((i * i) % 251) * 31) % 256)), {
    raw: { width, height, channels },
  });

if (wanted('requests')) {
  const { id } = await importFile(await noise(64, 48).png().toBuffer());
  const ids = ['1', String(id), '0', '-1', '999999', '1e9', 'abc', '../..', '%2e%2e', '4294967296', '٣', "1' OR 1=1", '%00', '1;DROP'];
  const paths = [
    () => `/api/photographs/${pick(ids)}`,
    () =>
      `/api/photographs/${pick(ids)}/${pick(['changes', 'entries', 'pixels', 'preview', 'versions', 'nothing'])}?${pick(['', 'revision=1', 'revision=999999999', 'level=0&from=0&to=4', 'level=99&from=-1&to=1e9', 'from=0&to=99999&revision=1', 'of=x', 'database=x&revision=1'])}`,
    () => `/api/shoots/${pick(ids)}`,
    () => `/api/shoots/${pick(ids)}/${pick(['palettes', 'masks', 'photographs?name=x.png', 'photographs', 'photographs?name=%00'])}`,
    () =>
      `/api/${pick(['palettes', 'swatches', 'masks', 'versions', 'hand-overs'])}/${pick(ids)}${pick(['', '/file', '/cancel', '/swatches'])}`,
    () =>
      pick([
        '/api/shoots',
        '/api/hand-overs',
        '/api/edits/check',
        '/api/previews',
        '/api/nothing',
        '/',
        '/hand-over',
        '/shoots/1',
        '/photographs/1',
        '/photographs/x',
      ]),
    () => pick(['/%', '/%ff', '/api/%', '/shoots/%c0%ae', '/api/shoots?%', '/_next/%2e%2e/x', '/favicon.ico', '/icon.svg']),
  ];
  const deep = '['.repeat(5000) + ']'.repeat(5000);
  const layer = adjustmentLayer('a', 'exposure', 'A');
  const patch = (...path) => ({ op: 'replace', path, value: 1e9 });
  const entry = (patches) => ({
    id: 'x',
    database: 'y',
    base: 1,
    changes: [{ type: 'edit', entry: { id: 'e', label: 'l', patches, inverse: [] } }],
  });
  const bodies = [
    '',
    '{',
    'null',
    '[]',
    '"x"',
    deep,
    '{"name":"\ud800"}',
    '{"name":"a\u0000b"}',
    '{"name":"Ünï / 🎞"}',
    '{"name":" "}',
    '{"__proto__":{"x":1}}',
    JSON.stringify({ name: 'x'.repeat(5000) }),
    'x'.repeat(2_000_000),
    JSON.stringify(entry([patch('layers', 'length')])),
    JSON.stringify(entry([patch('layers', 4_294_967_290)])),
    JSON.stringify(entry([patch('__proto__', 'x')])),
    JSON.stringify({
      id: 'x',
      database: 'y',
      base: 1,
      changes: Array.from({ length: 900 }, (_, i) => ({ type: 'go', from: i % 2 ? 0 : 9e8, to: i % 2 ? 9e8 : 0 })),
    }),
    JSON.stringify({
      key: 'k',
      photographId: id,
      options: { fileName: `${'é'.repeat(200)}.png`, format: 'png', bits: 8, space: 'srgb', quality: 90 },
    }),
    JSON.stringify({ wanted: Array.from({ length: 100 }, (_, i) => ({ id: i + 1, revision: 1 })) }),
    JSON.stringify({ format: 'umbo-edit', version: 2, workingSpace: 'srgb', photo: { width: 9, height: 9 }, layers: [layer] }),
  ];
  const headers = () => ({
    ...(random() < 0.15 && { Host: pick(['evil.example', 'localhost', '127.0.0.1:1', '[::1]', 'a'.repeat(300)]) }),
    ...(random() < 0.1 && { 'next-router-prefetch': '1' }),
    ...(random() < 0.15 && { Origin: pick(['http://evil.example', 'null', 'x', base]) }),
    ...(random() < 0.1 && { 'Sec-Fetch-Site': pick(['cross-site', 'same-site', 'same-origin', 'none']) }),
    ...(random() < 0.2 && { 'Content-Type': pick(['text/plain', 'application/xml', 'multipart/form-data', '']) }),
  });
  const { request } = await import('node:http');
  /** By hand: fetch refuses some of what is tried here. */
  const raw = (path, method, body, more) =>
    new Promise((resolve) => {
      const asked = request(
        base + '/',
        { path, method, headers: { ...(body && { 'Content-Length': Buffer.byteLength(body) }), Origin: base, ...more }, timeout: 60_000 },
        (response) => {
          response
            .resume()
            .on('end', () => resolve(response.statusCode))
            .on('error', () => resolve(0));
        },
      );
      asked.on('error', () => resolve(0)).on('timeout', () => asked.destroy());
      asked.end(body);
    });
  const counts = new Map();
  let slowest = 0;
  const one = async () => {
    const method = pick(['GET', 'GET', 'GET', 'POST', 'POST', 'POST', 'PATCH', 'DELETE', 'PUT', 'OPTIONS', 'HEAD', 'TRACE']);
    const path = pick(paths)();
    // Our own photograph and shoot stay for what follows.
    if (method === 'DELETE' && /\/(photographs|shoots)\/\d+$/.test(path)) return;
    const begin = performance.now();
    let status = 0;
    try {
      status = await raw(
        path.replace(/[^\x21-\x7e]/g, encodeURIComponent),
        method,
        ['GET', 'HEAD', 'TRACE', 'OPTIONS'].includes(method) ? undefined : pick(bodies),
        headers(),
      );
    } catch {
      // an address or header that this client cannot even send
    }
    slowest = Math.max(slowest, performance.now() - begin);
    counts.set(status, (counts.get(status) ?? 0) + 1);
    if (status >= 500) console.log(`  ${status} ${method} ${path}`);
  };
  for (let i = 0; i < REQUESTS; i += 20) await Promise.all(Array.from({ length: 20 }, one));
  const bad = [...counts].filter(([status]) => status >= 500).reduce((sum, [, n]) => sum + n, 0);
  const words = [...counts]
    .sort(([a], [b]) => a - b)
    .map(([status, n]) => `${status || 'none'}: ${n}`)
    .join(', ');
  report(
    'HTTP: ids, bodies, methods, hosts, origins, queries',
    `${REQUESTS} requests`,
    `${words}; slowest ${(slowest / 1000).toFixed(1)} s; web at most ${Math.round(memory('web'))} MB`,
    bad,
  );
}

if (wanted('files')) {
  const image = () => noise(90, 60);
  const sources = await Promise.all([
    image().jpeg().toBuffer(),
    image().jpeg({ progressive: true }).toBuffer(),
    image().png().toBuffer(),
    image().png({ progressive: true }).toBuffer(),
    image().tiff({ compression: 'none' }).toBuffer(),
    image().tiff({ compression: 'lzw' }).toBuffer(),
    image().tiff({ compression: 'deflate', predictor: 'horizontal' }).toBuffer(),
    image().tiff({ compression: 'lzw', tile: true, tileWidth: 32, tileHeight: 32 }).toBuffer(),
    image().toColourspace('rgb16').tiff({ compression: 'lzw' }).toBuffer(),
    image().toColourspace('rgb16').png().toBuffer(),
    image().webp({ lossless: true }).toBuffer(),
    image().webp().toBuffer(),
    image().avif().toBuffer(),
    image().toColourspace('cmyk').tiff({ compression: 'lzw' }).toBuffer(),
    image().greyscale().png().toBuffer(),
    noise(90, 60, 4).png().toBuffer(),
  ]);
  let [taken, refused, wrong] = [0, 0, 0];
  const judge = async (bytes, must) => {
    const { status, detail } = await importFile(bytes);
    if (status === 200) taken++;
    else refused++;
    const right =
      status < 500 &&
      (must === 'taken' ? status === 200 : must === 'refused' ? status === 422 && typeof detail === 'string' : [200, 422].includes(status));
    if (!right) {
      wrong++;
      console.log(`  judged wrongly: ${must}, ${status} ${detail ?? ''}`);
    }
  };
  for (let i = 0; i < FILES; i++) {
    const source = sources[i % sources.length];
    const kind = Math.floor(i / sources.length) % 6;
    if (kind === 0) await judge(source, 'taken');
    // The last bytes of some formats hold nothing that is needed.
    else if (kind <= 2) await judge(source.subarray(0, Math.floor(source.length * (0.01 + random() * 0.85))), 'refused');
    else if (kind === 3) await judge(Buffer.concat([Buffer.from([Math.floor(random() * 256), 7, 7, 7]), source]), 'refused');
    else {
      // Flipped bits: where no checksum tells, a picture with a wrong spot is a picture.
      const spoiled = Buffer.from(source);
      for (let k = 0; k < (kind === 4 ? 1 : 40); k++) spoiled[Math.floor(random() * spoiled.length)] ^= 1 << Math.floor(random() * 8);
      await judge(spoiled, 'either');
    }
  }
  report(
    'Image files: sound, cut, with a wrong beginning, with flipped bits',
    `${FILES} files`,
    `${taken} taken, ${refused} refused with a sentence, ${wrong} judged wrongly; render at most ${Math.round(memory('render'))} MB`,
    wrong,
  );
}

if (wanted('hostile')) {
  await attackReaders(report);
  await attackFiles({ stack, call, post, importFile, edits: { adjustmentLayer, insertLayers, edit, maskPartKind }, report });
}

if (wanted('kills')) {
  const photographs = [];
  for (let i = 0; i < 4; i++)
    photographs.push(
      (
        await importFile(
          await noise(200 + i, 150)
            .png()
            .toBuffer(),
          `k${i}.png`,
        )
      ).id,
    );
  const acknowledged = new Map(photographs.map((id) => [id, []]));
  const asked = [];
  let running = true;
  /** Asks until there is an answer that is none of an outage. */
  const patient = async (work) => {
    for (;;) {
      try {
        const response = await work();
        const value = await response.json();
        if (response.status < 500) return { status: response.status, value };
      } catch {
        // away: again
      }
      await sleep(30);
    }
  };
  const editor = async (id) => {
    let state = (await patient(() => call(`/api/photographs/${id}`))).value;
    for (let n = 1; running; n++) {
      const { document, revision } = state.edit;
      const recipe =
        document.layers.length === 0
          ? insertLayers([adjustmentLayer('a', 'hueSaturation', 'A')], null)
          : onLayer('a', ({ what }) => void (what.settings.hue = n % 180));
      const step = edit(document, recipe);
      const own = `b${id}-${n}`;
      const batch = {
        id: own,
        database: state.database,
        base: revision,
        changes: [{ type: 'edit', entry: { id: own, label: own, patches: step.patches, inverse: step.inverse } }],
      };
      // The same batch again until it is answered: it may have arrived without an answer.
      const { status, value } = await patient(() => post(`/api/photographs/${id}/changes`, batch));
      if (status !== 200) throw new Error(`An edit was refused: ${JSON.stringify(value)}`);
      acknowledged.get(id).push(own);
      state = { ...state, edit: { document: step.document, revision: value.revision } };
    }
  };
  const hander = async () => {
    for (let n = 0; running; n++) {
      const options = { fileName: `${n}.png`, format: 'png', bits: 8, space: 'srgb', quality: 90 };
      const response = await patient(() => post('/api/hand-overs', { key: `kill-${n}`, photographId: pick(photographs), options }));
      asked.push(...response.value.ids);
      await sleep(400);
    }
  };
  const work = [...photographs.map(editor), hander()];
  for (let i = 0; i < KILLS; i++) {
    await sleep(1500 + random() * 1500);
    const name = ['web', 'render', 'database'][i % 3];
    const pid = name === 'database' ? stack.database.pid() : stack.pid(name);
    if (pid) process.kill(pid, 'SIGKILL');
  }
  await sleep(3000);
  running = false;
  await Promise.all(work);
  let [kept, lost] = [0, 0];
  for (const [id, own] of acknowledged) {
    const { edit: state } = (await patient(() => call(`/api/photographs/${id}`))).value;
    const there = state.labels;
    kept += own.length;
    // In their order, none missing, none twice.
    if (JSON.stringify(there) !== JSON.stringify(own)) lost += Math.max(1, own.filter((one) => !there.includes(one)).length);
  }
  let open = asked.length;
  for (let i = 0; i < 300 && open > 0; i++) {
    const list = (await patient(() => call('/api/hand-overs'))).value;
    open = list.filter(({ id, state }) => asked.includes(id) && state !== 'done').length;
    await sleep(400);
  }
  const doubled = asked.length - new Set(asked).size;
  report(
    'kill -9 of web, render and database under four editors and a queue of hand-overs',
    `${KILLS} kills`,
    `${kept} edits acknowledged, ${lost} lost or doubled; ${asked.length} hand-overs asked for, ${open} not done, ${doubled} doubled`,
    lost + open + doubled,
  );
}
await stack.close();
stack = null;
rmSync(data, { recursive: true, force: true });

if (wanted('starts')) {
  let unstartable = 0;
  const start = (env) =>
    spawn(process.execPath, ['tools/start.mjs'], {
      cwd: root,
      env: { ...process.env, UMBO_DEMO: 'none', ...env },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
  for (let i = 0; i < STARTS; i++) {
    const folder = mkdtempSync(join(tmpdir(), 'umbo-attack-'));
    const env = { UMBO_DATA: folder, UMBO_PORT: String(await freePort()) };
    const first = start(env);
    await sleep(600 + random() * 4500);
    first.kill(pick(['SIGKILL', 'SIGKILL', 'SIGINT', 'SIGHUP']));
    await new Promise((done) => (first.exitCode === null && first.signalCode === null ? first.once('exit', done) : done()));
    const again = start(env);
    const ready = await new Promise((done) => {
      let said = '';
      for (const stream of [again.stdout, again.stderr]) stream.on('data', (text) => (said += text).includes('ready at') && done(true));
      again.once('exit', () => {
        console.log(said);
        done(false);
      });
    });
    if (!ready) unstartable++;
    const ended = new Promise((done) => again.once('exit', done));
    again.kill('SIGTERM');
    if (ready) await ended;
    rmSync(folder, { recursive: true, force: true });
  }
  report('First starts cut short', `${STARTS} starts`, `${unstartable} that could not be started again`, unstartable);
}

console.log(`\n| what was tried | how many | outcome |\n|---|---|---|\n${rows.map((row) => `| ${row.join(' | ')} |`).join('\n')}`);
process.exit(failures === 0 ? 0 : 1);
