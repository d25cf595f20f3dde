/** What the controls of the crop do to an edit, and where a cut picture lies on the stage. */
import { isEmpty, project, type Size } from '@umbo/core/base';
import {
  edit,
  emptyDocument,
  faultOf,
  mergeDocuments,
  pictureFraming,
  pictureSizeOf,
  type Recipe,
  type UmboDocument,
} from '@umbo/core/document';
import { isWithin, noGeometry, type Geometry } from '@umbo/core/geometry';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cropIn, cropToRatio, draggedCrop, flip, outlineIn, quarterTurn, setCrop, setLine, type Grip } from '@/bench/state/cropping';
import { shownFraming, shownOfPlane } from '@/bench/state/view';
import { createViewport, pictureSize, seenOfPicture, serves, visibleArea } from '../src/workers/inside/viewport';
import { stageMapping } from '../src/workers/stageMapping';

const photo = { width: 300, height: 200 };
const after = (document: UmboDocument, ...recipes: Recipe[]): UmboDocument =>
  recipes.reduce((done, recipe) => edit(done, recipe).document, document);
const cropped = (geometry: Partial<Geometry>): UmboDocument => ({ ...emptyDocument(photo), geometry: { ...noGeometry, ...geometry } });
/** The place of the photograph that is at a share of the picture's sides. */
const seenAt = (document: UmboDocument, x: number, y: number): [number, number] => {
  const { width, height } = pictureSizeOf(document);
  const framing = pictureFraming(document);
  return framing ? project(framing.toPhotograph, x * width, y * height) : [x * width, y * height];
};
const near = (a: readonly number[], b: readonly number[]): void => a.forEach((v, i) => expect(v).toBeCloseTo(b[i]!, 6));

const geometries = fc.record({
  quarters: fc.integer({ min: 0, max: 3 }),
  flipped: fc.boolean(),
  angle: fc.constantFrom(0, 0, 7, -20),
  vertical: fc.constantFrom(0, 25),
});

describe('turning what is seen', () => {
  it('a quarter, or mirroring it, keeps the crop on what it shows', () => {
    fc.assert(
      fc.property(geometries, (geometry) => {
        const before = after(cropped(geometry), setCrop({ x: 60, y: 70, width: 40, height: 30 }));
        const right = after(before, quarterTurn(1));
        const left = after(before, quarterTurn(-1));
        const across = after(before, flip('across'));
        const down = after(before, flip('down'));
        for (const [x, y] of [
          [0.1, 0.2],
          [0.9, 0.4],
        ] as const) {
          // prettier-ignore
          // Clockwise, what was at the top left is at the top right.
          near(seenAt(right, 1 - y, x), seenAt(before, x, y));
          near(seenAt(left, y, 1 - x), seenAt(before, x, y));
          near(seenAt(across, 1 - x, y), seenAt(before, x, y));
          near(seenAt(down, x, 1 - y), seenAt(before, x, y));
        }
        expect(after(right, quarterTurn(1), quarterTurn(1), quarterTurn(1)).geometry).toEqual(before.geometry);
        expect(after(down, flip('down')).geometry).toEqual(before.geometry);
      }),
    );
  });

  it('back to how it was leaves nothing in the edit', () => {
    const turned = after(emptyDocument(photo), quarterTurn(1), flip('across'), setLine({ angle: 3 }));
    expect(after(turned, setLine({ angle: 0 }), flip('across'), quarterTurn(-1)).geometry).toBeUndefined();
    expect(after(emptyDocument(photo), setCrop({ x: 0, y: 0, ...photo })).geometry).toBeUndefined();
  });

  it('further keeps a crop within the photograph that was within, and leaves one alone that was not', () => {
    const inside = after(emptyDocument(photo), setCrop({ x: 0, y: 0, width: 200, height: 200 }), setLine({ angle: 12 }));
    expect(isWithin(outlineIn(inside), cropIn(inside))).toBe(true);
    const beyond = { x: -50, y: 0, width: 400, height: 200 };
    expect(cropIn(after(emptyDocument(photo), setCrop(beyond), setLine({ angle: 12 })))).toEqual(beyond);
  });
});

describe('a drag of the frame', () => {
  const grips = fc.record({ x: fc.constantFrom(-1, 0, 1), y: fc.constantFrom(-1, 0, 1) });
  const by = fc.record({ x: fc.integer({ min: -400, max: 400 }), y: fc.integer({ min: -400, max: 400 }) });

  it('ends within the photograph, with its ratio, and its other sides where they were', () => {
    fc.assert(
      fc.property(geometries, grips, by, fc.boolean(), (geometry, grip, to, kept) => {
        const document = after(cropped(geometry), cropToRatio({ width: 3, height: 2 }));
        const start = cropIn(document);
        const small = { x: start.x + 20, y: start.y + 20, width: 45, height: 30 };
        const outline = outlineIn(document);
        const ratio: Size | null = kept ? { width: 3, height: 2 } : null;
        const made = draggedCrop(small, [grip.x, grip.y] as unknown as Grip, [to.x, to.y], ratio, outline, false);
        const grown = { x: made.x + 1, y: made.y + 1, width: made.width - 2, height: made.height - 2 };
        expect(isWithin(outline, grown)).toBe(true);
        if (grip.x > 0) expect(made.x).toBe(small.x);
        if (grip.y > 0) expect(made.y).toBe(small.y);
        if (grip.x === 0 && grip.y === 0) expect([made.width, made.height]).toEqual([45, 30]);
        if (kept) expect(Math.abs(made.width * 2 - made.height * 3)).toBeLessThanOrEqual(6);
      }),
    );
    // Beyond the photograph only where that is meant.
    expect(draggedCrop({ x: 0, y: 0, ...photo }, [1, 0], [50, 0], null, outlineIn(emptyDocument(photo)), true).width).toBe(350);
  });
});

describe('a cut picture', () => {
  it('lies on the stage so that frames made for a view serve it, and places go there and back', () => {
    const view = fc.record({ zoom: fc.double({ min: 0.1, max: 4, noNaN: true }), x: fc.integer({ min: -300, max: 200 }), y: fc.integer({ min: -300, max: 200 }) }); // prettier-ignore
    const stage = { width: 320, height: 240 };
    fc.assert(
      fc.property(geometries, view, (geometry, at) => {
        const framing = pictureFraming(cropped(geometry));
        const whole = { ...at, framing };
        const scale = { picture: pictureSize(photo, at.zoom), full: photo, framing };
        const visible = visibleArea(scale.picture, photo, whole, stage);
        fc.pre(!isEmpty(seenOfPicture(scale, whole, stage)));
        const frame = createViewport(scale, visible, 10, 30);
        expect(serves(frame, scale.picture, visible, 10, 30)).toBe(true);
        // An edit that goes by its frame needs another where that is another.
        expect(serves(frame, scale.picture, visible, 10, 30, framing ?? null)).toBe(true);
        expect(serves(frame, scale.picture, visible, 10, 30, framing ? null : pictureFraming(cropped({ quarters: 1 }))!)).toBe(false);
        const { toStage, toPhotograph } = stageMapping(whole);
        near(project(toPhotograph, ...project(toStage, 120, 80)), [120, 80]);
      }),
    );
  });

  it('shows all of the photograph, with a crop that reaches beyond it, while that is chosen', () => {
    const document = cropped({ angle: 10, crop: { x: -40, y: 20, width: 100, height: 100 } });
    const state = { document, committed: document, tool: 'crop' as const, surround: 117 };
    const shown = shownOfPlane(state);
    expect(shown.x).toBe(-40);
    for (const [x, y] of outlineIn(document)) {
      expect(x).toBeGreaterThanOrEqual(shown.x - 1e-6);
      expect(y).toBeLessThanOrEqual(shown.y + shown.height + 1e-6);
    }
    expect(shownFraming(state)!.outside).toEqual(document.geometry!.outside);
    // Where there will be no canvas, none is seen.
    const inside = cropped({ angle: 10 });
    expect(shownFraming({ ...state, document: inside, committed: inside })!.outside.colour[0]).toBeCloseTo(117 / 255);
  });

  it('is one thing to merge: two windows that both cut are asked about, one that cuts and one that works are not', () => {
    const base = emptyDocument(photo);
    const mine = after(base, setLine({ angle: 4 }));
    const theirs = after(base, quarterTurn(1));
    const works = after(base, (draft) => void (draft.strength = 0.5));
    expect(mergeDocuments(base, works, mine).conflicts).toEqual([]);
    expect(mergeDocuments(base, theirs, mine).conflicts).toContain('the crop');
  });

  it('has so many pixels at most', () => {
    expect(faultOf(cropped({ crop: { x: 0, y: 0, width: 30_000, height: 30_000 } }))).toContain('400 megapixels');
    expect(faultOf(cropped({ crop: { x: 0, y: 0, width: 20_000, height: 20_000 } }))).toBeNull();
  });
});
