/** The cost of core's pixel functions, as ratios to copying the same pixels, in one run. */
import { build } from 'esbuild';
import { join } from 'node:path';
import { mkdirSync } from 'node:fs';
import { pathToFileURL } from 'node:url';
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
const hue = core.maskPartKind('hueRange').create('h', 'add');
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
  'mask: hue range, feather 8 px': () => core.renderMask(mask([hue], [{ kind: 'feather', radius: 8 }]), scale, core.wholeOf(size), raster, core.noPictures),
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
