/** What a layer depends on: the picture below it, the layer it is clipped to, and what was painted before. */
import { afterEach, describe, expect, it, vi } from 'vitest';
import fc from 'fast-check';
import { createRaster, noPictures, withOverview, wholeOf, type Pictures, type Raster } from '@umbo/core/base';
import {
  adjustmentLayer,
  after,
  difference,
  edit,
  emptyDocument,
  findResolved,
  groupLayer,
  onLayer,
  patch,
  peekAt,
  resolveLayers,
  sameValue,
  sourceLayer,
  stackWith,
  type Layer,
  type UmboDocument,
} from '@umbo/core/document';
import { maskPartKind, maskPartKinds, renderMask, type BrushPart, type Mask, type MaskPart, type Stroke } from '@umbo/core/mask';
import { srgb } from '@umbo/core/colour';
import { findMask, renderRegion, writeTile } from '@umbo/core/render';

const size = { width: 96, height: 64 };
const scale = { picture: size, full: size };
const photograph: Raster = createRaster(wholeOf(size));
for (const [c, plane] of (['r', 'g', 'b'] as const).entries())
  for (let i = 0; i < size.width * size.height; i++) photograph[plane][i] = ((i * (7919 + 31 * c)) % 30_000) + 2000;

function render(document: UmboDocument, source = photograph): Uint16Array {
  const whole = wholeOf(size);
  const out = new Uint16Array(size.width * size.height * 3);
  renderRegion(document, scale, whole, source, withOverview(noPictures, source), (tile, pixels) =>
    writeTile(tile, pixels, [srgb, srgb], whole, out),
  );
  return out;
}
const of = (...layers: Layer[]): UmboDocument => ({ ...emptyDocument(size), layers });

/** Brightens where the picture so far (or the photograph) is light. */
function reading(id: string, below: boolean): Layer {
  const layer = adjustmentLayer(id, 'exposure', id);
  Object.assign(layer.what.settings, { stops: 0.4 });
  layer.where.parts.push({ ...maskPartKind('luminosity').create('l', 'add', size), ...(below && { result: true }) } as MaskPart);
  return layer;
}
const stack = (n: number, below: boolean): Layer[] => Array.from({ length: n }, (_, i) => reading(`r${i}`, below));

afterEach(() => vi.restoreAllMocks());

describe('masks that look at the result so far', () => {
  it('see what the layers below have made, in lists and in groups: the same as of a photograph that is made of it', () => {
    const group = groupLayer('g', 'g');
    Object.assign(group.what, { layers: stack(3, true).map((layer) => ({ ...layer, id: `g${layer.id}` })) });
    for (const layers of [stack(5, true), [...stack(2, true), group, reading('last', true)]]) {
      const document = of(...layers);
      const top = layers.at(-1)!;
      const below = render(peekAt(document, { solo: null, upTo: null, below: top.id }));
      const made = createRaster(wholeOf(size));
      for (let i = 0; i < made.r.length; i++) [made.r[i], made.g[i], made.b[i]] = [below[i * 3]!, below[i * 3 + 1]!, below[i * 3 + 2]!];
      const expected = render(of({ ...top, where: reading('x', false).where }), made);
      const got = render(document);
      let worst = 0;
      for (let i = 0; i < got.length; i++) worst = Math.max(worst, Math.abs(got[i]! - expected[i]!));
      expect(worst).toBeLessThan(30); // the photograph that is made of it has whole steps of 16 bits
      // What looks at the photograph instead comes to something else.
      const blind = render(of(...layers.slice(0, -1), { ...top, where: reading('x', false).where }));
      expect(blind.reduce((most, v, i) => Math.max(most, Math.abs(v - got[i]!)), 0)).toBeGreaterThan(100);
    }
  });

  it('are those of rules of colour and tone where that is chosen, and of what is checked from the beginning', () => {
    const result = maskPartKinds.flatMap((kind) => {
      const made = kind.create('p', 'add', size) as { result?: boolean };
      return kind.controls.some(({ key }: { key: string }) => key === 'result') ? [[kind.kind, made.result === true] as const] : [];
    });
    expect(result.filter(([, on]) => on).map(([kind]) => kind)).toEqual(['outOfGamut', 'clipped']);
    expect(result.map(([kind]) => kind).sort()).toEqual(['clipped', 'hueRange', 'likeness', 'luminosity', 'outOfGamut', 'pick']);
  });

  it('are found once each, however many look at each other’s results', () => {
    for (const [n, wrap] of [
      [14, (layers: Layer[]) => layers],
      [
        14,
        (layers: Layer[]) => {
          const group = groupLayer('g', 'g');
          Object.assign(group.what, { layers });
          return [group];
        },
      ],
    ] as const) {
      const cover = vi.spyOn(maskPartKind('luminosity'), 'cover');
      render(of(...wrap(stack(n, true))));
      expect(cover).toHaveBeenCalledTimes(n);
      cover.mockRestore();
    }
  });

  it('see every change below them, as if nothing were known from before', () => {
    const left = sourceLayer('l', 'fill', 'l', size);
    left.where.parts = [{ ...maskPartKind('outline').create('o', 'add', size), shapes: [[0, 0, 40, 0, 40, 60, 0, 60]] } as MaskPart];
    const red = sourceLayer('r', 'fill', 'r', size);
    Object.assign(red.what.settings, { shape: 'colour', colour: [1, 0, 0] });
    Object.assign(left.what.settings, { shape: 'colour', colour: [0, 1, 0] });
    const picks = [{ x: 10, y: 10, colour: [1, 0, 0], away: false }];
    const top = adjustmentLayer('t', 'exposure', 't');
    top.where.parts = [{ ...maskPartKind('pick').create('p', 'add', size), result: true, picks } as MaskPart];
    const maskOf = (document: UmboDocument, at: Raster, pictures: Pictures = withOverview(noPictures, at)): Uint16Array =>
      findMask(document, findResolved(resolveLayers(document), 't')!, scale, wholeOf(size), at, pictures);
    for (const change of [
      (draft: Layer) => void (draft.clip = true),
      (draft: Layer) => void (draft.how.opacity = 0.2),
      (draft: Layer) => void (draft.how.mode = 'multiply'),
      (draft: Layer) => void (draft.on = false),
    ]) {
      const document = of(left, red, top);
      // Copies are photographs that nothing is known of.
      const own = { ...photograph, r: photograph.r.slice() };
      const known = withOverview(noPictures, own);
      const changed = maskOf(after(document, onLayer('r', change)), own, known);
      const fresh = maskOf(structuredClone(document), { ...photograph, r: photograph.r.slice() });
      // What the click reaches was looked for in the changed picture before.
      expect(maskOf(document, own, known)).toEqual(fresh);
      expect(fresh).not.toEqual(changed);
    }
  });

  it('are the same in any part, also of a layer that is off, and where a click looks at all of the result', () => {
    const grey = sourceLayer('f', 'fill', 'f', size);
    Object.assign(grey.what.settings, { shape: 'colour', colour: [0.5, 0.5, 0.5] });
    const light = adjustmentLayer('e', 'exposure', 'e');
    Object.assign(light.what.settings, { stops: 1 });
    light.where.parts.push(maskPartKind('ellipse').create('o', 'add', size));
    const top = { ...adjustmentLayer('t', 'exposure', 't'), on: false };
    const picks = [{ x: 2, y: 2, colour: [0.5, 0.5, 0.5], away: false }];
    top.where.parts = [{ ...maskPartKind('pick').create('p', 'add', size), result: true, picks } as MaskPart];
    const document = of(grey, light, top);
    const node = findResolved(resolveLayers(document), 't')!;
    const pictures = withOverview(noPictures, photograph);
    const whole = findMask(document, node, scale, wholeOf(size), photograph, pictures);
    expect(new Set(whole).size).toBeGreaterThan(2);
    for (const part of [
      { x: 0, y: 0, width: 50, height: 40 },
      { x: 30, y: 20, width: 66, height: 44 },
    ]) {
      // A copy is a photograph that nothing is known of.
      const own = { ...photograph, r: photograph.r.slice() };
      const found = findMask(document, node, scale, part, own, withOverview(noPictures, own));
      for (let y = 0; y < part.height; y++) {
        const at = (part.y + y) * size.width + part.x;
        expect(found.subarray(y * part.width, (y + 1) * part.width)).toEqual(whole.subarray(at, at + part.width));
      }
    }
  });

  it('that lead back to themselves by links end, and cost no more than their number squared', () => {
    const layers = stack(10, true).map((layer, i): Layer => ({
      ...layer,
      where: { ...layer.where, ...(i < 9 && { link: `r${Math.min(9, i + 3)}` }) },
    }));
    const cover = vi.spyOn(maskPartKind('luminosity'), 'cover');
    render(of(...layers));
    expect(cover.mock.calls.length).toBeLessThan(2 * 10 * 10);
  });
});

it('the tones of a layer itself are those that it brings, without its mask, blending, opacity and limits', () => {
  const fill = sourceLayer('f', 'fill', 'f', size);
  Object.assign(fill.what.settings, { shape: 'colour', colour: [0.5, 0.5, 0.5] });
  fill.where.parts.push(maskPartKind('ellipse').create('e', 'add', size));
  Object.assign(fill.how, { mode: 'multiply', opacity: 0.3, limitsSelf: { low: [0, 0], high: [10, 20], smooth: false } });
  const above = adjustmentLayer('x', 'exposure', 'x');
  const own = render(stackWith(of(reading('r', false), fill, above), 'f'));
  expect([...new Set(own)]).toEqual([expect.closeTo(32768, -1)]);
  const stops = adjustmentLayer('s', 'exposure', 's');
  Object.assign(stops.what.settings, { stops: 1 });
  stops.how.opacity = 0.1;
  const group = groupLayer('g', 'g');
  Object.assign(group.what, { layers: [stops] });
  expect(render(stackWith(of(group), 's'))).toEqual(render(of({ ...stops, how: { ...stops.how, opacity: 1 } })));
});

describe('a layer clipped to the one below acts as far as that one covers', () => {
  const white = (base: Layer): Uint16Array => {
    const clipped = sourceLayer('c', 'fill', 'c', size);
    Object.assign(clipped.what.settings, { shape: 'colour', colour: [1, 1, 1] });
    clipped.clip = true;
    return render(of(base, clipped));
  };
  it('by its opacity', () => {
    const base = adjustmentLayer('b', 'exposure', 'b');
    base.how.opacity = 0.25;
    const got = white(base);
    const before = render(of(base));
    for (const i of [0, 999, 5000]) expect(Math.abs(got[i]! - (before[i]! + 0.25 * (65535 - before[i]!)))).toBeLessThan(2);
  });
  it('by the transparency of a group that is apart, and of a gradient', () => {
    const half = sourceLayer('h', 'fill', 'h', size);
    Object.assign(half.what.settings, { shape: 'colour', colour: [0, 0, 0] });
    half.how.opacity = 0.5;
    const group = groupLayer('g', 'g');
    Object.assign(group.what, { settings: { apart: true }, layers: [half] });
    const got = white(group);
    const before = render(of(group));
    for (const i of [0, 999, 5000]) expect(Math.abs(got[i]! - (before[i]! + 0.5 * (65535 - before[i]!)))).toBeLessThan(2);

    const gradient = sourceLayer('f', 'fill', 'f', size);
    const stop = (at: number, opacity: number) => ({ at, colour: [0, 0, 0], opacity });
    Object.assign(gradient.what.settings, {
      shape: 'linear',
      from: { x: 0, y: 0 },
      to: { x: size.width, y: 0 },
      stops: [stop(0, 0), stop(0.5, 0), stop(0.5, 1), stop(1, 1)],
    });
    const clipped = white(gradient);
    const untouched = render(of());
    for (const x of [1, 20, 40]) expect(clipped[x * 3]).toBe(untouched[x * 3]);
    for (const x of [60, 90]) expect(clipped[x * 3]).toBe(65535);
  });
});

describe('the first part of a mask', () => {
  const flat = (combine: 'add' | 'cut' | 'common', strength: number): number[] => {
    // Inside everything, outside nothing: a brush that begins full, and one that begins empty.
    const value = (start: 'full' | 'empty'): number => {
      const part = { ...maskPartKind('brush').create('p', combine, size), start, strength } as MaskPart;
      const mask: Mask = { parts: [part], refine: [], strength: 1, invert: false };
      return renderMask(mask, scale, { x: 0, y: 0, width: 1, height: 1 }, photograph, noPictures)[0]! / 65535;
    };
    return [value('full'), value('empty')].map((v) => Math.round(v * 100) / 100);
  };
  it('joins what is nothing when it adds and everything when it cuts, and its strength says how far it counts', () => {
    for (const s of [0, 0.25, 0.5, 1]) {
      expect(flat('add', s)).toEqual([s, 0]);
      expect(flat('cut', s)).toEqual([1 - s, 1]);
      expect(flat('common', s)).toEqual([1, 1 - s]);
    }
  });
});

describe('a painting', () => {
  const stroke = (i: number, erase = false): Stroke => ({
    id: `s${i}`,
    size: 14,
    hardness: 0.4,
    flow: 0.4,
    opacity: 0.8,
    erase,
    points: Array.from({ length: 12 }, (_, k) => [(i * 37 + k * 5) % size.width, (i * 23 + k * 3) % size.height, 1]).flat(),
  });
  const masked = (strokes: Stroke[]): Mask => ({
    parts: [{ ...maskPartKind('brush').create('p', 'add', size), strokes } as BrushPart],
    refine: [],
    strength: 1,
    invert: false,
  });
  const regions = fc.record({
    x: fc.nat(60),
    y: fc.nat(40),
    width: fc.integer({ min: 1, max: 36 }),
    height: fc.integer({ min: 1, max: 24 }),
  });

  it('is the same in any part, after any strokes were added, taken back and changed', () => {
    const steps = fc.array(fc.tuple(fc.constantFrom('add', 'erase', 'back', 'ease', 'first'), regions), { minLength: 20, maxLength: 40 });
    fc.assert(
      fc.property(steps, (list) => {
        let strokes = Array.from({ length: 9 }, (_, i) => stroke(i));
        for (const [what, region] of list) {
          if (what === 'back') strokes = strokes.slice(0, Math.max(1, strokes.length - 2));
          else if (what === 'ease') strokes = [...strokes.slice(0, -1), { ...strokes.at(-1)!, opacity: 0.3 }];
          else if (what === 'first') strokes = [{ ...strokes[0]!, flow: 0.9 }, ...strokes.slice(1)];
          else strokes = [...strokes, stroke(strokes.length + 1, what === 'erase')];
          const part = renderMask(masked(strokes), scale, region, photograph, noPictures);
          // Copies are strokes that nothing is known of.
          const whole = renderMask(masked(structuredClone(strokes)), scale, wholeOf(size), photograph, noPictures);
          for (let y = 0; y < region.height; y++) {
            const from = (region.y + y) * size.width + region.x;
            expect(part.subarray(y * region.width, (y + 1) * region.width)).toEqual(whole.subarray(from, from + region.width));
          }
        }
      }),
      { numRuns: 40 },
    );
  });

  it('is drawn with the pressure between its points, and where it comes into the photograph from far outside', () => {
    const across = (points: number[], flow = 0.5): Stroke => ({ id: 's', size: 8, hardness: 1, flow, opacity: 1, erase: false, points });
    const drawn = (one: Stroke): Uint16Array => renderMask(masked([one]), scale, wholeOf(size), photograph, noPictures);
    const at = (mask: Uint16Array, x: number): number => mask[30 * size.width + x]!;
    // Half as hard in the middle: dabs lie an eighth of the brush apart, and eight of them cover its axis.
    const eased = drawn(across([0, 30.5, 0, 96, 30.5, 1], 0.2));
    for (const x of [24, 48, 72]) expect(at(eased, x) / 65535).toBeCloseTo(1 - (1 - 0.2 * (x / 96)) ** 8, 1);
    const far = drawn(across([-1e6, 30.5, 1, 1e6, 30.5, 1]));
    expect(far.some((v) => v === 0)).toBe(true);
    expect([at(far, 2), at(far, 48), at(far, 93)].every((v) => v > 60000)).toBe(true);
    expect(drawn(across([-1e6, -1e6, 1, 1e6, -1e6, 1, 1e6, 1e6, 1])).every((v) => v === 0)).toBe(true);
  });

  it('draws for the 800th stroke what it draws for the 10th', () => {
    const region = { x: 20, y: 20, width: 40, height: 30 };
    /** Points that were looked at while one more stroke was drawn. */
    const effort = (n: number): number => {
      let looked = 0;
      const watched = (i: number): Stroke => {
        const made = stroke(i);
        const points = new Proxy(made.points, {
          get: (list, key) => (typeof key === 'string' && /^\d/.test(key) && looked++, Reflect.get(list, key) as unknown),
        });
        return { ...made, points };
      };
      const strokes = Array.from({ length: n }, (_, i) => watched(i));
      for (let i = 1; i < n; i++) renderMask(masked(strokes.slice(0, i)), scale, region, photograph, noPictures);
      looked = 0;
      renderMask(masked(strokes), scale, region, photograph, noPictures);
      return looked;
    };
    expect(effort(800)).toBeLessThan(2 * effort(12));
  });

  it('eased back by its last of 800 strokes is written as what changed', () => {
    const layer = adjustmentLayer('a', 'exposure', 'a');
    layer.where = masked(Array.from({ length: 800 }, (_, i) => stroke(i)));
    const whole = onLayer('a', ({ where }) => {
      const part = where.parts[0] as BrushPart;
      part.strokes = part.strokes.map((one, i) => (i === 799 ? { ...one, opacity: 0.5 } : one));
    });
    const { patches, inverse } = edit(of(layer), whole);
    expect(JSON.stringify([patches, inverse]).length).toBeLessThan(2000);
  });
});

it('a difference leads from one value to another, whatever they are', () => {
  const leaf = fc.oneof(fc.integer(), fc.string(), fc.boolean());
  const value = fc.letrec((tie) => ({
    node: fc.oneof(
      { maxDepth: 3 },
      leaf,
      fc.array(fc.oneof(fc.integer({ max: 3 }), tie('node'))),
      fc.array(fc.integer({ min: 0, max: 4 }), { minLength: 6, maxLength: 30 }),
      fc.dictionary(fc.constantFrom('a', 'b', 'id', 'kind'), tie('node')),
    ),
  })).node;
  fc.assert(
    fc.property(value, value, (a, b) => {
      const [from, to] = [{ root: a ?? null }, { root: b ?? null }] as unknown as [UmboDocument, UmboDocument];
      const there = JSON.parse(JSON.stringify(difference(from, to))) as ReturnType<typeof difference>;
      expect(sameValue(patch(from, there), to)).toBe(true);
      expect(difference(from, JSON.parse(JSON.stringify(from)))).toEqual([]);
    }),
    { numRuns: 2000 },
  );
});
