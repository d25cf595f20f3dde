/** Adjustments against the outside: published formulas and values, reference libraries, ffmpeg. */
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
import { adjustment, identityLut, lutSettings, monotoneCubic, rampFromRegion, type SettingsOf } from '@umbo/core/adjust';
import { createPlanes, createRaster, quantise, wholeOf, type Raster } from '@umbo/core/base';
import { srgb, adaptation, lightOfNeutral, NEUTRAL_KELVIN, srgbToLinear, rgbToOklch, whitePoint, type Colour } from '@umbo/core/colour';
import { emptyDocument, groupLayer, stackBackdrop, type Layer } from '@umbo/core/document';
import { parseCube, writeCube } from '@umbo/core/format';
import { lutOfLayers } from '@umbo/core/render';
import { applied, chance, colours, everyAdjustment, first, layerOf, lum, one, picture, rendered } from './adjusting.ts';

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
    const flat = createRaster(wholeOf({ width: 5, height: 5 }));
    const middleOf = ({ r, g, b }: Raster): number[] => [r[12]!, g[12]!, b[12]!];
    const [pixel, strip] = [picture({ width: 1, height: 1 }), picture({ width: 1, height: 20_000 })];
    for (const plane of ['r', 'g', 'b'] as const) flat[plane].fill(pixel[plane][0]!);
    for (const { kind, schema, apply, isNeutral, placed } of everyAdjustment)
      for (let round = 0; round < 4; round++) {
        const layer = layerOf(kind, extremes(schema as never, random) as never);
        for (const source of [pixel, strip]) {
          const out = rendered([layer], source, { width: source.area.width, height: source.area.height });
          // By itself a pixel is what it is among others of its colour.
          if (source === pixel && apply && !placed)
            expect([out.r[0], out.g[0], out.b[0]], kind).toEqual(middleOf(rendered([layer], flat, flat.area)));
        }
        if (!apply || isNeutral(layer.what.settings as never)) continue;
        const odd = colours(64);
        for (const [i, v] of [Number.NaN, Infinity, -Infinity, -0.5, 1.8, 0, 1].entries()) odd.r[i] = odd.b[i + 1] = v;
        const { r, g, b } = applied(kind, layer.what.settings as never, odd);
        // A colour of which nothing is known may stay so; what is only out of range comes out as a colour, and neighbours are not drawn in.
        for (const plane of [r, g, b])
          for (let i = 4; i < 64; i++)
            expect(Number.isFinite(plane[i]!), `${kind} ${JSON.stringify(layer.what.settings).slice(0, 300)}`).toBe(true);
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
    expect(stackBackdrop({ ...emptyDocument(size), layers: [group] }, 'gaussianBlur').layers[0]!.where.parts).toEqual([]);
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
    const before = rgbToOklch(srgb, ...first(pixels));
    const lighter = rgbToOklch(srgb, ...first(applied('curves', { lightness: [[0, 0], [0.5, 0.6], [1, 1]] }, pixels))); // prettier-ignore
    expect(lighter.l).toBeGreaterThan(before.l + 0.05);
    expect(lighter.h).toBeCloseTo(before.h, 1);
    expect(lighter.c).toBeCloseTo(before.c, 3);
    const duller = rgbToOklch(srgb, ...first(applied('curves', { chroma: [[0, 0], [1, 0.5]] }, pixels))); // prettier-ignore
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
          const light = lightOfNeutral(srgb, cast)!;
          const corrected = first(applied('whiteBalance', light, one(cast)));
          expect(rgbToOklch(srgb, ...corrected).c).toBeLessThan(0.002);
        },
      ),
    );
    expect(lightOfNeutral(srgb, [0.5, 0.5, 0.5])!.kelvin).toBeCloseTo(NEUTRAL_KELVIN, -1);
    expect(lightOfNeutral(srgb, [0, 0, 0])).toBeNull();
  });
});

describe('3D LUTs', () => {
  const curved = lutOfLayers([layerOf('curves', { rgb: [[0, 0], [0.3, 0.2], [0.7, 0.85], [1, 1]] }), layerOf('hueSaturation', { hue: 40, saturation: 20 })], 'Curved', 17, 'srgb'); // prettier-ignore

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
    expect(() => lutOfLayers([layerOf('vignette')], '', 17, 'srgb')).toThrow(/where a pixel is/);
    expect(() => lutOfLayers([layerOf('gaussianBlur', { radius: 3 })], '', 17, 'srgb')).toThrow(/neighbours/);
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
    const again = applied('evenRamp', { colours: rampFromRegion(srgb, tint, new Float32Array(2000).fill(1), 'luminosity') }, tint);
    expect(again.r.reduce((sum, v, i) => sum + Math.abs(v - tint.r[i]!), 0) / 2000).toBeLessThan(0.005);
    expect(rampFromRegion(srgb, tint, new Float32Array(2000), 'red')).toEqual([]);
  });

  it('a stop of exposure is twice the light; vibrance moves weak colours more than strong ones; a swap lands on its aim', () => {
    const [r] = first(applied('exposure', { stops: 1 }, one([0.4, 0.4, 0.4])));
    expect(srgbToLinear(r)).toBeCloseTo(2 * srgbToLinear(0.4), 4);
    const gain = (colour: Colour): number =>
      rgbToOklch(srgb, ...first(applied('vibrance', { vibrance: 60 }, one(colour)))).c / rgbToOklch(srgb, ...colour).c;
    expect(gain([0.5, 0.45, 0.42])).toBeGreaterThan(1.4);
    expect(gain([0.9, 0.1, 0.1])).toBeLessThan(1.05);
    const swapped = first(applied('colourSwap', { from: [0.6, 0.3, 0.2], to: [0.2, 0.4, 0.6] }, one([0.6, 0.3, 0.2])));
    for (const [c, v] of [0.2, 0.4, 0.6].entries()) expect(swapped[c]).toBeCloseTo(v, 3);
    expect(first(applied('colourSwap', { from: [0.6, 0.3, 0.2], to: [0.2, 0.4, 0.6] }, one([0.1, 0.8, 0.1])))[1]).toBeCloseTo(0.8, 4);
  });

  it('a pull raises or lowers what decides about the colour that it began on', () => {
    const colour: Colour = [0.25, 0.55, 0.35];
    for (const [kind, quality, measure] of [
      ['hueSaturation', 'lightness', (c: Colour) => rgbToOklch(srgb, ...c).l],
      ['hueSaturation', 'saturation', (c: Colour) => rgbToOklch(srgb, ...c).c],
      ['colourFamilies', 'Lightness', (c: Colour) => rgbToOklch(srgb, ...c).l],
      ['blackWhite', 'weight', lum],
      ['curves', 'rgb', lum],
    ] as const)
      for (const by of [0.15, -0.15]) {
        const { defaults, pull } = adjustment(kind);
        const settings = structuredClone(defaults);
        expect(pull!.drag(settings, colour, quality, by, srgb)).toEqual(expect.any(String));
        const [before, after] = [applied(kind, {}, one(colour)), applied(kind, settings as never, one(colour))].map((p) =>
          measure(first(p)),
        );
        expect(Math.sign(after! - before!), `${kind} ${quality}`).toBe(Math.sign(by));
      }
    // Where every pixel gets one hue, the pull turns that, and a grey will do.
    const { defaults, pull } = adjustment('hueSaturation');
    const colourised: SettingsOf<'hueSaturation'> = { ...(defaults as SettingsOf<'hueSaturation'>), colourise: true, colouriseHue: 350 };
    expect(pull!.drag(colourised, [0.5, 0.5, 0.5], 'hue', 0.1, srgb)).toBe('One hue, hue 8°');
    expect([colourised.colouriseHue, colourised.hue, colourised.ranges]).toEqual([8, 0, undefined]);
    expect(
      adjustment('hueSaturation').pull!.drag(structuredClone(adjustment('hueSaturation').defaults), [0.5, 0.5, 0.5], 'hue', 1, srgb),
    ).toBeNull();
  });
});
