/** Evenness of a region: its spreads about its own colours, measured apart from how they are made. */
import { converter } from 'culori';
import { describe, expect, it } from 'vitest';
import { adjustment, type SettingsOf } from '@umbo/core/adjust';
import { createRaster, wholeOf, type Raster } from '@umbo/core/base';
import { adjustmentLayer } from '@umbo/core/document';
import { measurement } from '@umbo/core/measure';

type Settings = SettingsOf<'evenness'>;
const size = { width: 160, height: 120 };
const scale = { picture: size, full: size };
const oklch = converter('oklch');
const toRgb = converter('rgb');

/** Skin whose hue turns slowly from side to side and quickly from pixel to pixel, whose chroma and lightness vary as well. */
function skin(): Raster {
  const raster = createRaster(wholeOf(size));
  let state = 5;
  const noise = (): number => ((state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32 - 0.5) * 2;
  for (let y = 0, i = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++, i++) {
      const { r, g, b } = toRgb({
        mode: 'oklch',
        l: 0.68 + 0.06 * Math.sin(y / 30) + 0.01 * noise(),
        c: 0.08 + 0.015 * Math.sin((x + y) / 40) + 0.004 * noise(),
        h: 50 + 9 * Math.sin(x / 35) + 3 * noise(),
      });
      [raster.r[i], raster.g[i], raster.b[i]] = [r * 65535, g * 65535, b * 65535];
    }
  return raster;
}

/** Standard deviations of hue (degrees), chroma and lightness, by culori. */
function spreads({ r, g, b }: Raster): { hue: number; chroma: number; lightness: number } {
  const values = Array.from(r, (_, i) => oklch({ mode: 'rgb', r: r[i]! / 65535, g: g[i]! / 65535, b: b[i]! / 65535 }));
  const deviation = (of: number[]): number => {
    const mean = of.reduce((sum, v) => sum + v, 0) / of.length;
    return Math.sqrt(of.reduce((sum, v) => sum + (v - mean) ** 2, 0) / of.length);
  };
  return {
    hue: deviation(values.map(({ h }) => h ?? 0)),
    chroma: deviation(values.map(({ c }) => c)),
    lightness: deviation(values.map(({ l }) => l)),
  };
}

function even(picture: Raster, values: Partial<Settings>): Raster {
  const layer = adjustmentLayer('e', 'evenness', 'E');
  const task = measurement('ownColours');
  task.apply!(task.measure({}, { picture, weight: null, scale }), {}, layer);
  const out = { ...picture, r: picture.r.slice(), g: picture.g.slice(), b: picture.b.slice() };
  adjustment('evenness').filter!.apply({ ...(layer.what.settings as Settings), ...values }, out, scale);
  return out;
}

describe('evenness', () => {
  const before = spreads(skin());

  it('changes nothing without a change, but for rounding', () => {
    const out = even(skin(), {});
    const was = skin();
    for (let i = 0; i < out.r.length; i++)
      for (const c of ['r', 'g', 'b'] as const) expect(Math.abs(out[c][i]! - was[c][i]!)).toBeLessThan(65535 / 255);
  });

  it('halves and doubles the spread of hue, and leaves those of chroma and lightness', () => {
    const half = spreads(even(skin(), { hueBroad: -50, hueFine: -50 }));
    const twice = spreads(even(skin(), { hueBroad: 100, hueFine: 100 }));
    expect(half.hue / before.hue).toBeCloseTo(0.5, 1);
    expect(twice.hue / before.hue).toBeCloseTo(2, 0);
    for (const after of [half, twice]) {
      expect(Math.abs(after.chroma / before.chroma - 1)).toBeLessThan(0.1);
      expect(Math.abs(after.lightness / before.lightness - 1)).toBeLessThan(0.1);
    }
  });

  it('evens chroma and lightness by themselves, and broad and fine apart', () => {
    const flat = spreads(even(skin(), { chromaBroad: -100, chromaFine: -100 }));
    expect([flat.chroma / before.chroma < 0.35, Math.abs(flat.hue / before.hue - 1) < 0.1]).toEqual([true, true]);
    const lit = spreads(even(skin(), { lightnessBroad: -100 }));
    expect([lit.lightness / before.lightness < 0.35, Math.abs(lit.hue / before.hue - 1) < 0.1]).toEqual([true, true]);
    const [broad, fine] = [spreads(even(skin(), { hueBroad: -100 })), spreads(even(skin(), { hueFine: -100 }))];
    expect(broad.hue).toBeLessThan(0.5 * before.hue);
    expect(fine.hue).toBeGreaterThan(0.85 * before.hue);
    expect(fine.hue).toBeLessThan(0.99 * before.hue);
  });
});
