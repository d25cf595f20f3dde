/** The bench renders only what changed. After any sequence of edits and looks the stage must show what rendering everything gives. */
import { accelerate, createRaster, levelSize, quantise, resample, wholeOf, type Raster, type Pictures } from '@umbo/core/base';
import type { SourceContent } from '@umbo/core/content';
import {
  adjustmentLayer,
  edit,
  colourwayLayer,
  emptyDocument,
  groupLayer,
  groupLayers,
  insertLayers,
  moveLayers,
  onLayer,
  removeLayers,
  resolveLayers,
  sourceLayer,
  type Layer,
  type Recipe,
  type ResolvedLayer,
  type UmboDocument,
} from '@umbo/core/document';
import { maskPartKind, type BrushPart, type LikenessPart } from '@umbo/core/mask';
import { findMask, renderRegion, filtersReach } from '@umbo/core/render';
import { createKernels } from '@umbo/kernels';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  createViewport,
  jobsOf,
  noteUpdate,
  pictureSize,
  placement,
  forgetBackdrops,
  forgetPictured,
  planUpdate,
  portionsOf,
  serves,
  visibleArea,
  type Viewport,
} from '../src/workers/inside/viewport';
import { performTileJob } from '../src/workers/inside/tileRender';
import type { TileJob } from '../src/workers/protocol';

// As the bench's workers calculate.
beforeAll(() => accelerate(createKernels()));
afterAll(() => accelerate(null));

const brushKind = maskPartKind<BrushPart>('brush');
const full = { width: 260, height: 100 };
const photograph: Raster = createRaster(wholeOf(full), true);
for (let i = 0; i < full.width * full.height; i++) {
  const [x, y] = [i % full.width, Math.floor(i / full.width)];
  photograph.r[i] = 32000 + 30000 * Math.sin(x / 17);
  photograph.g[i] = 32000 + 30000 * Math.sin(y / 13 + 1);
  photograph.b[i] = 32000 + 30000 * Math.sin((x + y) / 23 + 2);
}

const run = (viewport: Viewport, document: UmboDocument, job: TileJob, bandHeight: number, whole = document): void => {
  const control = new Int32Array(new SharedArrayBuffer(8));
  // Two workers, one after the other: the second finds what the first left.
  const state = { viewport, proof: null, edit: whole, document, pictures };
  performTileJob(state, job, control, bandHeight);
  performTileJob(state, job, control, bandHeight);
};

/** How far the blurs and the sharpening together look around at most. */
const BLURRED = 80;

/** What lies further within a frame than its layers look around, or at the border of the whole picture, is right. */
function differences(viewport: Viewport, document: UmboDocument): number {
  const { area, rgba, scale } = viewport;
  const right = expected(viewport, document);
  const around = filtersReach(document, scale);
  const inset = (from: number, to: number, whole: number): [number, number] => [
    from === 0 ? 0 : from + around,
    to === whole ? to : to - around,
  ];
  const [x0, x1] = inset(area.x, area.x + area.width, scale.picture.width);
  const [y0, y1] = inset(area.y, area.y + area.height, scale.picture.height);
  let wrong = 0;
  for (let y = y0; y < y1; y++)
    for (let x = x0; x < x1; x++) {
      const at = ((y - area.y) * area.width + x - area.x) * 4;
      if (right[at] !== rgba[at] || right[at + 1] !== rgba[at + 1] || right[at + 2] !== rgba[at + 2]) wrong++;
    }
  expect((x1 - x0) * (y1 - y0)).toBeGreaterThan(2000);
  return wrong;
}

function* eachResolved(document: UmboDocument, nodes = resolveLayers(document)): Generator<ResolvedLayer> {
  for (const node of nodes) {
    yield node;
    yield* eachResolved(document, node.layers);
  }
}

function openFrame(zoom: number, document: UmboDocument, budget?: number): Viewport {
  const picture = pictureSize(full, zoom);
  const viewport = createViewport(
    { picture, full },
    { x: 0, y: 0, width: Math.min(picture.width, 120), height: Math.min(picture.height, 90) },
    40,
    BLURRED,
    undefined,
    budget,
  );
  run(viewport, document, { type: 'source', level: photograph, levelSize: levelSize(full, 0) }, 32);
  return viewport;
}

/** What the whole of a frame must look like. */
function expected(viewport: Viewport, document: UmboDocument): Uint8ClampedArray {
  const source = createRaster(wholeOf(viewport.scale.picture));
  resample(photograph, full, viewport.scale.picture, source.area, source);
  const { area } = viewport;
  const out = new Uint8ClampedArray(area.width * area.height * 4).fill(255);
  // At the photograph's own size pixels are copied, not resampled; the kernel is the identity there.
  renderRegion(document, viewport.scale, area, source, pictures, (tile, { r, g, b }) => {
    for (let y = 0, i = 0; y < tile.height; y++)
      for (let x = 0, o = ((tile.y - area.y + y) * area.width + tile.x - area.x) * 4; x < tile.width; x++, i++, o += 4) {
        out[o] = quantise(r[i]!, 255);
        out[o + 1] = quantise(g[i]!, 255);
        out[o + 2] = quantise(b[i]!, 255);
      }
  });
  return out;
}

function layer(id: string): Layer {
  const made = adjustmentLayer(id, 'hueSaturation', id);
  Object.assign(made.what.settings, { hue: 40 });
  made.where.parts.push({
    id: `${id}h`,
    kind: 'hueRange',
    on: true,
    invert: false,
    combine: 'add',
    from: 200,
    fadeIn: 20,
    span: 120,
    fadeOut: 20,
    greys: 0.02,
  });
  return made;
}

/** Another photograph, for frames. */
const other: Raster = createRaster(wholeOf({ width: 90, height: 120 }));
for (let i = 0; i < 90 * 120; i++) {
  other.r[i] = (i * 131) % 65536;
  other.g[i] = 20000 + ((i / 90) | 0) * 200;
  other.b[i] = 50000;
}
const pictures: Pictures = {
  find: (need) => (need.kind === 'overview' ? { full, level: photograph } : { full: { width: 90, height: 120 }, level: other }),
};

function colours(id: string, kind: SourceContent['kind']): Layer {
  const made = sourceLayer(id, kind, id, full);
  made.how.opacity = 0.7;
  if (made.what.kind === 'fill') Object.assign(made.what.settings, { shape: 'linear' });
  if (made.what.kind === 'frame') Object.assign(made.what.settings, { photograph: 'c'.repeat(64), x: 12, y: -9, rotate: 20, scale: 140 });
  return made;
}

/** A layer of each kind, a group, and an alternative. */
function everything(): UmboDocument {
  const group = groupLayer('g', 'g');
  const set = colourwayLayer('w', 'w', 'p');
  if (group.what.kind === 'group') group.what.layers = [layer('a'), colours('s', 'paint'), blur('k', 1.5), colours('f', 'fill')];
  if (set.what.kind === 'colourways') set.what.layers = [colours('p', 'channel'), layer('q')];
  group.where.parts = [{ ...brushKind.create('gp', 'add', full), strokes: [{ ...dab, id: 'gs', points: [60, 60, 1, 90, 70, 1] }] }];
  // A mask that looks at what all of these make of the photograph.
  const last = layer('c');
  last.where.parts = [
    {
      ...maskPartKind<LikenessPart>('likeness').create('l', 'add', full),
      result: true,
      tolerance: 25,
      colours: [{ colour: [0.6, 0.5, 0.5], away: false }],
    },
  ];
  const sharp = adjustmentLayer('u', 'unsharp', 'u');
  sharp.how.mode = 'luminosity';
  const bounds = adjustmentLayer('v', 'vignette', 'v');
  return { ...emptyDocument(full), layers: [layer('b'), group, colours('r', 'frame'), set, blur('z', 2), last, sharp, bounds] };
}

/** Looks at the surroundings of pixels. */
function blur(id: string, radius: number): Layer {
  const made = adjustmentLayer(id, 'gaussianBlur', id);
  Object.assign(made.what.settings, { radius });
  made.how.opacity = 0.8;
  return made;
}

const dab = { size: 40, hardness: 0.4, flow: 0.7, opacity: 0.9, erase: false };
const ids = fc.constantFrom('a', 'b', 'c', 'g', 's', 'w', 'r', 'k', 'z', 'u');
const point = fc.tuple(fc.integer({ min: 0, max: 260 }), fc.integer({ min: 0, max: 180 }));
/** What people do, in any order. */
const recipes: fc.Arbitrary<Recipe> = fc.oneof(
  fc.tuple(fc.constantFrom('x', 'y'), ids).map(([id, after]) => insertLayers([layer(id)], after)),
  fc.constantFrom('x', 'y', 'b', 's').map((id) => removeLayers([id])),
  fc
    .tuple(ids, ids, fc.constantFrom('before' as const, 'after' as const, 'inside' as const))
    .map(([id, to, side]) => moveLayers([id], { id: to, side })),
  fc.tuple(ids, fc.constantFrom('n', 'm')).map(([id, name]) => groupLayers([id], groupLayer(name, name))),
  fc.boolean().map((apart) => onLayer('g', ({ what }) => void Object.assign(what.settings, { apart }))),
  fc.constantFrom('p', 'q').map((shown) =>
    onLayer('w', ({ what }) => {
      if (what.kind === 'colourways' && what.layers.some(({ id }) => id === shown)) what.settings.shown = shown;
    }),
  ),
  fc.tuple(ids, fc.boolean()).map(([id, clip]) => onLayer(id, (draft) => void (draft.clip = clip))),
  fc.constantFrom('b', 'c').map((link) =>
    onLayer('a', ({ where }) => {
      where.link = link;
    }),
  ),
  fc.constant(onLayer('a', ({ where }) => void delete where.link)),
  fc
    .tuple(ids, fc.constantFrom(0, 0.5, 1))
    .map(([id, hue]) => onLayer(id, ({ how }) => void (how.letThrough = { lightness: 1, hue, chroma: 0.8 }))),
  fc
    .tuple(ids, fc.constantFrom('limitsBelow' as const, 'limitsSelf' as const))
    .map(([id, side]) => onLayer(id, ({ how }) => void (how[side] = { low: [10, 40], high: [60, 90], smooth: true }))),
  fc.constantFrom(0.4, 1).map((strength) => (draft: UmboDocument) => void (draft.strength = strength)),
  // Painted with a colour of its own.
  fc.tuple(point, fc.boolean()).map(([[x, y], more]) =>
    onLayer('s', ({ what }) => {
      if (what.kind !== 'paint') return;
      const last = what.settings.strokes.at(-1);
      if (more && last) last.points = [...last.points, x, y, 1];
      else what.settings.strokes.push({ ...dab, id: `s${what.settings.strokes.length}`, colour: [0.9, 0.3, 0.1], points: [x, y, 1] });
    }),
  ),
  fc.integer({ min: -40, max: 40 }).map((x) => onLayer('r', ({ what }) => void (what.kind === 'frame' && (what.settings.x = x)))),
  fc
    .tuple(fc.constantFrom('a', 'b', 'c'), fc.integer({ min: -180, max: 180 }))
    .map(([id, hue]) => onLayer(id, ({ what }) => void Object.assign(what.settings, { hue }))),
  fc
    .tuple(fc.constantFrom('k', 'z'), fc.constantFrom(0, 1, 3))
    .map(([id, radius]) => onLayer(id, ({ what }) => void (what.kind === 'gaussianBlur' && (what.settings.radius = radius)))),
  fc
    .tuple(ids, fc.constantFrom('normal', 'multiply', 'soft-light', 'color'))
    .map(([id, mode]) => onLayer(id, ({ how }) => void (how.mode = mode))),
  fc.tuple(ids, fc.boolean()).map(([id, on]) => onLayer(id, (draft) => void (draft.on = on))),
  fc.tuple(ids, fc.string({ minLength: 1, maxLength: 5 })).map(([id, name]) => onLayer(id, (draft) => void (draft.name = name))),
  fc
    .tuple(ids, fc.constantFrom(0, 6, 18))
    .map(([id, radius]) => onLayer(id, ({ where }) => void (where.refine = radius ? [{ kind: 'feather', radius }] : []))),
  fc.tuple(ids, fc.boolean()).map(([id, invert]) => onLayer(id, ({ where }) => void (where.invert = invert))),
  // A stroke begun, or the last one continued.
  fc.tuple(ids, point, fc.boolean()).map(([id, [x, y], more]) =>
    onLayer(id, ({ where }) => {
      let part = where.parts.find((candidate): candidate is BrushPart => candidate.kind === 'brush');
      if (!part) where.parts.push((part = brushKind.create(`${id}p`, 'common', full)));
      const brush = where.parts.at(-1) as BrushPart;
      const last = brush.strokes.at(-1);
      if (more && last) last.points = [...last.points, x, y, 1];
      else brush.strokes.push({ ...dab, id: `s${brush.strokes.length}`, points: [x, y, 1] });
    }),
  ),
);

describe('frames', () => {
  it('show after any sequence of edits what rendering everything gives', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(recipes, fc.constantFrom('a', 'b', 'g', 's', null)), { minLength: 1, maxLength: 10 }),
        fc.constantFrom(1, 0.6),
        fc.constantFrom(undefined, 0, 200_000),
        (steps, zoom, budget) => {
          let document = everything();
          const viewport = openFrame(zoom, document, budget);
          for (const [recipe, viewed] of [[() => undefined, null] as const, ...steps]) {
            document = edit(document, recipe).document;
            for (const portion of portionsOf(viewport, document)) {
              const update = planUpdate(viewport, portion, viewed, document);
              if (!update) continue;
              for (const job of jobsOf(update)) run(viewport, portion, job, 32, document);
              noteUpdate(viewport, portion, update.job, document);
              forgetBackdrops(viewport, portion, viewed);
            }
            expect(differences(viewport, document)).toBe(0);
            // The mask that is looked at is there, whether its layer does anything or not.
            const looked = Array.from(eachResolved(document)).find(({ layer: { id } }) => id === viewed);
            const known = looked && viewport.masks.get(looked.layer.id);
            if (looked && known) {
              const source = createRaster(wholeOf(viewport.scale.picture));
              resample(photograph, full, viewport.scale.picture, source.area, source);
              expect(
                Buffer.compare(
                  Buffer.from(known.values),
                  Buffer.from(findMask(document, looked, viewport.scale, viewport.area, source, pictures)),
                ),
              ).toBe(0);
            }
          }
        },
      ),
      { numRuns: 12 },
    );
  }, 300_000);

  it('of many masked layers keep no more than their budget, from the first picture on', () => {
    const layers = Array.from({ length: 30 }, (_, i) => layer(`m${i}`));
    const document: UmboDocument = { ...emptyDocument(full), layers };
    const viewport = openFrame(1, document);
    const one = 2 * viewport.area.width * viewport.area.height;
    viewport.budget = 5 * one;
    let most = 0;
    const portions = portionsOf(viewport, document);
    for (const portion of portions) {
      const update = planUpdate(viewport, portion, 'm29', document);
      for (const job of jobsOf(update!)) run(viewport, portion, job, 32, document);
      noteUpdate(viewport, portion, update!.job, document);
      most = Math.max(most, viewport.masks.size * one);
      forgetBackdrops(viewport, portion, 'm29');
    }
    expect(portions.length).toBeGreaterThan(4);
    expect(most).toBeLessThanOrEqual(3 * viewport.budget);
    expect(viewport.masks.size * one).toBeLessThanOrEqual(2 * viewport.budget);
    expect(differences(viewport, document)).toBe(0);
    // The slider of the uppermost needs none of those below.
    const next = edit(
      document,
      onLayer('m29', ({ what }) => void Object.assign(what.settings, { hue: 5 })),
    ).document;
    expect(planUpdate(viewport, next, 'm29', next)!.job.layers.length).toBeLessThan(12);
  });

  it('draw anew what shows a picture that has come in, and nothing else', () => {
    const looksBelow = layer('l');
    looksBelow.where.parts = [{ ...maskPartKind<LikenessPart>('likeness').create('lp', 'add', full), result: true }];
    const document: UmboDocument = { ...emptyDocument(full), layers: [layer('m'), colours('o', 'frame'), layer('n'), looksBelow] };
    const viewport = openFrame(1, document);
    const bring = (): void => {
      const update = planUpdate(viewport, document, 'n', document);
      for (const job of update ? jobsOf(update) : []) run(viewport, document, job, 32, document);
      if (update) noteUpdate(viewport, document, update.job, document);
    };
    bring();
    const { values } = viewport.masks.get('n')!;
    expect(forgetPictured(viewport, { kind: 'photograph', sha256: 'd'.repeat(64) })).toBe(false);
    expect([viewport.masks.has('l'), viewport.owns.has('o'), planUpdate(viewport, document, 'n', document)]).toEqual([true, true, null]);
    expect(forgetPictured(viewport, { kind: 'photograph', sha256: 'c'.repeat(64) })).toBe(true);
    expect([viewport.masks.has('l'), viewport.owns.has('o')]).toEqual([false, false]);
    viewport.rgba.fill(0);
    bring();
    expect(viewport.masks.get('n')!.values).toBe(values);
    expect(differences(viewport, document)).toBe(0);
  });

  it('render nothing for a new name, and little for a stroke', () => {
    let document: UmboDocument = { ...emptyDocument(full), layers: ['a', 'b'].map(layer) };
    const viewport = openFrame(1, document);
    const step = (recipe: Recipe) => {
      document = edit(document, recipe).document;
      const update = planUpdate(viewport, document, 'b', document);
      if (update) {
        for (const job of jobsOf(update)) run(viewport, document, job, 32);
        noteUpdate(viewport, document, update.job, document);
      }
      return update;
    };
    expect(step(() => undefined)).not.toBeNull();
    expect(step(onLayer('a', (draft) => void (draft.name = 'other')))).toBeNull();
    const paint = (points: number[]): Recipe =>
      onLayer('b', ({ where }) => {
        where.parts = [
          where.parts[0]!,
          {
            ...brushKind.create('p', 'common', full),
            start: 'full',
            strokes: [{ id: 's', size: 12, hardness: 1, flow: 1, opacity: 1, erase: true, points }],
          },
        ];
      });
    step(paint([60, 60, 1]));
    step(paint([60, 60, 1, 62, 60, 1]));
    const { changed } = step(paint([60, 60, 1, 62, 60, 1, 70, 64, 1]))!;
    expect(changed.width * changed.height).toBeLessThan(900);
    // The slider of the upper layer does not touch the lower one: the picture below it is kept after the first step.
    step(onLayer('b', ({ what }) => void Object.assign(what.settings, { hue: 41 })));
    expect(step(onLayer('b', ({ what }) => void Object.assign(what.settings, { hue: 42 })))!.job.from).toBe(1);
  });
});

describe('views', () => {
  const view = fc.record({
    zoom: fc.double({ min: 0.05, max: 8, noNaN: true }),
    x: fc.integer({ min: -900, max: 200 }),
    y: fc.integer({ min: -900, max: 200 }),
  });
  const stage = { width: 640, height: 480 };

  it('a frame made for a view serves it, covers what is seen, and lies where the photograph does', () => {
    fc.assert(
      fc.property(view, (v) => {
        const picture = pictureSize(full, v.zoom);
        const visible = visibleArea(picture, full, v, stage);
        fc.pre(visible.width > 0 && visible.height > 0);
        const viewport = createViewport({ picture, full }, visible, 10, 30);
        expect(serves(viewport, picture, visible, 10, 30)).toBe(true);
        expect(serves(viewport, { width: picture.width + 1, height: picture.height }, visible, 10, 30)).toBe(false);
        const place = placement(viewport, v, full);
        // The photograph's far corner is where the view says, within a pixel for the rounding to whole ones.
        expect(Math.abs(place.x + picture.width * place.perPixel - (v.x + full.width * v.zoom))).toBeLessThan(1.1);
        if (place.exact) expect([place.x, place.y, place.perPixel]).toEqual([Math.round(v.x), Math.round(v.y), 1]);
      }),
    );
  });
});
