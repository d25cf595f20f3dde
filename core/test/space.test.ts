/** Edits from one colour space to another: what their colours are, and what they do. */
import Color from 'colorjs.io';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { adjustments } from '@umbo/core/adjust';
import { createRaster, noPictures, wholeOf, type SpaceId } from '@umbo/core/base';
import { carryInto } from '@umbo/core/carry';
import { colourBetween, spaceIds, spaces, type Colour } from '@umbo/core/colour';
import { sources } from '@umbo/core/content';
import {
  adjustmentLayer,
  after,
  emptyDocument,
  fitDocument,
  inSpace,
  insertLayers,
  mergeDocuments,
  onLayer,
  replaceWith,
  scaleOf,
  sourceLayer,
  type Layer,
  type UmboDocument,
} from '@umbo/core/document';
import { maskPartKind } from '@umbo/core/mask';
import { renderRegion } from '@umbo/core/render';

const size = { width: 60, height: 40 };
const colour: Colour = [0.8, 0.35, 0.2];

/** An edit with a colour in every place where one can be. */
function coloured(): UmboDocument {
  const fill = sourceLayer('fill', 'fill', 'Fill', size);
  Object.assign(fill.what.settings, { colour, stops: [{ at: 0, colour, opacity: 1 }, { at: 1, colour, opacity: 0.5 }] }); // prettier-ignore
  const swap = adjustmentLayer('swap', 'colourSwap', 'Swap');
  Object.assign(swap.what.settings, { from: colour, to: colour });
  const paint = sourceLayer('paint', 'paint', 'Paint', size);
  Object.assign(paint.what.settings, { strokes: [{ mode: 'add', size: 5, hardness: 1, flow: 1, points: [1, 2, 3, 4], colour }] });
  const likeness = maskPartKind('likeness').create('p', 'add', size);
  Object.assign(likeness, { colours: [{ colour, away: false }] });
  swap.where.parts.push(likeness as never);
  const group: Layer = {
    ...adjustmentLayer('group', 'invert', 'Group'),
    what: { kind: 'group', settings: { apart: true }, layers: [swap, paint] },
  };
  const outside = { quarters: 0, flipped: false, angle: 0, vertical: 0, horizontal: 0, skew: 0, stretch: 0, crop: null, outside: { colour, fade: 0 } }; // prettier-ignore
  return { ...emptyDocument(size), layers: [fill, group], geometry: outside };
}

/** Everything in an edit that is three numbers within 0..1. */
function colours(value: unknown): number[][] {
  if (Array.isArray(value) && value.length === 3 && value.every((v) => typeof v === 'number' && v >= 0 && v <= 1))
    return [value as number[]];
  return typeof value === 'object' && value !== null ? Object.values(value).flatMap(colours) : [];
}

describe('an edit in another space', () => {
  it.each(spaceIds.filter((id) => id !== 'srgb'))('has in %s the colours that it had, and nothing else is another', (id) => {
    const before = coloured();
    const moved = inSpace(before, id);
    expect(colours(before)).toHaveLength(8);
    expect(colours(moved)).toHaveLength(8);
    for (const found of colours(moved)) {
      // colorjs.io has the same spaces, some by other names.
      const name = { 'display-p3': 'p3', 'a98-rgb': 'a98rgb', rec2020: 'rec2020', 'prophoto-rgb': 'prophoto' }[id as 'rec2020'];
      const wanted = new Color('srgb', [...colour]).to(name).coords;
      for (const [i, v] of found.entries()) expect(v).toBeCloseTo(wanted[i]!, 4);
    }
    const without = (document: UmboDocument): string =>
      JSON.stringify(document, (_, v) => (colours([v]).length === 1 && Array.isArray(v) ? 0 : v));
    expect(without({ ...moved, workingSpace: 'srgb' })).toBe(without(before));
    const back = inSpace(moved, 'srgb');
    for (const found of colours(back)) for (const [i, v] of found.entries()) expect(v).toBeCloseTo(colour[i]!, 6);
  });

  it('what a space does not hold is held at its ends', () => {
    const layer = sourceLayer('fill', 'fill', 'Fill', size);
    Object.assign(layer.what.settings, { colour: [0, 1, 0] });
    const narrow = inSpace({ ...emptyDocument(size, 'prophoto-rgb'), layers: [layer] }, 'srgb');
    expect((narrow.layers[0]!.what.settings as { colour: Colour }).colour).toEqual([0, 1, 0]);
    expect(inSpace(narrow, 'srgb')).toBe(narrow);
  });

  it('goes along to a photograph in another space, by carrying, fitting and taking over', () => {
    const here = emptyDocument(size, 'display-p3');
    const wanted = colourBetween(spaces.srgb, spaces['display-p3'], colour);
    const check = (document: UmboDocument): void => {
      expect(document.workingSpace).toBe('display-p3');
      expect(colours(document.layers).every((one) => one.every((v, i) => Math.abs(v - wanted[i]!) < 1e-9))).toBe(true);
    };
    check(carryInto(here, coloured(), 'add', 'c'));
    check(fitDocument(coloured(), size, 'display-p3'));
    expect(after(here, replaceWith(coloured())).workingSpace).toBe('srgb');
  });

  it('is joined with what somebody else did meanwhile in the space before', () => {
    const base = { ...emptyDocument(size), layers: [sourceLayer('fill', 'fill', 'Fill', size)] };
    const mine = inSpace(base, 'rec2020');
    const theirs = after(
      base,
      onLayer('fill', ({ what }) => void Object.assign(what.settings, { colour })),
    );
    for (const [a, b] of [
      [mine, theirs],
      [theirs, mine],
    ] as const) {
      const { document, conflicts } = mergeDocuments(base, a, b);
      expect([document.workingSpace, conflicts]).toEqual(['rec2020', []]);
      const got = (document.layers[0]!.what.settings as { colour: Colour }).colour;
      for (const [i, v] of colourBetween(spaces.srgb, spaces.rec2020, colour).entries()) expect(got[i]).toBeCloseTo(v, 9);
    }
  });
});

/** What one layer makes of random colours of sRGB, worked on in a space, as sRGB. */
function worked(layer: Layer, space: SpaceId, rgb: readonly Colour[]): Colour[] {
  const picture = { width: rgb.length, height: 1 };
  const raster = createRaster(wholeOf(picture));
  for (const [i, one] of rgb.entries())
    for (const [c, v] of colourBetween(spaces.srgb, spaces[space], one).entries())
      raster[(['r', 'g', 'b'] as const)[c]!][i] = Math.round(v * 65535);
  const document = after(emptyDocument(picture, space), insertLayers([layer], null));
  const out: Colour[] = [];
  renderRegion(document, scaleOf(document, picture), raster.area, raster, noPictures, (tile, { r, g, b }) => {
    for (let i = 0; i < tile.width; i++) out.push(colourBetween(spaces[space], spaces.srgb, [r[i]!, g[i]!, b[i]!]));
  });
  return out;
}

it('what is done in OKLab is the same in every space, as far as that holds it', () => {
  const layer = adjustmentLayer('a', 'hueSaturation', 'Turn');
  Object.assign(layer.what.settings, { hue: 25, saturation: -20, lightness: 8 });
  const share = fc.double({ min: 0.25, max: 0.75, noNaN: true });
  fc.assert(
    fc.property(fc.array(fc.tuple(share, share, share), { minLength: 8, maxLength: 8 }), (rgb) => {
      const wanted = worked(layer, 'srgb', rgb as Colour[]);
      for (const id of spaceIds)
        for (const [i, got] of worked(layer, id, rgb as Colour[]).entries())
          for (let c = 0; c < 3; c++) expect(got[c]).toBeCloseTo(wanted[i]![c]!, 3);
    }),
    { numRuns: 40 },
  );
});

it('every adjustment and source begins in every space', () => {
  for (const id of spaceIds) {
    for (const { kind } of adjustments)
      expect(worked(adjustmentLayer('a', kind, kind), id, [colour])[0]!.every(Number.isFinite), kind).toBe(true);
    for (const { kind } of sources)
      expect(worked(sourceLayer('a', kind, kind, size), id, [colour])[0]!.every(Number.isFinite), kind).toBe(true);
  }
});
