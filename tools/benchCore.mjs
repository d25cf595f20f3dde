/** The cost of core's pixel functions, as ratios to copying the same pixels, in one run. */
import { build } from 'esbuild';
import { join } from 'node:path';
import { mkdirSync } from 'node:fs';
import { pathToFileURL } from 'node:url';
import sharp from 'sharp';
import { root } from './prepare.mjs';

const outfile = join(root, 'dist', 'core-bench.js');
mkdirSync(join(root, 'dist'), { recursive: true });
const contents = "export * from '@umbo/core'; export { createKernels } from '@umbo/kernels';";
await build({
  stdin: { contents, resolveDir: join(root, 'render') },
  outfile,
  bundle: true,
  platform: 'node',
  format: 'esm',
  logLevel: 'error',
});
const core = await import(pathToFileURL(outfile).href);
const kernels = core.createKernels();

const n = 256 * 64;
const rounds = 60;
const source = core.createPlanes(n);
for (let i = 0; i < n; i++) {
  source.r[i] = (i % 251) / 251;
  source.g[i] = (i % 127) / 127;
  source.b[i] = (i % 83) / 83;
}
const work = core.createPlanes(n);
const below = core.createPlanes(n);
const copy = (to) => ['r', 'g', 'b'].forEach((plane) => to[plane].set(source[plane]));
const settings = { ...core.hueSaturation.defaults, hue: 20, saturation: 10 };
const size = { width: 256, height: 64 };
const raster = core.createRaster(core.wholeOf(size));
for (const plane of ['r', 'g', 'b']) for (let i = 0; i < n; i++) raster[plane][i] = source[plane][i] * 65535;
const scale = { picture: size, full: size };
const mask = (parts, refine = []) => ({ parts, refine, strength: 1, invert: false });
const hue = core.maskPartKind('hueRange').create('h', 'add', size);
const withKernels = (run) => {
  core.accelerate(kernels);
  run();
  core.accelerate(null);
};
const cases = {
  'copy of three planes': () => copy(work),
  'hue & saturation, OKLCh: definition': () => core.hueSaturation.apply(settings, work, n),
  'hue & saturation, OKLCh: kernel': () => withKernels(() => core.hueSaturation.apply(settings, work, n)),
  'hue & saturation, HSL': () => core.hueSaturation.apply({ ...settings, model: 'hsl' }, work, n),
  'mask: hue range, kernel': () => withKernels(() => core.renderMask(mask([hue]), scale, core.wholeOf(size), raster, core.noPictures)),
  'mask: hue range': () => core.renderMask(mask([hue]), scale, core.wholeOf(size), raster, core.noPictures),
  'mask: hue range, feather 8 px': () =>
    core.renderMask(mask([hue], [{ kind: 'feather', radius: 8 }]), scale, core.wholeOf(size), raster, core.noPictures),
  ...Object.fromEntries(
    core.blendModes
      .filter(({ id }) => ['multiply', 'soft-light', 'color'].includes(id))
      .map((mode) => [`blend: ${mode.name}`, () => mode.apply(below, work, n)]),
  ),
};
// Interleaved, so that a busy moment of the machine touches all alike.
const times = Object.fromEntries(Object.keys(cases).map((name) => [name, []]));
for (let round = 0; round < rounds; round++)
  for (const [name, run] of Object.entries(cases)) {
    copy(work);
    copy(below);
    const begin = process.hrtime.bigint();
    run();
    times[name].push(Number(process.hrtime.bigint() - begin) / n);
  }
const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
const unit = median(times['copy of three planes']);
console.log(`\n${'Core, one thread, tiles of 256 x 64'.padEnd(42)} ${'ns per pixel'.padStart(12)} ${'copies'.padStart(8)}`);
for (const [name, values] of Object.entries(times))
  console.log(`${name.padEnd(42)} ${median(values).toFixed(1).padStart(12)} ${(median(values) / unit).toFixed(0).padStart(8)}`);

// Masks of a 3-megapixel portrait as the bench shows it at fit zoom, all of it at once, in one thread; the bench has as many as cores.
const full = { width: 1600, height: 2000 };
const fit = { width: 431, height: 539 };
const photo = sharp(join(root, 'demo/photographs/window-portrait.jpg')).removeAlpha();
const planesOf = async ({ width, height }) => {
  const bytes = await photo.clone().resize(width, height, { fit: 'fill' }).raw().toBuffer();
  const out = core.createRaster(core.wholeOf({ width, height }));
  core.spreadRows(
    Uint16Array.from(bytes, (v) => v * 257),
    out,
    0,
  );
  return out;
};
const stage = await planesOf(fit);
const overview = await planesOf(core.levelSize(full, core.overviewLevel(full)));
const hair = { colour: [0.45, 0.27, 0.1], x: 640, y: 420 };
const part = (kind) => {
  const made = core.maskPartKind(kind).create('p', 'add', full);
  if (made.kind === 'pick' || made.kind === 'likeness') core.maskPartKind(kind).take(made, hair, false);
  if (made.kind === 'outline') made.shapes = [[300, 300, 1400, 350, 1200, 1800, 200, 1500]];
  if (made.kind === 'brush')
    made.strokes = [
      { id: 's', size: 200, hardness: 0.3, flow: 0.3, opacity: 1, erase: false, points: [300, 400, 1, 1300, 1500, 1], alike: 8 },
    ];
  return made;
};
const masks = {
  ...Object.fromEntries(core.maskPartKinds.map(({ kind, name }) => [name, mask([part(kind)])])),
  ...Object.fromEntries(
    core.refineKinds.map((kind) => [`hue range, ${kind.name.toLowerCase()}`, mask([part('hueRange')], [kind.create()])]),
  ),
};
core.accelerate(kernels);
const taken = Object.fromEntries(Object.keys(masks).map((name) => [name, []]));
for (let round = 0; round < 7; round++)
  for (const [name, one] of Object.entries(masks)) {
    const begin = process.hrtime.bigint();
    // Another object each time, as an edit makes it: nothing is known of it from before.
    core.renderMask(structuredClone(one), { picture: fit, full }, core.wholeOf(fit), stage, { find: () => null, overview });
    taken[name].push(Number(process.hrtime.bigint() - begin) / 1e6);
  }
console.log(`\n${'Mask at fit zoom, one thread'.padEnd(42)} ${'ms'.padStart(12)}`);
for (const [name, values] of Object.entries(taken)) console.log(`${name.padEnd(42)} ${median(values).toFixed(0).padStart(12)}`);
