/** Notes about what may have gone too far: each speaks where it must, and is silent where it must be; clipping against counting by hand. */
import { describe, expect, it } from 'vitest';
import { createPlanes, createRaster, noPictures, wholeOf, type Raster } from '@umbo/core/base';
import { noGeometry } from '@umbo/core/geometry';
import {
  adjustmentLayer,
  emptyDocument,
  everywhere,
  scaleOf,
  type Layer,
  type Region,
  type Role,
  type UmboDocument,
} from '@umbo/core/document';
import { maskPartKind, type OutlinePart } from '@umbo/core/mask';
import { rgbToLab, srgb } from '@umbo/core/colour';
import { clippedShares, newlyClipped } from '@umbo/core/measure';
import { findWarnings, layerBehind, warningKinds, regionColours } from '@umbo/core/warnings';

const size = { width: 40, height: 30 };
const scale = { picture: size, full: size };
type Rgb = readonly [number, number, number];

/** The left half of one colour and the right of another; each varied a little, always in the same way. */
function halves(left: Rgb, right: Rgb, varied = 0.02): Raster {
  const raster = createRaster(wholeOf(size));
  let seed = 11;
  const chance = (): number => (seed = (seed * 16807) % 2147483647) / 2147483647 - 0.5;
  for (let i = 0; i < raster.r.length; i++) {
    const colour = i % size.width < 20 ? left : right;
    for (const [c, plane] of [raster.r, raster.g, raster.b].entries())
      plane[i] = Math.round(Math.min(1, Math.max(0, colour[c]! + chance() * 2 * varied)) * 65535);
  }
  return raster;
}
const half = (side: 'left' | 'right', id: string): OutlinePart => ({
  ...maskPartKind<OutlinePart>('outline').create(id, 'add', size),
  shapes: [side === 'left' ? [0, 0, 20, 0, 20, 30, 0, 30] : [20, 0, 40, 0, 40, 30, 20, 30]],
});
const region = (role: Role, side: 'left' | 'right'): Region => ({
  id: `${role}-${side}`,
  name: role,
  role,
  where: { ...everywhere(), parts: [half(side, `${role}-p`)] },
});
const layer = (kind: Parameters<typeof adjustmentLayer>[1], settings: object, id = 'a'): Layer => {
  const made = adjustmentLayer(id, kind, id.toUpperCase());
  Object.assign(made.what.settings, settings);
  return made;
};
const edit = (layers: Layer[], regions: Region[] = []): UmboDocument => ({ ...emptyDocument(size), layers, regions });
const notesOf = (document: UmboDocument, photograph: Raster) => findWarnings(document, scale, photograph, noPictures, () => undefined);
const wordsOf = (document: UmboDocument, photograph: Raster, kind: string): string[] =>
  notesOf(document, photograph).flatMap(({ key, words }) => (key.split(' ')[0] === kind ? [words] : []));

const grey: Rgb = [0.5, 0.5, 0.5];
const skin: Rgb = [0.75, 0.56, 0.46];

describe('warnings', () => {
  it('say nothing of what is cut away with the photograph’s edges', () => {
    // The right half is clipped by the layer; the crop leaves the left one.
    const document = edit([layer('exposure', { stops: 1 })]);
    const photograph = halves(grey, [0.85, 0.85, 0.85]);
    const words = (crop: { x: number; y: number; width: number; height: number }): string[] => {
      const cut: UmboDocument = { ...document, geometry: { ...noGeometry, crop } };
      return findWarnings(cut, scaleOf(cut, size), photograph, noPictures, () => undefined).flatMap(({ key, words }) =>
        key === 'clipping' ? [words] : [],
      );
    };
    expect(words({ x: 0, y: 0, width: 40, height: 30 })[0]).toContain('50');
    expect(words({ x: 21, y: 3, width: 15, height: 20 })[0]).toContain('100');
    expect(words({ x: 2, y: 3, width: 15, height: 20 })).toEqual([]);
  });

  it('count newly clipped pixels as counting by hand does, of any channel and of each', () => {
    const n = 500;
    const [before, after] = [createPlanes(n), createPlanes(n)];
    let seed = 3;
    const chance = (): number => (seed = (seed * 16807) % 2147483647) / 2147483647;
    // Many of them at the ends, before and after.
    const value = (): number => Math.min(1.3, Math.max(-0.3, chance() * 1.8 - 0.4));
    for (let i = 0; i < n; i++)
      for (const plane of ['r', 'g', 'b'] as const) {
        before[plane][i] = Math.min(1, Math.max(0, value()));
        after[plane][i] = value();
      }
    const end = (v: number): 'low' | 'high' | null => (Math.round(v * 255) <= 0 ? 'low' : Math.round(v * 255) >= 255 ? 'high' : null);
    const counted = { any: 0, r: 0, g: 0, b: 0 };
    for (let i = 0; i < n; i++) {
      const channels = (['r', 'g', 'b'] as const).filter(
        (plane) => end(after[plane][i]!) !== null && end(after[plane][i]!) !== end(before[plane][i]!),
      );
      for (const channel of channels) counted[channel]++;
      if (channels.length > 0) counted.any++;
    }
    expect(counted.any).toBeGreaterThan(100);
    const shares = clippedShares(before, after, n);
    for (const key of ['any', 'r', 'g', 'b'] as const) expect(Math.round(shares[key] * n), key).toBe(counted[key]);
    expect(newlyClipped(1, 1.2)).toBe(false);
    expect(newlyClipped(0.99, 1.2)).toBe(true);
    expect(newlyClipped(1, -0.1)).toBe(true);
  });

  it('of clipped pixels say the share, the channels, and which layer does it', () => {
    const photograph = halves([0.6, 0.5, 0.4], [0.3, 0.3, 0.3]);
    const [gentle, harsh] = [layer('exposure', { stops: 0.2 }, 'gentle'), layer('exposure', { stops: 2 }, 'harsh')];
    expect(wordsOf(edit([gentle]), photograph, 'clipping')).toEqual([]);
    const document = edit([gentle, harsh]);
    const [words] = wordsOf(document, photograph, 'clipping');
    expect(words).toMatch(/^50 % of the picture is newly clipped \(red 50 %/);
    expect(layerBehind('clipping', document, scale, photograph, noPictures, () => undefined)?.id).toBe('harsh');
    // What came clipped is not newly so.
    expect(wordsOf(edit([harsh]), halves([1, 1, 1], [0.1, 0.1, 0.1], 0), 'clipping')).toEqual([]);
  });

  it('of colours beyond the output speak where they are too colourful, and not where they are too light', () => {
    const photograph = halves([0.8, 0.4, 0.2], grey);
    expect(wordsOf(edit([layer('hueSaturation', { saturation: 10 })]), photograph, 'gamut')).toEqual([]);
    expect(wordsOf(edit([layer('hueSaturation', { saturation: 100 })]), photograph, 'gamut')[0]).toMatch(
      /^50 % of the picture is more colourful/,
    );
    expect(wordsOf(edit([layer('exposure', { stops: 3 })]), halves([0.9, 0.9, 0.9], grey), 'gamut')).toEqual([]);
  });

  it('of skin speak when most of its spread is gone', () => {
    const photograph = halves(skin, grey, 0.06);
    const regions = [region('faceSkin', 'left')];
    expect(wordsOf(edit([layer('hueSaturation', { saturation: -30 })], regions), photograph, 'flatSkin')).toEqual([]);
    expect(wordsOf(edit([layer('hueSaturation', { saturation: -70 })], regions), photograph, 'flatSkin')[0]).toMatch(
      /^faceSkin keeps \d+ % of its spread of chroma/,
    );
    // Of the other half nobody said that it is skin.
    expect(wordsOf(edit([layer('hueSaturation', { saturation: -70 })], [region('garment', 'left')]), photograph, 'flatSkin')).toEqual([]);
  });

  it('of teeth speak when they are lighter or bluer than the whites of the eyes, and somebody made them so', () => {
    const photograph = halves([0.8, 0.76, 0.66], [0.82, 0.81, 0.8]);
    const regions = [region('teeth', 'left'), region('eyeWhites', 'right')];
    const lighter = layer('exposure', { stops: 0.35 });
    lighter.where = { ...everywhere(), link: 'teeth-left' };
    expect(wordsOf(edit([], regions), photograph, 'teeth')).toEqual([]);
    expect(wordsOf(edit([lighter], regions), photograph, 'teeth')[0]).toMatch(/^teeth: L\* \d+ lighter than the whites of the eyes/);
    const bluer = layer('colourBalance', { midtonesYellowBlue: 60, highlightsYellowBlue: 60 });
    bluer.where = { ...everywhere(), link: 'teeth-left' };
    expect(wordsOf(edit([bluer], regions), photograph, 'teeth')[0]).toMatch(/b\* \d+ bluer than the whites of the eyes/);
    // Teeth that came so are nobody's doing.
    expect(wordsOf(edit([], regions), halves([0.95, 0.95, 0.97], [0.7, 0.7, 0.6]), 'teeth')).toEqual([]);
  });

  it('of very dark hair and cloth speak when they are asked to be light', () => {
    const photograph = halves([0.1, 0.08, 0.07], grey);
    const lift = layer('curves', { rgb: [[0, 0.3], [1, 1]] }); // prettier-ignore
    expect(wordsOf(edit([lift], [region('hair', 'left')]), photograph, 'darkLightened')[0]).toMatch(
      /^hair was very dark \(L\* \d+\) and is asked to be light/,
    );
    expect(wordsOf(edit([lift], [region('garment', 'left')]), photograph, 'darkLightened')[0]).toMatch(/is grey now \(L\* \d+\)$/);
    expect(wordsOf(edit([layer('exposure', { stops: 0.5 })], [region('hair', 'left')]), photograph, 'darkLightened')).toEqual([]);
    expect(wordsOf(edit([lift], [region('hair', 'right')]), photograph, 'darkLightened')).toEqual([]);
  });

  it('of families speak when one is turned far that is hardly here', () => {
    const photograph = halves([0.8, 0.3, 0.3], grey, 0.01);
    expect(wordsOf(edit([layer('colourFamilies', { redHue: 60 })]), photograph, 'scarceFamily')).toEqual([]);
    expect(wordsOf(edit([layer('colourFamilies', { blueHue: 60 })]), photograph, 'scarceFamily')[0]).toMatch(
      /^“A” turns blues by 60, and they are hardly here/,
    );
    expect(wordsOf(edit([layer('colourFamilies', { blueHue: 20 })]), photograph, 'scarceFamily')).toEqual([]);
  });

  it('of masks speak when one catches nothing, of layers that act', () => {
    const photograph = halves(skin, grey);
    const [some, none] = [layer('exposure', { stops: 0.1 }, 'some'), layer('exposure', { stops: 0.1 }, 'none')];
    some.where = { ...everywhere(), parts: [half('left', 'p')] };
    none.where = { ...everywhere(), parts: [{ ...half('left', 'q'), shapes: [[100, 100, 120, 100, 120, 120]] }] };
    const [warning, ...others] = notesOf(edit([some, none]), photograph);
    expect(others).toEqual([]);
    expect(warning).toMatchObject({ key: 'emptyMask none', layerId: 'none', words: 'The mask of “NONE” catches nothing (0 %)' });
    expect(notesOf(edit([some, { ...none, on: false }]), photograph)).toEqual([]);
  });

  it('are each of a kind, and of an untouched photograph there are none', () => {
    expect(new Set(warningKinds.map(({ kind }) => kind)).size).toBe(warningKinds.length);
    const regions = (['faceSkin', 'teeth', 'hair'] as const).map((role) => region(role, 'left'));
    expect(notesOf(edit([], [...regions, region('eyeWhites', 'right')]), halves([1, 1, 1], [0, 0, 0], 0))).toEqual([]);
  });
});

describe('the colours of regions', () => {
  it('are what each is in the mean after all layers, of those that catch something', () => {
    const photograph = halves(skin, grey, 0);
    const lighter = layer('exposure', { stops: 1 });
    lighter.where = { ...everywhere(), link: 'hair-right' };
    const nothing: Region = { id: 'none', name: 'None', where: { ...everywhere(), invert: true } };
    const own: Region = { id: 'own', name: 'Wall', where: { ...everywhere(), parts: [half('right', 'w')] } };
    const document = edit([lighter], [region('faceSkin', 'left'), region('hair', 'right'), nothing, own]);
    const found = regionColours(document, scale, photograph, noPictures);
    expect(found.map(({ name, role }) => [name, role])).toEqual([
      ['faceSkin', 'faceSkin'],
      ['hair', 'hair'],
      ['Wall', null],
    ]);
    // One stop is twice the light, on the sRGB curve of IEC 61966-2-1.
    const encoded = 1.055 * Math.pow(2 * Math.pow((0.5 + 0.055) / 1.055, 2.4), 1 / 2.4) - 0.055;
    const wanted = [rgbToLab(srgb, ...skin), rgbToLab(srgb, encoded, encoded, encoded)];
    for (const [i, lab] of [found[0]!.lab, found[1]!.lab].entries())
      for (const axis of ['l', 'a', 'b'] as const) expect(lab[axis]).toBeCloseTo(wanted[i]![axis], 1);
    expect(found[2]!.lab).toEqual(found[1]!.lab);
    expect(found[0]!.spread.lightness).toBeCloseTo(0, 2);
    expect(regionColours(edit([lighter]), scale, photograph, noPictures)).toEqual([]);
  });

  it('leave out what the crop cuts away', () => {
    const document = { ...edit([], [region('person', 'left'), region('hair', 'right')]) };
    const cut = { ...document, geometry: { ...noGeometry, crop: { x: 0, y: 0, width: 20, height: 30 } } };
    expect(regionColours(cut, scaleOf(cut, size), halves(skin, grey), noPictures).map(({ role }) => role)).toEqual(['person']);
  });
});
