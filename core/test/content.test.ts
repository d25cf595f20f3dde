/** Layers with colours of their own, and levels: against published formulas, culori, libvips and Little CMS's neighbours in the registries. */
import { interpolate, interpolateWithPremultipliedAlpha, converter, type Color } from 'culori';
import fc from 'fast-check';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { levelOf, type LevelsChannel } from '@umbo/core/adjust';
import { createRaster, noPictures, withOverview, wholeOf, type FindPicture, type Raster, type Size } from '@umbo/core/base';
import { srgb, gradientRamp, type Colour } from '@umbo/core/colour';
import { coloursOf, swapColour, type ChannelSettings, type FillSettings, type FrameSettings, type PaintSettings } from '@umbo/core/content';
import { adjustmentLayer, emptyDocument, sourceLayer, type Layer } from '@umbo/core/document';
import { toneOf } from '@umbo/core/measure';
import { renderRegion } from '@umbo/core/render';

const size = { width: 96, height: 64 };
function picture({ width, height }: Size, seed: number): Raster {
  const raster = createRaster(wholeOf({ width, height }));
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    raster.r[i] = 32768 + 26000 * Math.sin(x / 9 + seed);
    raster.g[i] = 32768 + 26000 * Math.sin(y / 7 + seed * 2);
    raster.b[i] = 32768 + 26000 * Math.sin((x + y) / 13 + seed * 3);
  }
  return raster;
}
const photograph = picture(size, 1);

function render(layer: Layer, find: FindPicture = noPictures.find, source = photograph, region = wholeOf(size)): Raster {
  const out = createRaster(wholeOf(size));
  renderRegion({ ...emptyDocument(size), layers: [layer] }, { picture: size, full: size }, region, source, { find }, (tile, pixels) => {
    for (let i = 0; i < tile.width * tile.height; i++) {
      const at = (tile.y + Math.floor(i / tile.width)) * size.width + tile.x + (i % tile.width);
      for (const plane of ['r', 'g', 'b'] as const) out[plane][at] = Math.max(0, Math.min(65535, Math.round(pixels[plane][i]! * 65535)));
    }
  });
  return out;
}
function layerOf(kind: Parameters<typeof sourceLayer>[1], settings: object, how: Partial<Layer['how']> = {}): Layer {
  const layer = sourceLayer('l', kind, 'L', size);
  Object.assign(layer.what.settings, settings);
  Object.assign(layer.how, how);
  return layer;
}
const at = ({ r, g, b, area }: Raster, x: number, y: number): Colour => {
  const i = y * area.width + x;
  return [r[i]! / 65535, g[i]! / 65535, b[i]! / 65535];
};

describe('fill', () => {
  it('is its colour everywhere', () => {
    const out = render(layerOf('fill', { colour: [0.25, 0.5, 0.75] }));
    expect(at(out, 50, 30).map((v) => Math.round(v * 100) / 100)).toEqual([0.25, 0.5, 0.75]);
  });

  it('between the stops of a gradient is what culori interpolates in OKLab with premultiplied opacities (CSS Images 4)', () => {
    const stops: FillSettings['stops'] = [
      { at: 0, colour: [0.8, 0.2, 0.1], opacity: 1 },
      { at: 0.4, colour: [0.1, 0.6, 0.3], opacity: 0.3 },
      { at: 1, colour: [0.1, 0.2, 0.9], opacity: 0.8 },
    ];
    const css = stops.map(
      ({ at: place, colour: [r, g, b], opacity }) => [{ mode: 'rgb', r, g, b, alpha: opacity } as Color, place] as const,
    );
    const reference = interpolateWithPremultipliedAlpha(css as never, 'oklab');
    const rgb = converter('rgb');
    const ramp = gradientRamp(srgb, stops);
    for (let i = 0; i < ramp.r.length; i += 16) {
      const wanted = rgb(reference(i / (ramp.r.length - 1)))!;
      expect(ramp.r[i]).toBeCloseTo(wanted.r, 3);
      expect(ramp.g[i]).toBeCloseTo(wanted.g, 3);
      expect(ramp.b[i]).toBeCloseTo(wanted.b, 3);
      expect(ramp.a[i]).toBeCloseTo(wanted.alpha!, 3);
    }
    const plain = gradientRamp(srgb, stops.map((stop) => ({ ...stop, opacity: 1 })).reverse()); // in any order
    const opaque = interpolate(css.map(([color, place]) => [{ ...color, alpha: 1 }, place]) as never, 'oklab');
    expect(plain.g[512]).toBeCloseTo(rgb(opaque(0.5))!.g, 3);
  });

  it('runs along its line, or from its centre to its rim, at any scale', () => {
    const stops = [
      { at: 0, colour: [0, 0, 0], opacity: 1 },
      { at: 1, colour: [1, 1, 1], opacity: 1 },
    ];
    const linear = render(layerOf('fill', { shape: 'linear', stops, from: { x: 0, y: 10 }, to: { x: 96, y: 10 } }));
    expect(at(linear, 0, 5)[0]).toBeLessThan(0.03);
    expect(at(linear, 95, 60)[0]).toBeGreaterThan(0.98);
    expect(at(linear, 48, 5)).toEqual(at(linear, 48, 60));
    const radial = render(layerOf('fill', { shape: 'radial', stops, from: { x: 48, y: 32 }, to: { x: 48, y: 52 } }));
    expect(at(radial, 48, 32)[0]).toBeLessThan(0.1);
    expect(at(radial, 48 + 21, 32)[0]).toBeGreaterThan(0.99);
    expect(at(radial, 38, 32)[0]).toBeCloseTo(at(radial, 48, 22)[0], 6);
  });
});

describe('paint', () => {
  const stroke = (id: string, colour: Colour, points: number[], more: object = {}): PaintSettings['strokes'][number] => ({
    id,
    size: 24,
    hardness: 1,
    flow: 1,
    opacity: 1,
    erase: false,
    colour,
    points,
    ...more,
  });
  const across = [10, 32, 1, 86, 32, 1];

  it('lies over the picture where it was painted, the later over the earlier, and can be erased', () => {
    const settings: PaintSettings = {
      strokes: [stroke('a', [1, 0, 0], across), stroke('b', [0, 0, 1], [48, 10, 1, 48, 54, 1], { opacity: 0.5 })],
    };
    const out = render(layerOf('paint', settings));
    expect(at(out, 20, 32)).toEqual([1, 0, 0]);
    expect(at(out, 48, 32).map((v) => Math.round(v * 50) / 50)).toEqual([0.5, 0, 0.5]);
    expect(at(out, 20, 5)).toEqual(at(photograph, 20, 5));
    settings.strokes.push(stroke('c', [0, 0, 0], across, { erase: true }));
    expect(at(render(layerOf('paint', settings)), 20, 32)).toEqual(at(photograph, 20, 32));
  });

  it('stops at an edge where it takes only what is alike, among few strokes and among many, in any part', () => {
    const edge = createRaster(wholeOf(size));
    edge.g.fill(30000);
    for (let i = 0; i < edge.r.length; i++) edge.r[i] = i % size.width < 48 ? 50000 : 10000;
    const { find } = withOverview(noPictures, edge);
    const painted = (strokes: PaintSettings['strokes'], region = wholeOf(size)): Raster =>
      render(layerOf('paint', { strokes }), find, edge, region);
    const many = Array.from({ length: 12 }, (_, i) => stroke(`m${i}`, [0, 0, 1], [40, 6 + i * 4, 1], { size: 30, alike: 5 }));
    const [one, all, part] = [painted(many.slice(0, 1)), painted(many), painted(many, { x: 30, y: 20, width: 40, height: 30 })];
    expect([at(one, 44, 6)[2], at(one, 50, 6)[2], at(all, 44, 30)[2], at(all, 50, 30)[2]]).toEqual([1, 0, 1, 0]);
    for (let y = 20; y < 50; y++) for (let x = 30; x < 70; x++) expect(at(part, x, y)).toEqual(at(all, x, y));
  });

  it('has its colours swapped in what is painted', () => {
    const settings: PaintSettings = {
      strokes: [stroke('a', [1, 0, 0], across), stroke('b', [0, 1, 0], across), stroke('c', [1, 0, 0], across)],
    };
    expect(coloursOf(settings)).toEqual([
      [1, 0, 0],
      [0, 1, 0],
    ]);
    swapColour(settings, [1, 0, 0], [0.5, 0.5, 0]);
    expect(settings.strokes.map(({ colour }) => colour)).toEqual([
      [0.5, 0.5, 0],
      [0, 1, 0],
      [0.5, 0.5, 0],
    ]);
  });
});

describe('self', () => {
  it('multiplies the picture with itself n times, and screens it as often', () => {
    for (const times of [1, 2, 5]) {
      const multiplied = render(layerOf('self', { times }, { mode: 'multiply' }));
      const screened = render(layerOf('self', { times }, { mode: 'screen' }));
      for (const [x, y] of [
        [3, 4],
        [50, 33],
        [90, 60],
      ] as const) {
        expect(at(multiplied, x, y)[0]).toBeCloseTo(at(photograph, x, y)[0]! ** (times + 1), 4);
        expect(at(screened, x, y)[1]).toBeCloseTo(1 - (1 - at(photograph, x, y)[1]!) ** (times + 1), 4);
      }
    }
    expect(render(layerOf('self', { times: 3 }, { mode: 'normal' }))).toEqual(photograph);
  });
});

describe('channel', () => {
  const channelOf = (model: ChannelSettings['model'], channel: string, colour: Colour): number => {
    const flat = createRaster(wholeOf(size));
    (['r', 'g', 'b'] as const).forEach((plane, c) => flat[plane].fill(Math.round(colour[c]! * 65535)));
    const grey = at(render(layerOf('channel', { model, channel }), noPictures.find, flat), 40, 20);
    expect(grey[0]).toBe(grey[1]);
    expect(grey[1]).toBe(grey[2]);
    return grey[0];
  };
  const colours: Colour[] = [
    [0.8, 0.3, 0.2],
    [0.1, 0.55, 0.4],
    [0.25, 0.2, 0.7],
    [0.9, 0.85, 0.3],
  ];

  it('shows what culori says of HSL, OKLCh and Lab (D50)', () => {
    const [hsl, oklch, lab] = [converter('hsl'), converter('oklch'), converter('lab')];
    for (const [r, g, b] of colours) {
      const color: Color = { mode: 'rgb', r, g, b };
      const is = (model: ChannelSettings['model'], channel: string, wanted: number): void =>
        expect(channelOf(model, channel, [r, g, b]), `${model} ${channel}`).toBeCloseTo(wanted, 2);
      is('rgb', 'g', g);
      is('hsl', 'h', hsl(color).h! / 360);
      is('hsl', 's', hsl(color).s);
      is('hsl', 'l', hsl(color).l);
      is('oklch', 'l', oklch(color).l);
      is('oklch', 'c', oklch(color).c / 0.4);
      is('oklch', 'h', oklch(color).h! / 360);
      is('lab', 'l', lab(color).l / 100);
      is('lab', 'a', (lab(color).a + 128) / 255);
      is('lab', 'b', (lab(color).b + 128) / 255);
    }
  });

  it('shows the plates that libvips separates through its CMYK profile', async () => {
    const bytes = Buffer.from(colours.flatMap((colour) => colour.map((v) => Math.round(v * 255))));
    const inks = await sharp(bytes, { raw: { width: colours.length, height: 1, channels: 3 } })
      .toColourspace('cmyk')
      .raw()
      .toBuffer();
    for (const [i, colour] of colours.entries())
      for (const [k, ink] of ['c', 'm', 'y', 'k'].entries())
        // The table in use has 17 steps and is linear between them.
        expect(Math.abs(channelOf('cmyk', ink, colour) - (1 - inks[i * 4 + k]! / 255)), `${ink} of ${colour.join()}`).toBeLessThan(0.035);
    expect(channelOf('cmyk', 'k', [0, 0, 0])).toBeLessThan(0.3); // much black
    expect(channelOf('cmyk', 'c', [1, 1, 1])).toBeGreaterThan(0.98); // no ink on white
  });
});

describe('frame', () => {
  const OTHER = 'a'.repeat(64);
  const framed = (settings: Partial<FrameSettings>, other: Raster): Raster =>
    render(layerOf('frame', { photograph: OTHER, ...settings }), (need) =>
      need.kind === 'photograph' && need.sha256 === OTHER ? { full: other.area, level: other } : null,
    );

  it('lies on the picture pixel by pixel, moved by whole ones, turned half round; outside it the picture is seen', () => {
    const other = picture(size, 5);
    expect(framed({}, other)).toEqual(other);
    const moved = framed({ x: 20, y: -8 }, other);
    expect(at(moved, 60, 30)).toEqual(at(other, 40, 38));
    expect(at(moved, 5, 30)).toEqual(at(photograph, 5, 30));
    const turned = framed({ rotate: 180 }, other);
    expect(at(turned, 10, 10).map((v) => v.toFixed(3))).toEqual(at(other, 85, 53).map((v) => v.toFixed(3)));
    expect(render(layerOf('frame', { photograph: 'b'.repeat(64) }))).toEqual(photograph); // one that is gone
  });

  it('is scaled by the cubic of libvips (Catmull-Rom)', async () => {
    const other = picture({ width: 48, height: 32 }, 2);
    const ours = framed({ scale: 200 }, other);
    const rows = new Uint16Array(48 * 32 * 3);
    for (let i = 0; i < 48 * 32; i++) rows.set([other.r[i]!, other.g[i]!, other.b[i]!], i * 3);
    const raw = await sharp(rows, { raw: { width: 48, height: 32, channels: 3 } })
      .toColourspace('rgb16')
      // libvips counts from the middles of pixels, where both pictures here begin at their corners.
      .affine([2, 0, 0, 2], { interpolator: 'bicubic', idx: 0.25, idy: 0.25 })
      .raw({ depth: 'ushort' })
      .toBuffer();
    const theirs = new Uint16Array(raw.buffer, raw.byteOffset, raw.length / 2);
    let worst = 0;
    for (let y = 6; y < 58; y++)
      for (let x = 6; x < 90; x++) worst = Math.max(worst, Math.abs(ours.g[y * 96 + x]! - theirs[(y * 96 + x) * 3 + 1]!) / 65535);
    expect(worst).toBeLessThan(1.5 / 255);
  });
});

describe('levels', () => {
  const base: LevelsChannel = { black: 0, white: 255, middle: 1, low: 0, high: 255 };
  const leveled = (settings: object): Raster => {
    const layer = adjustmentLayer('v', 'levels', 'V');
    Object.assign(layer.what.settings, settings);
    return render(layer);
  };

  it('bring black and white to the ends as libvips’ linear does, and the middle along a power (common practice, no source)', async () => {
    const out = leveled({ rgb: { ...base, black: 51, white: 204 } });
    const rows = new Uint16Array(size.width * size.height * 3);
    for (let i = 0; i < size.width * size.height; i++) rows.set([photograph.r[i]!, photograph.g[i]!, photograph.b[i]!], i * 3);
    const gain = 255 / (204 - 51);
    const raw = await sharp(rows, { raw: { ...size, channels: 3 } })
      .toColourspace('rgb16')
      .linear(gain, -(51 / 255) * 65535 * gain)
      .raw({ depth: 'ushort' })
      .toBuffer();
    const theirs = new Uint16Array(raw.buffer, raw.byteOffset, raw.length / 2);
    for (let i = 0; i < size.width * size.height; i += 11) expect(Math.abs(out.g[i]! - theirs[i * 3 + 1]!)).toBeLessThan(130);
    expect(levelOf({ ...base, middle: 2 }, 0.25)).toBeCloseTo(0.5, 9);
    expect(levelOf({ ...base, low: 255, high: 0 }, 0.25)).toBeCloseTo(0.75, 9);
  });

  it('change nothing at rest, one channel alone, and are monotone and defined for all numbers', () => {
    expect(leveled({ rgb: { ...base } })).toEqual(photograph);
    const red = leveled({ r: { ...base, middle: 1.6 } });
    expect([red.g, red.b]).toEqual([photograph.g, photograph.b]);
    expect(red.r).not.toEqual(photograph.r);
    const byte = fc.integer({ min: 0, max: 255 });
    fc.assert(
      fc.property(byte, byte, fc.double({ min: 0.1, max: 10, noNaN: true }), (black, white, middle) => {
        let last = white >= black ? -1 : 2;
        for (let v = 0; v <= 1; v += 0.05) {
          const level = levelOf({ ...base, black, white, middle }, v);
          expect(level >= 0 && level <= 1).toBe(true);
          if (white >= black) expect(level).toBeGreaterThanOrEqual(last);
          else expect(level).toBeLessThanOrEqual(last);
          last = level;
        }
      }),
    );
  });
});

it('a sample says when it is a highlight or a deep shadow', () => {
  expect([toneOf(srgb, [0.95, 0.93, 0.9]), toneOf(srgb, [0.6, 0.4, 0.3]), toneOf(srgb, [0.1, 0.08, 0.08])]).toEqual([
    'highlight',
    'middle tone',
    'deep shadow',
  ]);
});
