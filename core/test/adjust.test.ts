/** Adjustments against the outside: published formulas and values, reference libraries, ffmpeg and libvips. */
import Color from 'colorjs.io';
import { converter, interpolate } from 'culori';
import fc from 'fast-check';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pchip from 'pchip';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import {
  adaptation,
  adjustment,
  adjustmentLayer,
  adjustments,
  createPlanes,
  createRaster,
  darkChannel,
  emptyDocument,
  groupLayer,
  guidedPlanes,
  guidedReach,
  hazeLight,
  identityLut,
  lightOfNeutral,
  lutOfLayers,
  lutSettings,
  monotoneCubic,
  NEUTRAL_KELVIN,
  noPictures,
  parseCube,
  quantise,
  rampFromRegion,
  reachOf,
  renderRegion,
  srgbToLinear,
  srgbToOklch,
  stackBelow,
  wholeOf,
  whitePoint,
  writeCube,
  writeRaster,
  type AdjustmentContent,
  type Colour,
  type Layer,
  type Planes,
  type Raster,
  type Rect,
  type SettingsOf,
  type Size,
} from '@umbo/core';

type Kind = AdjustmentContent['kind'];
const everyAdjustment = adjustments.map(({ kind }) => ({ ...adjustment(kind), kind: kind as Kind }));
const chance = (seed: number) => {
  let state = seed;
  return (): number => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
};

/** Random colours with all greys and primaries among them. */
function colours(n: number, seed = 7): Planes {
  const random = chance(seed);
  const planes = createPlanes(n);
  for (let i = 0; i < n; i++) for (const plane of [planes.r, planes.g, planes.b]) plane[i] = i % 11 === 0 ? (i % 256) / 255 : random();
  return planes;
}

/** One kind applied to pixels of their own. */
function applied<K extends Kind>(kind: K, settings: Partial<SettingsOf<K>>, pixels: Planes): Planes {
  const n = pixels.r.length;
  const out = { r: pixels.r.slice(), g: pixels.g.slice(), b: pixels.b.slice() };
  const size = { width: n, height: 1 };
  const { defaults, apply } = adjustment(kind);
  apply!({ ...(structuredClone(defaults) as object), ...settings }, out, n, { scale: { picture: size, full: size }, tile: wholeOf(size) });
  return out;
}
const one = (colour: Colour): Planes => ({ r: Float32Array.of(colour[0]), g: Float32Array.of(colour[1]), b: Float32Array.of(colour[2]) });
const first = ({ r, g, b }: Planes): Colour => [r[0]!, g[0]!, b[0]!];
const lum = ([r, g, b]: Colour): number => 0.3 * r + 0.59 * g + 0.11 * b;

/** A picture of waves with edges and grain. */
function picture({ width, height }: Size, seed = 3): Raster {
  const random = chance(seed);
  const raster = createRaster(wholeOf({ width, height }));
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    const edge = (Math.floor(x / 23) + Math.floor(y / 17)) % 2 === 0 ? 0.25 : 0;
    for (const [c, plane] of [raster.r, raster.g, raster.b].entries())
      plane[i] = quantise(0.35 + edge + 0.25 * Math.sin(x / (9 + 4 * c) + y / 21 + c) + 0.05 * (random() - 0.5), 65535);
  }
  return raster;
}

function rendered(layers: Layer[], source: Raster, full: Size, region: Rect = source.area): Raster {
  const out = createRaster(region);
  const { width, height } = source.area;
  renderRegion({ ...emptyDocument(full), layers }, { picture: { width, height }, full }, region, source, noPictures, (tile, pixels) =>
    writeRaster(out, tile, pixels),
  );
  return out;
}
function layerOf<K extends Kind>(kind: K, settings: Partial<SettingsOf<K>> = {}, id = kind as string): Layer {
  const layer = adjustmentLayer(id, kind, id);
  Object.assign(layer.what.settings, settings);
  layer.how.mode = 'normal';
  return layer;
}

/** Settings at the ends of what their schema allows: numbers, choices, lists of any length. */
function extremes(schema: { [key: string]: unknown }, random: () => number): unknown {
  const { type, minimum, maximum, exclusiveMaximum, anyOf, properties, items, minItems = 0, maxItems = 4, pattern, const: constant } = schema as never as {
    type?: string; minimum?: number; maximum?: number; exclusiveMaximum?: number; anyOf?: { const: unknown }[]; properties?: Record<string, object>;
    items?: object; minItems?: number; maxItems?: number; pattern?: string; const?: unknown;
  }; // prettier-ignore
  if (constant !== undefined) return constant;
  if (anyOf) return extremes(anyOf[Math.floor(random() * anyOf.length)]! as never, random);
  if (type === 'boolean') return random() < 0.5;
  if (type === 'string') return pattern ? '' : 'x';
  if (type === 'array') {
    const length = random() < 0.3 ? minItems : Math.min(maxItems, minItems + Math.floor(random() * 4));
    return Array.from({ length }, () => extremes(items as never, random));
  }
  if (type === 'object')
    return Object.fromEntries(Object.entries(properties!).map(([key, value]) => [key, extremes(value as never, random)]));
  const [low, high] = [minimum ?? 0, maximum ?? (exclusiveMaximum ?? 1) - 0.001];
  const v = random();
  return v < 0.3 ? low : v < 0.6 ? high : type === 'integer' ? Math.round(low + (high - low) * random()) : low + (high - low) * random();
}

describe('every adjustment', () => {
  const full = { width: 2000, height: 1500 };

  it('gives a defined result for settings at their ends, one pixel, a strip, and no numbers', () => {
    const random = chance(99);
    const [pixel, strip] = [picture({ width: 1, height: 1 }), picture({ width: 1, height: 20_000 })];
    for (const { kind, schema, apply, isNeutral } of everyAdjustment)
      for (let round = 0; round < 4; round++) {
        const layer = layerOf(kind, extremes(schema as never, random) as never);
        for (const source of [pixel, strip]) {
          const out = rendered([layer], source, { width: source.area.width, height: source.area.height });
          expect(out.r).toHaveLength(source.r.length);
        }
        if (!apply || isNeutral(layer.what.settings as never)) continue;
        const odd = colours(64);
        for (const [i, v] of [Number.NaN, Infinity, -Infinity, -0.5, 1.8, 0, 1].entries()) odd.r[i] = odd.b[i + 1] = v;
        const { r, g, b } = applied(kind, layer.what.settings as never, odd);
        // A colour of which nothing is known may stay so; its neighbours may not be drawn in.
        for (const plane of [r, g, b])
          for (let i = 9; i < 64; i++)
            expect(Number.isFinite(plane[i]!), `${kind} ${JSON.stringify(layer.what.settings).slice(0, 300)}`).toBe(true);
        for (const plane of [r, g, b]) for (let i = 0; i < 9; i++) expect(quantise(plane[i]!, 255)).toBeGreaterThanOrEqual(0);
      }
  });

  it('changes nothing while it is neutral, and gives the same bytes in bands as in one piece', () => {
    const size = { width: 150, height: 120 };
    const source = picture(size);
    const random = chance(5);
    for (const { kind, schema, defaults, isNeutral } of everyAdjustment) {
      if (isNeutral(defaults)) expect(rendered([layerOf(kind)], source, full).r).toEqual(source.r);
      // Wide windows would see all of so small a picture: its full size decides how wide they are.
      const layers = [
        layerOf(
          kind,
          kind === 'gaussianBlur' || kind === 'unsharp' ? ({ radius: 30 } as never) : (extremes(schema as never, random) as never),
        ),
      ];
      const whole = rendered(layers, source, full);
      for (const region of [
        { x: 0, y: 0, width: 150, height: 41 },
        { x: 37, y: 53, width: 60, height: 29 },
      ]) {
        const part = rendered(layers, source, full, region);
        for (const plane of ['r', 'g', 'b'] as const)
          for (let y = 0; y < region.height; y++) {
            const from = (region.y + y) * size.width + region.x;
            expect(
              Buffer.compare(
                Buffer.from(part[plane].slice(y * region.width, (y + 1) * region.width).buffer),
                Buffer.from(whole[plane].slice(from, from + region.width).buffer),
              ),
              kind,
            ).toBe(0);
          }
      }
    }
  });

  it('looks at the picture below the group that it is in, whose mask then counts once', () => {
    const size = { width: 90, height: 60 };
    const source = picture(size);
    const blur = layerOf('gaussianBlur', { radius: 4 });
    const where: Layer['where'] = {
      parts: [{ id: 'g', kind: 'gradient', on: true, invert: false, combine: 'add', from: { x: 20, y: 30 }, to: { x: 70, y: 30 } }],
      refine: [],
      strength: 1,
      invert: false,
    };
    const group = groupLayer('group', 'group');
    if (group.what.kind === 'group') group.what.layers = [blur];
    group.where = where;
    const alone = rendered([{ ...blur, where }], source, size);
    const grouped = rendered([group], source, size);
    for (let i = 0; i < alone.r.length; i++) expect(Math.abs(alone.r[i]! - grouped.r[i]!)).toBeLessThanOrEqual(1);
    expect(stackBelow({ ...emptyDocument(size), layers: [group] }, 'gaussianBlur').layers[0]!.where.parts).toEqual([]);
  });
});

describe('curves', () => {
  const points = fc
    .uniqueArray(fc.integer({ min: 0, max: 255 }), { minLength: 2, maxLength: 9 })
    .chain((xs) =>
      fc.tuple(
        fc.constant([...xs].sort((a, b) => a - b)),
        fc.array(
          fc.integer({ min: 0, max: 1000 }).map((v) => v / 1000),
          { minLength: xs.length, maxLength: xs.length },
        ),
      ),
    )
    .map(([xs, ys]) => xs.map((x, i): [number, number] => [x, ys[i]!]));

  it('agree with pchip, the reference library, which follows Fritsch and Carlson, too', () => {
    fc.assert(
      fc.property(points, (given) => {
        // Data that rise throughout, without two pieces side by side whose tangents are shortened: there the paper leaves the order open.
        const list = given.map(([x, y], i): [number, number] => [x, y * 5 + i + 0.01 * i * i]).sort((p, q) => p[0] - q[0]);
        fc.pre(list.every(([, y], i) => i === 0 || y > list[i - 1]![1]));
        const rises = list.slice(1).map(([x, y], i) => (y - list[i]![1]) / (x - list[i]![0]));
        const tangents = list.map((_, i) => ((rises[i - 1] ?? rises[0]!) + (rises[i] ?? rises.at(-1)!)) / 2);
        const long = rises.map((d, i) => Math.hypot(tangents[i]! / d, tangents[i + 1]! / d) > 3);
        fc.pre(!long.some((one, i) => one && long[i + 1]));
        const curve = monotoneCubic(list);
        const slopes = pchip.slopes_monotone(list);
        for (let k = 0; k + 1 < list.length; k++) {
          const [[x0, y0], [x1, y1]] = [list[k]!, list[k + 1]!];
          const h = x1 - x0;
          // The cubic Hermite form of the textbooks with the library's tangents.
          for (const t of [0, 0.2, 0.5, 0.8]) {
            const expected =
              (1 + 2 * t) * (1 - t) ** 2 * y0 +
              t * (1 - t) ** 2 * h * slopes[k]! +
              t * t * (3 - 2 * t) * y1 +
              t * t * (t - 1) * h * slopes[k + 1]!;
            expect(curve(x0 + t * h)).toBeCloseTo(expected, 6);
          }
        }
      }),
    );
  });

  it('go through their points and never overshoot: monotone wherever the points are (Fritsch and Carlson 1980)', () => {
    fc.assert(
      fc.property(points, (list) => {
        const curve = monotoneCubic(list);
        for (const [x, y] of list) expect(curve(x)).toBeCloseTo(y, 9);
        for (let k = 0; k + 1 < list.length; k++) {
          const [[x0, y0], [x1, y1]] = [list[k]!, list[k + 1]!];
          let before = y0;
          for (let i = 1; i <= 20; i++) {
            const y = curve(x0 + ((x1 - x0) * i) / 20);
            if (y1 >= y0) expect(y).toBeGreaterThanOrEqual(before - 1e-9);
            else expect(y).toBeLessThanOrEqual(before + 1e-9);
            before = y;
          }
        }
      }),
    );
    expect(monotoneCubic([])(0.3)).toBe(0.3);
    expect(monotoneCubic([[0.5, 0.2]])(0.9)).toBe(0.2);
  });

  it('of one channel leave the others alone; of lightness leave hue and chroma, of chroma lightness and hue', () => {
    const pixels = one([0.6, 0.4, 0.3]);
    const [r, g, b] = first(applied('curves', { r: [[0, 0], [0.5, 0.7], [1, 1]] }, pixels)); // prettier-ignore
    expect([g, b].map((v) => v.toFixed(5))).toEqual(['0.40000', '0.30000']);
    expect(r).toBeGreaterThan(0.65);
    const before = srgbToOklch(...first(pixels));
    const lighter = srgbToOklch(...first(applied('curves', { lightness: [[0, 0], [0.5, 0.6], [1, 1]] }, pixels))); // prettier-ignore
    expect(lighter.l).toBeGreaterThan(before.l + 0.05);
    expect(lighter.h).toBeCloseTo(before.h, 1);
    expect(lighter.c).toBeCloseTo(before.c, 3);
    const duller = srgbToOklch(...first(applied('curves', { chroma: [[0, 0], [1, 0.5]] }, pixels))); // prettier-ignore
    expect(duller.c / before.c).toBeCloseTo(0.5, 2);
    expect(duller.l).toBeCloseTo(before.l, 3);
  });
});

describe('white balance', () => {
  it('follows the CIE daylight locus', () => {
    // CIE 15, table of illuminants: chromaticities of D50, D55, D65, D75, whose colour temperatures are 1.4388 / 1.438 times the nominal ones.
    for (const [nominal, x, y] of [
      [5000, 0.34567, 0.3585],
      [5500, 0.33242, 0.34743],
      [6500, 0.31271, 0.32902],
      [7500, 0.29902, 0.31485],
    ] as const) {
      const [wx, wy] = whitePoint((nominal * 1.4388) / 1.438, 0);
      expect(Math.abs(wx - x)).toBeLessThan(2e-4);
      expect(Math.abs(wy - y)).toBeLessThan(2e-4);
    }
    // Below the daylight: a black body.
    const [ax, ay] = whitePoint(2500, 0);
    expect(Math.hypot(ax - 0.477, ay - 0.4137)).toBeLessThan(0.002); // Planck's law at 2500 K, value from memory
    // No step where one locus passes into the other.
    expect(Math.hypot(...([0, 1] as const).map((c) => whitePoint(3999.9, 0)[c] - whitePoint(4000, 0)[c]))).toBeLessThan(1e-4);
  });

  it('adapts as Bradford’s matrix does in colorjs.io', () => {
    const [d50, d65] = [[0.3457, 0.3585], [0.3127, 0.329]] as const; // prettier-ignore
    const matrix = adaptation(d50, d65);
    for (const xyz of [[0.3, 0.2, 0.1], [0.96422, 1, 0.82521], [0.05, 0.4, 0.6]] as const) {
      const ours = matrix.map((row) => row[0] * xyz[0] + row[1] * xyz[1] + row[2] * xyz[2]);
      const theirs = new Color('xyz-d50', [...xyz]).to('xyz-d65').coords;
      for (const c of [0, 1, 2]) expect(ours[c]).toBeCloseTo(theirs[c]!, 5);
    } // prettier-ignore
  });

  it('makes neutral what was sampled as neutral, and leaves all alone at its beginning', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 2600, max: 15000, noNaN: true }),
        fc.double({ min: -80, max: 80, noNaN: true }),
        fc.double({ min: 0.2, max: 0.7, noNaN: true }),
        (kelvin, tint, grey) => {
          // A grey card in that light: what undoing the correction of a grey gives.
          const cast = first(
            applied(
              'whiteBalance',
              { kelvin: 1e6 / (2e6 / NEUTRAL_KELVIN - 1e6 / Math.max(3600, kelvin)), tint: -tint / 4 },
              one([grey, grey, grey]),
            ),
          );
          fc.pre(cast.every((v) => v > 0.02 && v < 1));
          const light = lightOfNeutral(cast)!;
          const corrected = first(applied('whiteBalance', light, one(cast)));
          expect(srgbToOklch(...corrected).c).toBeLessThan(0.002);
        },
      ),
    );
    expect(lightOfNeutral([0.5, 0.5, 0.5])!.kelvin).toBeCloseTo(NEUTRAL_KELVIN, -1);
    expect(lightOfNeutral([0, 0, 0])).toBeNull();
  });
});

describe('3D LUTs', () => {
  const curved = lutOfLayers([layerOf('curves', { rgb: [[0, 0], [0.3, 0.2], [0.7, 0.85], [1, 1]] }), layerOf('hueSaturation', { hue: 40, saturation: 20 })], 'Curved', 17); // prettier-ignore

  it('are read back by ffmpeg to within 1 of 255', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'umbo-lut-'));
    try {
      const cube = join(folder, 'table.cube');
      writeFileSync(cube, writeCube(curved));
      const [width, height] = [64, 64];
      const random = chance(21);
      const bytes = Buffer.from(Uint8Array.from({ length: width * height * 3 }, () => Math.floor(random() * 256)));
      await sharp(bytes, { raw: { width, height, channels: 3 } })
        .png()
        .toFile(join(folder, 'in.png'));
      execFileSync('/usr/bin/ffmpeg', [
        '-v',
        'error',
        '-i',
        join(folder, 'in.png'),
        '-vf',
        `format=rgb24,lut3d=file=${cube}:interp=tetrahedral`,
        '-pix_fmt',
        'rgb24',
        join(folder, 'out.png'),
      ]);
      const theirs = await sharp(join(folder, 'out.png')).removeAlpha().raw().toBuffer();
      const pixels = createPlanes(width * height);
      for (let i = 0; i < width * height; i++)
        [pixels.r[i], pixels.g[i], pixels.b[i]] = [bytes[i * 3]! / 255, bytes[i * 3 + 1]! / 255, bytes[i * 3 + 2]! / 255];
      const ours = applied('lut3d', lutSettings(parseCube(writeCube(curved))), pixels);
      for (let i = 0; i < width * height; i++)
        for (const [c, plane] of [ours.r, ours.g, ours.b].entries())
          expect(Math.abs(quantise(plane[i]!, 255) - theirs[i * 3 + c]!)).toBeLessThanOrEqual(1);
    } finally {
      rmSync(folder, { recursive: true });
    }
  });

  it('come back from text as they were, and say what is wrong with a text', () => {
    const again = parseCube(writeCube(curved));
    expect(again).toMatchObject({ title: 'Curved', size: 17, min: [0, 0, 0], max: [1, 1, 1] });
    for (const [i, v] of curved.values.entries()) expect(Math.abs(again.values[i]! - v)).toBeLessThan(1e-6);
    const unchanged = applied('lut3d', lutSettings(identityLut(65)), colours(500));
    for (const [i, v] of colours(500).g.entries()) expect(Math.abs(unchanged.g[i]! - v)).toBeLessThan(1e-4);
    for (const [text, words] of [
      ['', /no 3D table/],
      ['LUT_1D_SIZE 4', /single channels/],
      ['LUT_3D_SIZE 99', /99 points/],
      ['LUT_3D_SIZE 2\n0 0 zero', /Line 2/],
      [`LUT_3D_SIZE 2\n${'0 0 0\n'.repeat(9)}`, /more than 8/],
      ['0 0 0', /must come before/],
      [`LUT_3D_SIZE 2\nDOMAIN_MAX 0 1 1\n${'0 0 0\n'.repeat(8)}`, /DOMAIN_MAX/],
    ] as const)
      expect(() => parseCube(text)).toThrow(words);
    expect(() => lutOfLayers([layerOf('vignette')], '', 17)).toThrow(/where a pixel is/);
    expect(() => lutOfLayers([layerOf('gaussianBlur', { radius: 3 })], '', 17)).toThrow(/neighbours/);
  });
});

describe('colour', () => {
  it('hue & saturation in HSL and in OKLCh turn as culori’s conversions say, and a range of all hues acts as the master does', () => {
    const [toHsl, toRgb, toOklch] = [converter('hsl'), converter('rgb'), converter('oklch')];
    const pixels = colours(200);
    const turned = applied('hueSaturation', { model: 'hsl', hue: 75, saturation: -30 }, pixels);
    for (let i = 0; i < 200; i++) {
      const { h = 0, s, l } = toHsl({ mode: 'rgb', r: pixels.r[i]!, g: pixels.g[i]!, b: pixels.b[i]! });
      const { r, g, b } = toRgb({ mode: 'hsl', h: h + 75, s: s * 0.7, l });
      for (const [v, w] of [[turned.r[i]!, r], [turned.g[i]!, g], [turned.b[i]!, b]] as const) expect(v).toBeCloseTo(w, 5); // prettier-ignore
    }
    for (const model of ['hsl', 'oklch'] as const) {
      const all = { name: 'all', from: 0, fadeIn: 0, span: 360, fadeOut: 0, hue: 40, saturation: 25, lightness: 0 };
      const [ranged, master] = [
        applied('hueSaturation', { model, ranges: [all] }, pixels),
        applied('hueSaturation', { model, hue: 40, saturation: 25 }, pixels),
      ];
      for (let i = 0; i < 200; i++) expect(Math.abs(ranged.r[i]! - master.r[i]!)).toBeLessThan(2e-4);
    }
    // The families of OKLCh: what is pure red moves with the reds, and nothing else does.
    const reds = first(applied('colourFamilies', { redHue: 100 }, one([1, 0, 0])));
    const { h } = toOklch({ mode: 'rgb', r: reds[0], g: reds[1], b: reds[2] });
    expect(h).toBeCloseTo(56.5, 0); // where the oranges are
    expect(first(applied('colourFamilies', { redHue: 100, redLightness: 50 }, one([0, 0, 1])))[2]).toBeCloseTo(1, 4);
  });

  it('colour balance moves opposite pairs against each other (common practice, no source) and keeps the luminosity', () => {
    for (const [pair, channel] of [['CyanRed', 0], ['MagentaGreen', 1], ['YellowBlue', 2]] as const)
      for (const grey of [0.15, 0.5, 0.85]) {
        const settings = Object.fromEntries(['shadows', 'midtones', 'highlights'].map((zone) => [`${zone}${pair}`, 40]));
        const out = first(applied('colourBalance', settings, one([grey, grey, grey])));
        for (const c of [0, 1, 2]) expect(Math.sign(out[c]! - grey)).toBe(c === channel ? 1 : -1);
        expect(lum(out)).toBeCloseTo(grey, 5);
      } // prettier-ignore
    const shadows = first(applied('colourBalance', { shadowsYellowBlue: 60 }, one([0.95, 0.95, 0.95])));
    expect(shadows[2]).toBeCloseTo(0.95, 5);
    const toned = first(
      applied('splitToning', { shadowsHue: 220, shadowsSaturation: 40, highlightsHue: 45, highlightsSaturation: 40 }, one([0.2, 0.2, 0.2])),
    );
    expect(toned[2]).toBeGreaterThan(toned[0]);
    expect(lum(toned)).toBeCloseTo(0.2, 5);
  });

  it('black & white begins as the luminosity of W3C Compositing and Blending; weights act on their family only', () => {
    const pixels = colours(300);
    const grey = applied('blackWhite', {}, pixels);
    for (let i = 0; i < 300; i++) expect(grey.g[i]).toBeCloseTo(lum([pixels.r[i]!, pixels.g[i]!, pixels.b[i]!]), 5);
    expect(first(applied('blackWhite', { red: 200 }, one([0, 0.3, 0.9])))[0]).toBeCloseTo(lum([0, 0.3, 0.9]), 5);
    expect(first(applied('blackWhite', { red: 90 }, one([0.8, 0.3, 0.3])))[0]).toBeCloseTo(0.3 + 0.5 * 0.9, 5);
  });

  it('a gradient map runs through OKLab as culori interpolates, and a ramp from a region gives the region its own means', () => {
    const [black, gold] = [[0.1, 0, 0.3], [1, 0.9, 0.5]] as const; // prettier-ignore
    const stops = [{ at: 0, colour: [...black] as Colour, opacity: 1 }, { at: 1, colour: [...gold] as Colour, opacity: 1 }]; // prettier-ignore
    const mix = interpolate([{ mode: 'rgb', r: black[0], g: black[1], b: black[2] }, { mode: 'rgb', r: gold[0], g: gold[1], b: gold[2] }], 'oklab'); // prettier-ignore
    for (const v of [0, 0.2, 0.5, 0.8, 1]) {
      const { r, g, b } = converter('rgb')(mix(v));
      const out = first(applied('gradientMap', { stops }, one([v, v, v])));
      for (const [c, w] of [r, g, b].entries()) expect(Math.abs(out[c]! - w)).toBeLessThan(2e-3);
    }
    const tint = applied('gradientMap', { stops }, colours(2000));
    const again = applied('evenRamp', { colours: rampFromRegion(tint, new Float32Array(2000).fill(1), 'luminosity') }, tint);
    expect(again.r.reduce((sum, v, i) => sum + Math.abs(v - tint.r[i]!), 0) / 2000).toBeLessThan(0.005);
    expect(rampFromRegion(tint, new Float32Array(2000), 'red')).toEqual([]);
  });

  it('a stop of exposure is twice the light; vibrance moves weak colours more than strong ones; a swap lands on its aim', () => {
    const [r] = first(applied('exposure', { stops: 1 }, one([0.4, 0.4, 0.4])));
    expect(srgbToLinear(r)).toBeCloseTo(2 * srgbToLinear(0.4), 4);
    const gain = (colour: Colour): number =>
      srgbToOklch(...first(applied('vibrance', { vibrance: 60 }, one(colour)))).c / srgbToOklch(...colour).c;
    expect(gain([0.5, 0.45, 0.42])).toBeGreaterThan(1.4);
    expect(gain([0.9, 0.1, 0.1])).toBeLessThan(1.05);
    const swapped = first(applied('colourSwap', { from: [0.6, 0.3, 0.2], to: [0.2, 0.4, 0.6] }, one([0.6, 0.3, 0.2])));
    for (const [c, v] of [0.2, 0.4, 0.6].entries()) expect(swapped[c]).toBeCloseTo(v, 3);
    expect(first(applied('colourSwap', { from: [0.6, 0.3, 0.2], to: [0.2, 0.4, 0.6] }, one([0.1, 0.8, 0.1])))[1]).toBeCloseTo(0.8, 4);
  });

  it('a pull raises or lowers what decides about the colour that it began on', () => {
    const colour: Colour = [0.25, 0.55, 0.35];
    for (const [kind, quality, measure] of [
      ['hueSaturation', 'lightness', (c: Colour) => srgbToOklch(...c).l],
      ['hueSaturation', 'saturation', (c: Colour) => srgbToOklch(...c).c],
      ['colourFamilies', 'Lightness', (c: Colour) => srgbToOklch(...c).l],
      ['blackWhite', 'weight', lum],
      ['curves', 'rgb', lum],
    ] as const)
      for (const by of [0.15, -0.15]) {
        const { defaults, pull } = adjustment(kind);
        const settings = structuredClone(defaults);
        expect(pull!.drag(settings, colour, quality, by)).toEqual(expect.any(String));
        const [before, after] = [applied(kind, {}, one(colour)), applied(kind, settings as never, one(colour))].map((p) =>
          measure(first(p)),
        );
        expect(Math.sign(after! - before!), `${kind} ${quality}`).toBe(Math.sign(by));
      }
    expect(
      adjustment('hueSaturation').pull!.drag(structuredClone(adjustment('hueSaturation').defaults), [0.5, 0.5, 0.5], 'hue', 1),
    ).toBeNull();
  });
});

describe('what looks around', () => {
  const size = { width: 96, height: 64 };
  const grey = picture(size);
  grey.g.set(grey.r);
  grey.b.set(grey.r);

  it('blur and unsharp masking are those of libvips', async () => {
    for (const sigma of [1.5, 6]) {
      const blurred = await sharp(grey.r, { raw: { width: 96, height: 64, channels: 1 } })
        .toColourspace('grey16')
        .blur({ sigma, precision: 'float', minAmplitude: 0.001 })
        .raw({ depth: 'ushort' })
        .toBuffer();
      const theirs = new Uint16Array(blurred.buffer, blurred.byteOffset, 96 * 64);
      const ours = rendered([layerOf('gaussianBlur', { radius: sigma })], grey, size);
      const sharpened = rendered([layerOf('unsharp', { radius: sigma, amount: 120, threshold: 0 })], grey, size);
      const inside = (i: number): boolean => i % 96 > 20 && i % 96 < 76 && i / 96 > 20 && i / 96 < 44;
      for (let i = 0; i < theirs.length; i++) {
        if (!inside(i)) continue;
        expect(Math.abs(ours.r[i]! - theirs[i]!) / 257).toBeLessThan(1.5);
        const expected = Math.max(0, Math.min(65535, grey.r[i]! + 1.2 * (grey.r[i]! - theirs[i]!)));
        expect(Math.abs(sharpened.r[i]! - expected) / 257).toBeLessThan(2);
      }
    }
  });

  it('the dark channel is the paper’s, and haze of a known colour and thickness is taken away', () => {
    const source = picture(size);
    const patch = 3;
    const dark = darkChannel(source, [0.9, 0.8, 1], patch);
    for (const [x, y] of [[0, 0], [40, 30], [95, 63], [12, 50]] as const) {
      let least = 65535;
      for (let v = Math.max(0, y - patch); v <= Math.min(63, y + patch); v++)
        for (let u = Math.max(0, x - patch); u <= Math.min(95, x + patch); u++)
          for (const [plane, light] of [[source.r, 0.9], [source.g, 0.8], [source.b, 1]] as const) least = Math.min(least, plane[v * 96 + u]! / light);
      expect(Math.abs(dark[y * 96 + x]! - Math.min(65535, least))).toBeLessThanOrEqual(1);
    } // prettier-ignore
    // Equation 1 of the paper: I = J t + A (1 - t), for a scene J with something dark in every patch.
    const light: Colour = [0.85, 0.88, 0.95];
    const scene = createRaster(wholeOf(size));
    const hazy = createRaster(wholeOf(size));
    for (let i = 0; i < 96 * 64; i++)
      for (const [c, plane] of (['r', 'g', 'b'] as const).entries()) {
        const v = (i + Math.floor(i / 96)) % 3 === c ? 0.02 : 0.3 + 0.2 * Math.sin(i / 50);
        scene[plane][i] = v * 65535;
        hazy[plane][i] = (v * 0.5 + light[c]! * 0.5) * 65535;
      }
    const cleared = rendered([layerOf('haze', { amount: 100, light })], hazy, size);
    const error = (picture: Raster): number =>
      picture.g.reduce((sum, v, i) => sum + Math.abs(v - scene.g[i]!), 0) / picture.g.length / 65535;
    expect(error(cleared)).toBeLessThan(error(hazy) * 0.25);
    const found = hazeLight(hazy, 3);
    expect(found.every((v) => v > 0.3)).toBe(true);
  });

  it('noise falls and edges stay; compression narrows the range and keeps detail; glow spreads light and does not make it', () => {
    const random = chance(8);
    const noisy = createRaster(wholeOf(size));
    for (let i = 0; i < 96 * 64; i++) {
      const level = i % 96 < 48 ? 0.3 : 0.7;
      for (const plane of ['r', 'g', 'b'] as const) noisy[plane][i] = (level + (random() - 0.5) * 0.06) * 65535;
    }
    const clean = rendered([layerOf('noiseReduction', { lightness: 60, colour: 80, size: 3 })], noisy, size);
    const deviation = (p: Raster, from: number, to: number): number => {
      const values = Array.from(p.g, (v, i) => [v / 65535, i % 96] as const).filter(([, x]) => x >= from && x < to).map(([v]) => v); // prettier-ignore
      const mean = values.reduce((a, b) => a + b) / values.length;
      return Math.sqrt(values.reduce((a, b) => a + (b - mean) ** 2, 0) / values.length);
    };
    expect(deviation(clean, 8, 40)).toBeLessThan(deviation(noisy, 8, 40) * 0.4);
    expect((clean.g[32 * 96 + 50]! - clean.g[32 * 96 + 45]!) / 65535).toBeGreaterThan(0.36);

    const squeezed = rendered([layerOf('tone', { compression: 100 })], noisy, size);
    const step = (p: Raster): number => p.g.reduce((sum, v, i) => sum + (i % 96 >= 70 ? v : i % 96 < 26 ? -v : 0), 0) / (26 * 64) / 65535;
    expect(step(squeezed)).toBeLessThan(step(noisy) * 0.6);
    expect(deviation(squeezed, 8, 30) / deviation(noisy, 8, 30)).toBeGreaterThan(0.8);

    const star = createRaster(wholeOf(size));
    for (const plane of ['r', 'g', 'b'] as const) star[plane].fill(65535, 32 * 96 + 48, 32 * 96 + 50);
    const spread = rendered([layerOf('glow', { amount: 100, width: 2, mode: 'add', from: 0 })], star, size);
    const light = (p: Raster): number => p.g.reduce((sum, v) => sum + srgbToLinear(v / 65535), 0);
    // What is added is the light itself; where it was white already, more cannot show.
    expect(light(spread) / light(star)).toBeGreaterThan(1.7);
    expect(light(spread) / light(star)).toBeLessThan(2.05);
  });

  it('reaches as far as it says and no farther', () => {
    const scale = { picture: size, full: size };
    for (const { kind, surroundings } of everyAdjustment) {
      if (!surroundings) continue;
      const settings = { ...(adjustment(kind).defaults as object), amount: 60, fine: 40, radius: 2, compression: 50 };
      const content = {
        kind,
        settings: Object.fromEntries(Object.entries(settings).filter(([key]) => key in (adjustment(kind).defaults as object))),
      } as AdjustmentContent;
      const reach = reachOf(content, scale);
      expect(reach, kind).toBeGreaterThan(0);
      const changed = createRaster(wholeOf(size));
      for (const plane of ['r', 'g', 'b'] as const) changed[plane].set(grey[plane]);
      const [x, y] = [48, 32];
      changed.r[y * 96 + x] = changed.g[y * 96 + x] = changed.b[y * 96 + x] = 65535;
      const layer = layerOf(kind, content.settings as never);
      const [before, after] = [rendered([layer], grey, size), rendered([layer], changed, size)];
      for (let i = 0; i < 96 * 64; i++)
        if (Math.max(Math.abs((i % 96) - x), Math.abs(Math.floor(i / 96) - y)) > reach) expect(after.g[i], kind).toBe(before.g[i]);
    }
  });

  it('a vignette spares shadows and lies the same at every size; grain averages out when it gets small', () => {
    const flat = (s: Size, v: number): Raster => {
      const raster = createRaster(wholeOf(s));
      for (const plane of ['r', 'g', 'b'] as const) raster[plane].fill(v * 65535);
      return raster;
    };
    const full = { width: 960, height: 640 };
    const corner = (v: number, spareShadows: number): number =>
      rendered([layerOf('vignette', { amount: -60, spareShadows })], flat(size, v), full).r[0]! / 65535 / v;
    expect(corner(0.6, 0)).toBeCloseTo(0.4, 1);
    expect(corner(0.05, 100)).toBeGreaterThan(0.97);
    const [small, large] = [
      rendered([layerOf('vignette')], flat(size, 0.5), full),
      rendered([layerOf('vignette')], flat({ width: 192, height: 128 }, 0.5), full),
    ];
    expect(Math.abs(small.r[10 * 96 + 10]! - large.r[20 * 192 + 20]!) / 65535).toBeLessThan(0.01);
    const rough = (p: Raster): number => Math.sqrt(p.r.reduce((sum, v) => sum + (v / 65535 - 0.5) ** 2, 0) / p.r.length);
    const settings = { amount: 50, size: 2 };
    const [near, far] = [
      rendered([layerOf('grain', settings)], flat(size, 0.5), size),
      rendered([layerOf('grain', settings)], flat(size, 0.5), full),
    ];
    expect(rough(near)).toBeGreaterThan(0.02);
    expect(rough(far)).toBeLessThan(rough(near) * 0.4);
    expect(rendered([layerOf('grain', settings)], flat(size, 0.5), size).r).toEqual(near.r);
  });
});

it('the guided filter follows its paper’s equations written out, and finds the same on blocks', () => {
  const size = { width: 61, height: 47 };
  const { r: plane, g: guide } = picture(size);
  const [radius, epsilon] = [3, 0.002];
  // Equations 5, 6 and 8, in windows that end at the border.
  const mean = (of: (i: number) => number, x: number, y: number): number => {
    let [sum, n] = [0, 0];
    for (let v = Math.max(0, y - radius); v <= Math.min(size.height - 1, y + radius); v++)
      for (let u = Math.max(0, x - radius); u <= Math.min(size.width - 1, x + radius); u++)
        [sum, n] = [sum + of(v * size.width + u), n + 1];
    return sum / n;
  };
  const coefficients = Array.from({ length: plane.length }, (_, i) => {
    const [x, y] = [i % size.width, Math.floor(i / size.width)];
    const [I, p] = [(k: number) => guide[k]! / 65535, (k: number) => plane[k]! / 65535];
    const [mi, mp] = [mean(I, x, y), mean(p, x, y)];
    const a = (mean((k) => I(k) * p(k), x, y) - mi * mp) / (mean((k) => I(k) ** 2, x, y) - mi * mi + epsilon);
    return [a, mp - a * mi] as const;
  });
  const [ours] = guidedPlanes([plane], guide, wholeOf(size), radius, epsilon);
  for (const i of [0, 60, 200, 1500, 2000, plane.length - 1]) {
    const [x, y] = [i % size.width, Math.floor(i / size.width)];
    const q = mean((k) => coefficients[k]![0], x, y) * (guide[i]! / 65535) + mean((k) => coefficients[k]![1], x, y);
    expect(Math.abs(ours![i]! / 65535 - q)).toBeLessThan(3e-4);
  }
  // Wide windows on blocks: a smooth picture comes out as it went in, and a part as in the whole.
  const large = { width: 240, height: 200 };
  const smooth = new Uint16Array(large.width * large.height).map(
    (_, i) => 30000 + 20000 * Math.sin((i % 240) / 60) * Math.cos(Math.floor(i / 240) / 50),
  );
  const [whole] = guidedPlanes([smooth], smooth, wholeOf(large), 24, 1e-4) as [Float32Array];
  expect(whole.reduce((sum, v, i) => sum + Math.abs(v - smooth[i]!), 0) / smooth.length / 65535).toBeLessThan(0.004);
  const reach = guidedReach(24);
  const part = { x: 0, y: 61, width: 240, height: 139 };
  const lower = smooth.slice(61 * 240);
  const [cut] = guidedPlanes([lower], lower, part, 24, 1e-4) as [Float32Array];
  for (let y = 61 + reach; y < 200; y++) for (let x = 0; x < 240; x += 7) expect(cut[(y - 61) * 240 + x]).toBe(whole[y * 240 + x]);
});
