/** Hostile files and edits against the application, and made-up blocks against each reader: judged by seconds of CPU and megabytes. */
import { build } from 'esbuild';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { open, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import fc from 'fast-check';
import { exifBomb, farStroke, hostileFiles } from './hostileFiles.mjs';
import { root } from './prepare.mjs';

/** Ceilings for a file of five megabytes. */
const CPU_SECONDS = 5;
const MEGABYTES = 512;
const OTHERS_SECONDS = 1;
const BLOCKS = 3000;

/** Seconds of CPU of a process, by the kernel's count of hundredths. */
const cpuOf = (pid) => {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1].split(' ');
  return (Number(fields[11]) + Number(fields[12])) / 100;
};
const residentOf = (pid) => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))[1]) / 1024;

/** The most that processes take, and how long others wait for an answer, while something is done. */
async function watched(pids, ping, work) {
  const before = pids.map(residentOf);
  const cpu = pids.map(cpuOf);
  let [grown, slowest, running] = [0, 0, true];
  const watch = (async () => {
    while (running) {
      const begin = performance.now();
      await ping();
      slowest = Math.max(slowest, (performance.now() - begin) / 1000);
      grown = Math.max(grown, ...pids.map((pid, i) => residentOf(pid) - before[i]));
      await sleep(50);
    }
  })();
  const result = await work();
  running = false;
  await watch;
  return { result, cpu: Math.max(...pids.map((pid, i) => cpuOf(pid) - cpu[i])), grown, slowest };
}

export async function attackFiles({ stack, call, post, importFile, edits, report }) {
  const pids = ['web', 'render'].map((name) => stack.pid(name));
  const ping = () => call('/api/shoots').then((response) => response.text());
  const judge = (name, { result, cpu, grown, slowest }) => {
    const failed = cpu > CPU_SECONDS || grown > MEGABYTES || slowest > OTHERS_SECONDS || result.status >= 500;
    const words = `${result.status}; ${cpu.toFixed(1)} s of CPU, ${Math.round(grown)} MB more, others within ${slowest.toFixed(2)} s`;
    report(name, 'one file', words, failed ? 1 : 0);
  };
  for (const [name, make] of Object.entries(hostileFiles)) {
    const bytes = await make();
    judge(name, await watched(pids, ping, () => importFile(bytes)));
  }
  // What a file says of itself is read again when it is handed over.
  const { id } = await importFile(await hostileFiles['PNG: EXIF with 300 values over one megabyte']());
  const handOver = async () => {
    const options = { fileName: 'a.tif', format: 'tiff', bits: 8, space: 'srgb', quality: 90 };
    const { ids } = await (await post('/api/hand-overs', { key: `hostile-${id}`, photographId: id, options })).json();
    for (let i = 0; i < 600; i++) {
      const [one] = (await (await call('/api/hand-overs')).json()).filter((item) => item.id === ids[0]);
      if (one.state === 'done' || one.state === 'failed') return { status: one.state === 'done' ? 200 : 500 };
      await sleep(100);
    }
    return { status: 504 };
  };
  judge('Hand-over as TIFF of a file with such EXIF', await watched(pids, ping, handOver));
  // The schema of edits is compiled when the first comes.
  await post('/api/edits/check', {});
  // Strokes far outside: what would take hours to walk is refused, what is left is walked within the photograph only.
  const { adjustmentLayer, insertLayers, edit, maskPartKind } = edits;
  for (const [name, stroke, wanted] of [
    ['A stroke of 200 points over two million pixels each', farStroke(200, 0.5), 400],
    ['A stroke of 40 points, with a brush as broad as the photograph', farStroke(40, 60), 200],
  ]) {
    const state = await (await call(`/api/photographs/${id}`)).json();
    const layer = adjustmentLayer('far', 'exposure', 'Far');
    layer.where.parts = [{ ...maskPartKind('brush').create('b', 'add', state.edit.document.photo), strokes: [stroke] }];
    const step = edit(state.edit.document, insertLayers([layer], null));
    const entry = { id: 'far', label: 'Far', patches: step.patches, inverse: step.inverse };
    const batch = { id: `far-${wanted}`, database: state.database, base: state.edit.revision, changes: [{ type: 'edit', entry }] };
    const outcome = await watched(pids, ping, async () => {
      const response = await post(`/api/photographs/${id}/changes`, batch);
      const { revision = 1, detail } = await response.json();
      if (detail && !/million dabs/.test(detail)) return { status: 500 };
      for (let i = 0; i < 300; i++) {
        const ready = await (await post('/api/previews', { wanted: [{ id, revision }] })).json();
        if (ready.some((one) => one.id === id && one.revision >= revision)) return { status: response.status };
        await sleep(100);
      }
      return { status: 504 };
    });
    if (outcome.result.status !== wanted) outcome.result.status += 1000;
    judge(name, outcome);
  }
}

const bytes = (maxLength) => fc.uint8Array({ maxLength }).map((list) => Buffer.from(list));
/** Numbers that readers of offsets and counts stumble over. */
const number = fc.oneof(fc.constantFrom(0, 1, 2, 7, 8, 0xffff, 0x7fffffff, 0xffffffff), fc.nat(4000));
const tag = fc.oneof(fc.constantFrom(256, 257, 258, 259, 262, 273, 277, 278, 279, 284, 324, 325, 330, 0x8769, 0x8825, 0x0112, 0x0131, 0x010f, 50_706), fc.nat(0xffff)); // prettier-ignore
const entry = fc.tuple(tag, fc.oneof(fc.nat(13), fc.constant(129)), number, number);
const tree = fc.tuple(fc.array(entry, { maxLength: 40 }), number, bytes(600), fc.boolean()).map(([entries, next, rest, isLittle]) => {
  const head = Buffer.from(isLittle ? 'II*\0' : 'MM\0*', 'latin1');
  const body = Buffer.alloc(4 + 2 + entries.length * 12 + 4);
  const put = (at, v, length) => (isLittle ? body.writeUIntLE(v, at, length) : body.writeUIntBE(v, at, length));
  put(0, 8, 4);
  put(4, entries.length, 2);
  for (const [i, [t, type, count, value]] of entries.entries()) {
    put(6 + i * 12, t, 2);
    put(8 + i * 12, type, 2);
    put(10 + i * 12, count, 4);
    put(14 + i * 12, value, 4);
  }
  put(body.length - 4, next, 4);
  return Buffer.concat([head, body, rest]);
});
const iptc = fc
  .array(fc.tuple(fc.constantFrom(1, 2), fc.constantFrom(5, 25, 80, 90, 92, 101, 116), bytes(40)), { maxLength: 60 })
  .map((sets) => Buffer.concat(sets.map(([record, set, value]) => Buffer.concat([Buffer.from([0x1c, record, set, value.length >> 8, value.length & 255]), value])))); // prettier-ignore
const piece = fc.constantFrom('<rdf:Description>', '</rdf:Description>', '<dc:creator>', '</dc:creator>', '<xmp:Thumbnails a="b">', '</xmp:Thumbnails>', '<exif:GPSLatitude/>', ' exif:GPSLatitude="1,2N"', '<![CDATA[', ']]>', '<!--', '-->', '<?x', '?>', '&amp;', '"', "'", '<', '>', 'text', '</rdf:RDF>'); // prettier-ignore
const xmp = fc
  .array(piece, { maxLength: 300 })
  .map((pieces) => `<x:xmpmeta xmlns:x="a"><rdf:RDF xmlns:rdf="b">${pieces.join('')}</rdf:RDF></x:xmpmeta>`);

/** Made-up blocks against the readers of the server, one after the other. */
export async function attackReaders(report) {
  const folder = mkdtempSync(join(tmpdir(), 'umbo-readers-'));
  const outfile = join(root, 'dist', 'readers.mjs');
  const from = (path) => `export * from ${JSON.stringify(join(root, path))};`;
  const files = ['files/src/read/cameraFacts.ts', 'files/src/read/tiffPages.ts', 'files/src/read/pngColour.ts', 'render/src/metadata/exif.ts', 'render/src/metadata/tiffExif.ts', 'render/src/metadata/iptc.ts', 'render/src/metadata/xmp.ts']; // prettier-ignore
  const stdin = { contents: files.map(from).join('\n'), resolveDir: root };
  const external = ['sequelize', 'mysql2', 'sharp', 'fast-xml-parser'];
  await build({ stdin, bundle: true, platform: 'node', format: 'esm', outfile, external, logLevel: 'error' });
  const readers = await import(outfile);
  const path = join(folder, 'file');
  const size = { width: 64, height: 48 };
  /** With an open file that holds a block. */
  const filed = (read) => async (block) => {
    await writeFile(path, block);
    const file = await open(path);
    try {
      await read(file, block.length);
    } finally {
      await file.close();
    }
  };
  const refusedOr = (read) => (...args) => read(...args).catch((error) => error.constructor.name === 'Problem' || Promise.reject(error)); // prettier-ignore
  const tried = {
    'EXIF: what it was taken with': [tree, (block) => readers.takenOf(block)],
    'EXIF: corrected, without place': [tree, (block) => readers.correctedExif(block, size, false)],
    'TIFF: its pages': [tree, refusedOr(filed(readers.photographPage))],
    'TIFF: whether it is a raw file': [tree, filed(readers.isRawTiff)],
    'PNG: its colours': [bytes(400), refusedOr(filed(readers.pngStatement))],
    'IPTC: its texts, without place': [iptc, (block) => (readers.readIptc(block), readers.readIptc(readers.withoutPlace(block)))],
    'XMP: corrected, without place': [xmp, (text) => readers.correctedXmp(text, new Map([[110, ['x']]]), size, false)],
    'XMP: its rights': [xmp, (text) => readers.rightsOf(text, new Map(), { artist: null, copyright: null })],
  };
  for (const [name, [blocks, read]] of Object.entries(tried)) {
    let [slowest, faults] = [0, 0];
    for (const block of fc.sample(blocks, { numRuns: BLOCKS, seed: 20_261 })) {
      const before = process.cpuUsage();
      try {
        await read(block);
      } catch (error) {
        faults++;
        if (faults < 4) console.log(`  ${name}: ${error.stack?.split('\n').slice(0, 3).join(' ')}`);
      }
      const { user, system } = process.cpuUsage(before);
      slowest = Math.max(slowest, (user + system) / 1e6);
    }
    report(
      name,
      `${BLOCKS} made-up blocks`,
      `${faults} that threw, ${slowest.toFixed(2)} s of CPU at most`,
      faults + (slowest > CPU_SECONDS ? 1 : 0),
    );
  }
  const began = process.cpuUsage();
  readers.takenOf(exifBomb(4000, 4_000_000));
  report('EXIF: four megabytes named 4000 times', 'one block', `${(process.cpuUsage(began).user / 1e6).toFixed(2)} s of CPU`);
  rmSync(folder, { recursive: true, force: true });
}
