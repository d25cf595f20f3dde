/** The cost of core's pixel functions, as ratios to copying the same pixels, in one run. */
import { join } from 'node:path';
import sharp from 'sharp';
import { loadCore } from './core.mjs';
import { root } from './prepare.mjs';

const core = await loadCore();
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
const place = { scale, space: core.srgb, tile: core.wholeOf(size) };
const turn = (own) => core.hueSaturation.apply(own, work, n, place);
const samples = { area: core.wholeOf(size), channels: 4, values: new Uint8ClampedArray(n * 4) };
const cut = (geometry) => {
  const framing = core.framingOf({ ...core.noGeometry, crop: { x: 0, y: 0, ...size }, ...geometry }, size);
  return () => core.turnPixels({ ...scale, framing }, framing, samples, { ...samples, values: new Uint8ClampedArray(n * 4) }, [0, 0, 0, 0]);
};
const cases = {
  'copy of three planes': () => copy(work),
  'crop: moved by a pixel': cut({ crop: { x: 1, y: 0, ...size } }),
  'crop: straightened, definition': cut({ angle: 1 }),
  'crop: straightened, kernel': () => withKernels(cut({ angle: 1 })),
  'crop: perspective, kernel': () => withKernels(cut({ vertical: 10 })),
  'hue & saturation, OKLCh: definition': () => turn(settings),
  'hue & saturation, OKLCh: kernel': () => withKernels(() => turn(settings)),
  'hue & saturation, HSL': () => turn({ ...settings, model: 'hsl' }),
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

// Every adjustment on pixels by themselves, with kernels as the application runs: against the OKLCh hue shift.
const straight = () => [[0, 0], [1, 1]]; // prettier-ignore
const busy = {
  hueSaturation: { ranges: [{ ...core.familyRange('oklch', 'red'), hue: 20, saturation: 10 }] },
  colourFamilies: { redHue: 30, greenSaturation: -40 },
  whiteBalance: { kelvin: 5200, tint: 5 },
  colourBalance: { midtonesCyanRed: 20, shadowsYellowBlue: 10 },
  vibrance: { vibrance: 40 },
  colourSwap: { from: [0.8, 0.3, 0.2], to: [0.2, 0.4, 0.8] },
  curves: { rgb: [[0, 0], [0.4, 0.5], [1, 1]], lightness: straight() }, // prettier-ignore
  levels: { rgb: { black: 10, white: 240, middle: 1.1, low: 0, high: 255 } },
  exposure: { stops: 0.4 },
  tone: { contrast: 30, shadows: 20 },
  brightnessContrast: { contrast: 20 },
  posterise: { levels: 8 },
  evenRamp: { colours: [[0.1, 0, 0], [0.9, 0.8, 0.7]] }, // prettier-ignore
  splitToning: { shadowsSaturation: 20 },
  threeWayTint: { shadowsStrength: 30 },
  lut3d: core.lutSettings({ ...core.identityLut(33), title: 'x' }),
};
// The same object in every round: tables are made once for each state, as when other layers change.
const own = Object.fromEntries(core.adjustments.map(({ kind, defaults }) => [kind, { ...defaults, ...busy[kind] }]));
const pointwise = core.adjustments.filter(({ apply, kind }) => apply && kind !== 'highPass');
const costs = Object.fromEntries(['hue shift', ...pointwise.map(({ name }) => name)].map((name) => [name, []]));
core.accelerate(kernels);
for (let round = 0; round < rounds; round++) {
  const measure = (name, run) => {
    copy(work);
    const begin = process.hrtime.bigint();
    run();
    costs[name].push(Number(process.hrtime.bigint() - begin) / n);
  };
  measure('hue shift', () => turn(settings));
  for (const { kind, name, apply } of pointwise) measure(name, () => apply(own[kind], work, n, place));
}
core.accelerate(null);
const shift = median(costs['hue shift']);
console.log(`\n${'Adjustments, one thread, kernels'.padEnd(42)} ${'ns per pixel'.padStart(12)} ${'hue shifts'.padStart(11)}`);
for (const [name, values] of Object.entries(costs))
  console.log(`${name.padEnd(42)} ${median(values).toFixed(1).padStart(12)} ${(median(values) / shift).toFixed(2).padStart(11)}`);

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
const hair = { space: core.srgb, colour: [0.45, 0.27, 0.1], x: 640, y: 420 };
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
    core.renderMask(structuredClone(one), { picture: fit, full }, core.wholeOf(fit), stage, core.withOverview(core.noPictures, overview));
    taken[name].push(Number(process.hrtime.bigint() - begin) / 1e6);
  }
console.log(`\n${'Mask at fit zoom, one thread'.padEnd(42)} ${'ms'.padStart(12)}`);
for (const [name, values] of Object.entries(taken)) console.log(`${name.padEnd(42)} ${median(values).toFixed(0).padStart(12)}`);

// Filters, for the whole of the same picture.
const wide = { gaussianBlur: { radius: 20 }, localContrast: { fine: 40, broad: 40 }, haze: { amount: 50 }, tone: { compression: 50 } };
const filters = core.adjustments.filter(({ filter }) => filter);
const spent = Object.fromEntries(filters.map(({ name }) => [name, []]));
for (let round = 0; round < 7; round++)
  for (const { kind, name, defaults, filter } of filters) {
    const picture = { area: stage.area, r: stage.r.slice(), g: stage.g.slice(), b: stage.b.slice() };
    const begin = process.hrtime.bigint();
    filter.apply({ ...defaults, ...wide[kind] }, picture, { picture: fit, full });
    spent[name].push(Number(process.hrtime.bigint() - begin) / 1e6);
  }
console.log(`\n${'Surroundings at fit zoom, one thread'.padEnd(42)} ${'ms'.padStart(12)}`);
for (const [name, values] of Object.entries(spent)) console.log(`${name.padEnd(42)} ${median(values).toFixed(0).padStart(12)}`);

// What must not grow: masks that look at the result so far, and the next stroke of a long painting.
const time = (work) => {
  const begin = process.hrtime.bigint();
  work();
  return Number(process.hrtime.bigint() - begin) / 1e6;
};
const stackOf = (n, result) => ({
  ...core.emptyDocument(full),
  layers: Array.from({ length: n }, (_, i) => {
    const layer = core.adjustmentLayer(`r${i}`, 'exposure', `r${i}`);
    layer.what.settings.stops = 0.05;
    layer.where.parts = [{ ...part('likeness'), result }];
    return layer;
  }),
});
const render = (document) =>
  time(() =>
    core.renderRegion(
      document,
      { picture: fit, full },
      core.wholeOf(fit),
      stage,
      core.withOverview(core.noPictures, overview),
      () => undefined,
    ),
  );
console.log(
  `\n${'Masks of the result so far, likeness'.padEnd(42)} ${'of the photograph'.padStart(18)} ${'of the result'.padStart(14)} ${'ratio'.padStart(7)}`,
);
for (const n of [2, 6, 14]) {
  const times = [false, true].map((result) => median(Array.from({ length: 5 }, () => render(structuredClone(stackOf(n, result))))));
  console.log(
    `${`${n} layers, ms`.padEnd(42)} ${times[0].toFixed(0).padStart(18)} ${times[1].toFixed(0).padStart(14)} ${(times[1] / times[0]).toFixed(2).padStart(7)}`,
  );
}
const stroke = (i) => ({
  id: `s${i}`,
  size: 60,
  hardness: 0.4,
  flow: 0.3,
  opacity: 1,
  erase: false,
  points: Array.from({ length: 80 }, (_, k) => [700 + ((i * 37) % 200) + k, 900 + ((i * 53) % 200) + (k % 9), 1]).flat(),
});
const area = { x: 190, y: 240, width: 60, height: 60 };
const strokes = Array.from({ length: 800 }, (_, i) => stroke(i));
const painted = [];
for (let n = 1; n <= 800; n++) {
  const where = mask([{ ...part('brush'), strokes: strokes.slice(0, n) }]);
  painted.push(time(() => core.renderMask(where, { picture: fit, full }, area, stage, core.withOverview(core.noPictures, overview))));
}
for (const n of [10, 100, 400, 800])
  console.log(
    `${`Stroke ${n} of a painting, 60 x 60 pixels`.padEnd(42)} ${median(painted.slice(n - 10, n))
      .toFixed(1)
      .padStart(12)} ms`,
  );
