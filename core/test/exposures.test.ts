/** Several exposures in one edit: fused, joined, and masks that look at what a layer shows; and channels tried in turn. */
import { describe, expect, it } from 'vitest';
import { createRaster, wholeOf, type LoadedPicture, type Pictures, type Raster } from '@umbo/core/base';
import { converter } from 'culori';
import { emptyDocument, sourceLayer, type Layer } from '@umbo/core/document';
import { maskPartKind, type MaskPart, type WellExposedPart } from '@umbo/core/mask';
import { measurement } from '@umbo/core/measure';
import { renderRegion } from '@umbo/core/render';

const size = { width: 60, height: 40 };
const scale = { picture: size, full: size };
const n = size.width * size.height;
type Rgb = readonly [number, number, number];

function pictureOf(colour: (x: number, y: number, i: number) => Rgb): Raster {
  const out = createRaster(wholeOf(size));
  for (let i = 0; i < n; i++) [out.r[i], out.g[i], out.b[i]] = colour(i % size.width, Math.floor(i / size.width), i).map((v) => Math.round(v * 65535)) as [number, number, number]; // prettier-ignore
  return out;
}
const grey = (v: number): Rgb => [v, v, v];
/** Names of photographs as edits hold them. */
const named = (digit: number): string => String(digit).repeat(64);

/** Renders layers over a photograph. @param others by their names */
function render(layers: Layer[], photograph: Raster, others: readonly Raster[], rows = size.height): Float32Array {
  const loaded = (level: Raster): LoadedPicture => ({ full: size, level });
  const pictures: Pictures = {
    find: (need) =>
      need.kind === 'overview' ? loaded(photograph) : need.kind === 'photograph' ? loaded(others[Number(need.sha256[0]) - 1]!) : null,
  };
  const out = new Float32Array(n * 3);
  for (let y = 0; y < size.height; y += rows) {
    const band = { x: 0, y, width: size.width, height: Math.min(rows, size.height - y) };
    renderRegion({ ...emptyDocument(size), layers }, scale, band, photograph, pictures, (tile, { r, g, b }) => {
      for (let v = 0, i = 0; v < tile.height; v++)
        for (let u = 0; u < tile.width; u++, i++) out.set([r[i]!, g[i]!, b[i]!], ((tile.y + v) * size.width + tile.x + u) * 3);
    });
  }
  return out;
}

function frameOf(digit: number, part: Partial<MaskPart> & { kind: MaskPart['kind'] }): Layer {
  const layer = sourceLayer('f', 'frame', 'Frame', size);
  Object.assign(layer.what.settings, { photograph: named(digit) });
  layer.where.parts = [{ ...maskPartKind(part.kind).create('p', 'add', size), ...part } as MaskPart];
  return layer;
}

it('a frame that leans is nearer on one side: places are divided by 1 + lean · place, over the longer side', () => {
  const layer = sourceLayer('f', 'frame', 'Frame', size);
  Object.assign(layer.what.settings, { photograph: named(1), leanX: 20, leanY: -10 });
  const out = render(
    [layer],
    pictureOf(() => grey(0)),
    [pictureOf((x, y) => [x / 60, y / 60, 0])],
  );
  for (const [x, y] of [
    [10, 8],
    [30, 20],
    [50, 33],
  ] as const) {
    // prettier-ignore
    const [px, py] = [x + 0.5 - 30, y + 0.5 - 20];
    const nearer = 1 + (0.2 * px - 0.1 * py) / 60;
    expect(out[(y * 60 + x) * 3]).toBeCloseTo((px / nearer + 29.5) / 60, 3);
    expect(out[(y * 60 + x) * 3 + 1]).toBeCloseTo((py / nearer + 19.5) / 60, 3);
  }
});

describe('fusion by exposure', () => {
  const fused = (own: Rgb, below: Rgb, powers: Partial<WellExposedPart>): number => {
    const photograph = pictureOf(() => below);
    const middle = (size.height / 2) * size.width + size.width / 2;
    const result = render([frameOf(1, { kind: 'wellExposed', ...powers } as never)], photograph, [pictureOf(() => own)]);
    return (result[middle * 3]! - below[0]) / (own[0] - below[0]);
  };

  it('gives each picture its share of the weights of Mertens, Kautz and Van Reeth (2007), section 3.1', () => {
    // Equation for well-exposedness: exp(-(i - 0.5)^2 / (2 sigma^2)) for each channel, sigma 0.2, multiplied.
    const well = (v: number): number => Math.exp(-((v - 0.5) ** 2) / 0.08) ** 3;
    const only = { contrast: 0, saturation: 0, exposure: 1 };
    for (const [own, below] of [
      [0.5, 0.7],
      [0.3, 0.6],
      [0.95, 0.4],
    ] as const)
      // prettier-ignore
      expect(fused(grey(own), grey(below), only)).toBeCloseTo(well(own) / (well(own) + well(below)), 3);
    // Saturation: the standard deviation of the channels.
    const deviation = (rgb: Rgb): number => {
      const mean = (rgb[0] + rgb[1] + rgb[2]) / 3;
      return Math.sqrt(rgb.reduce((sum, v) => sum + (v - mean) ** 2, 0) / 3);
    };
    const [own, below] = [[0.8, 0.5, 0.4], [0.55, 0.5, 0.6]] as const; // prettier-ignore
    expect(fused(own, below, { contrast: 0, saturation: 1, exposure: 0 })).toBeCloseTo(
      deviation(own) / (deviation(own) + deviation(below)),
      3,
    );
    // Of neither is anything known: half of each.
    expect(fused(grey(0.2), grey(0.4), { contrast: 1, saturation: 1, exposure: 0 })).toBeCloseTo(0.5, 3);
  });

  it('is the same in one piece and in bands', () => {
    const photograph = pictureOf((x, y) => [x / 60, y / 40, 0.9]);
    const other = pictureOf((x, y) => [0.3 + ((x * 7) % 13) / 40, 0.2, y / 80]);
    const layers = [frameOf(1, { kind: 'wellExposed' })];
    expect(render(layers, photograph, [other], 7)).toEqual(render(layers, photograph, [other]));
  });
});

it('a luminosity mask looks at a channel, and at what the layer itself shows', () => {
  const toHsl = converter('hsl');
  const photograph = pictureOf((x) => [x / 60, 0.2, 0.5]);
  const other = pictureOf((_x, y) => [0.9, y / 40, 0.1]);
  const shares = (part: object): ((x: number, y: number) => number) => {
    const out = render([frameOf(1, { kind: 'luminosity', tones: 'lights', grade: 1, ...part } as never)], photograph, [other]);
    // Blue says how far the frame shows: 0.5 below, 0.1 in it.
    return (x, y) => (0.5 - out[(y * size.width + x) * 3 + 2]!) / 0.4;
  };
  const bySaturation = shares({ channel: { model: 'hsl', channel: 's' } });
  for (const x of [5, 30, 55]) expect(bySaturation(x, 20)).toBeCloseTo(toHsl({ mode: 'rgb', r: x / 60, g: 0.2, b: 0.5 }).s, 2);
  const byOwnGreen = shares({ channel: { model: 'rgb', channel: 'g' }, own: true });
  for (const y of [4, 20, 36]) expect(byOwnGreen(30, y)).toBeCloseTo(y / 40, 2);
});

describe('frames joined', () => {
  const joined = (by: 'mean' | 'median', count: number): Layer => {
    const layer = sourceLayer('j', 'joined', 'Joined', size);
    const lies = { x: 0, y: 0, rotate: 0, scale: 100 };
    Object.assign(layer.what.settings, { by, frames: Array.from({ length: count }, (_, i) => ({ photograph: named(i + 1), ...lies })) });
    return layer;
  };
  /** Noise that is the same in every run: W. H. Press et al., "Numerical Recipes" (2nd ed.), section 7.1, quick generator. */
  let state = 1;
  const noise = (): number => ((state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32 - 0.5) * 0.2;
  const spread = (values: Float32Array): number => {
    const reds = values.filter((_, i) => i % 3 === 0);
    const mean = reds.reduce((sum, v) => sum + v, 0) / n;
    return Math.sqrt(reds.reduce((sum, v) => sum + (v - mean) ** 2, 0) / n);
  };

  it('have less noise: that of one by the root of their number', () => {
    const frames = Array.from({ length: 9 }, () => pictureOf(() => grey(0.5 + noise())));
    const [photograph, ...others] = frames as [Raster, ...Raster[]];
    const one = spread(render([], photograph, []));
    expect(spread(render([joined('mean', 8)], photograph, others)) / one).toBeCloseTo(1 / 3, 1);
    // The median of nine evenly spread numbers is spread as Beta(5, 5): by the root of 25 / (100 * 11) where one is by that of 1 / 12.
    expect(spread(render([joined('median', 8)], photograph, others)) / one).toBeCloseTo(Math.sqrt(25 / 1100) / Math.sqrt(1 / 12), 1);
  });

  it('by the median leave out what is in one of them only', () => {
    const [walker, empty] = [pictureOf((x) => grey(x < 20 ? 0.05 : 0.6)), pictureOf(() => grey(0.6))];
    const result = render([joined('median', 2)], walker, [empty, empty]);
    expect(Math.max(...result) - Math.min(...result)).toBeLessThan(1e-4);
    expect(render([joined('mean', 2)], walker, [empty, empty])[0]).toBeCloseTo((0.05 + 1.2) / 3, 3);
  });
});

describe('channels tried in turn', () => {
  it('come by their root mean square contrast within the mask, as they are and in a mode', () => {
    // Half red, half black on the left; on the right, which the mask leaves out, white.
    const picture = pictureOf((x, y) => (x >= 30 ? grey(1) : y % 2 ? [1, 0, 0] : grey(0)));
    const weight = Uint16Array.from({ length: n }, (_, i) => (i % size.width < 30 ? 65535 : 0));
    const tried = (mode: string) => measurement('triedChannels').measure({ mode }, { picture, weight, scale });
    const found = tried('normal');
    const contrast = (model: string, channel: string): number => found.find((one) => one.channel.model === model && one.channel.channel === channel)!.contrast; // prettier-ignore
    expect(found).toHaveLength(16);
    // Peli (1990): the standard deviation; of halves of 0 and 1 that is a half.
    expect(contrast('rgb', 'r')).toBeCloseTo(50, 3);
    expect(contrast('rgb', 'g')).toBe(0);
    expect(contrast('hsl', 'l')).toBeCloseTo(25, 3);
    for (const list of [found, tried('overlay')])
      expect(list.map((one) => one.contrast)).toEqual(list.map((one) => one.contrast).sort((a, b) => b - a));
    // What the mask leaves out is not in the small pictures either.
    const { width, height, rgba } = found[0]!.picture;
    expect([width, height]).toEqual([30, 40]);
    expect(rgba).toHaveLength(30 * 40 * 4);
  });
});
