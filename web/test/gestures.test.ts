/** What a pointer does on the stage, and at what several photographs are looked at. */
import { findLayer } from '@umbo/core/document';
import type { BrushPart } from '@umbo/core/mask';
import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { brushGesture, panGesture, sampleGesture, strokeGesture, type Ground, type PointerAt } from '../src/bench/stage/gestures';
import { movedPoint, withoutPoint } from '../src/bench/what/curves/curvePoints';
import { cellOf } from '../src/shoots/lineUp/place';
import { panned, zoomed } from '../src/shoots/lineUp/useLineUpView';
import { open, type World } from './world';

beforeAll(() => void Object.assign(globalThis, { devicePixelRatio: 2 }));

const at = (clientX: number, clientY: number, more: Partial<PointerAt> = {}): PointerAt => ({
  ...{ clientX, clientY, pointerType: 'mouse', pressure: 0.5 },
  ...more,
});
function ground(): Ground & World & { sampled: unknown[]; seeds: unknown[] } {
  const world = open();
  const [sampled, seeds]: [unknown[], unknown[]] = [[], []];
  return {
    ...world,
    ...{ sampled, seeds },
    photoPoint: ({ clientX, clientY }) => [clientX * 2, clientY * 2],
    showSampled: (area) => void sampled.push(area),
    showSeed: (stroke) => void seeds.push(stroke),
  };
}
const strokesOf = (world: World): BrushPart['strokes'] => (findLayer(world.now().committed, 'a')!.where.parts[0] as BrushPart).strokes;

describe('a gesture', () => {
  it('moves the picture by device pixels, from where it was', () => {
    const on = ground();
    on.now().resize(800, 600);
    on.now().setView({ x: 10, y: 20, zoom: 3 });
    const { x, y } = on.now().view;
    const gesture = panGesture(on, at(100, 100));
    gesture.move([at(103, 96)]);
    gesture.move([at(105, 90)]);
    expect(on.now().view).toMatchObject({ x: x + 10, y: y - 20, zoom: 3 });
  });

  it('makes the brush larger to the right, harder upwards, within bounds; its ring stays', () => {
    const on = ground();
    const { size, hardness } = on.now().brush;
    const gesture = brushGesture(on, at(0, 0));
    expect(gesture.holdsRing).toBe(true);
    gesture.move([at(150, 0)]);
    expect(on.now().brush.size).toBeCloseTo(size * Math.E, 0);
    gesture.move([at(0, -20)]);
    expect(on.now().brush.hardness).toBeCloseTo(Math.min(1, hardness + 0.1), 6);
    gesture.move([at(9000, 9000)]);
    expect(on.now().brush).toMatchObject({ size: 1000, hardness: 0 });
  });

  it('paints one stroke in one step: what lies too near adds nothing, a pen presses, and breaking it off leaves nothing', () => {
    const on = ground();
    on.now().set({ tool: 'paint' });
    on.now().select('a');
    const gesture = strokeGesture(on, at(10, 10))!;
    gesture.move([at(10.3, 10), at(12, 10), at(14, 11, { pointerType: 'pen', pressure: 0.256 })]);
    expect(on.pushed).toHaveLength(0);
    expect(on.shown()).toEqual(on.now().document);
    gesture.end(at(14, 11));
    expect(on.pushed).toHaveLength(1);
    expect(strokesOf(on)[0]!.points).toEqual([20, 20, 1, 24, 20, 1, 28, 22, 0.26]);
    const before = on.now().committed;
    const second = strokeGesture(on, at(50, 50))!;
    second.move([at(60, 60)]);
    second.cancel();
    expect(on.now().document).toBe(before);
    on.now().select(null);
    expect(strokeGesture(on, at(0, 0))).toBeNull();
  });

  it('takes the mean of the square around a place, and shows it while the pointer is down', () => {
    const on = ground();
    on.now().set({ sampleSize: '5' });
    const gesture = sampleGesture(on, at(10, 10));
    expect(on.sampled).toEqual([{ x: 18, y: 18, width: 5, height: 5 }]);
    gesture.move([at(20, 10)]);
    gesture.end(at(20, 10));
    expect(on.sampled.at(-1)).toBeNull();
    expect(on.asked.map(({ ask }) => ask)).toMatchObject([{ kind: 'sample', area: { width: 5, height: 5 } }]);
  });
});

it('points of a curve stay in order, apart, and within the field, wherever they are dragged', () => {
  const share = fc.double({ min: 0, max: 1, noNaN: true });
  const wild = fc.double({ min: -3, max: 4, noNaN: true });
  const curve = fc
    .uniqueArray(fc.integer({ min: 0, max: 20 }), { minLength: 2, maxLength: 8 })
    .chain((xs) => fc.tuple(...xs.toSorted((a, b) => a - b).map((x) => fc.tuple(fc.constant(x / 20), share))));
  fc.assert(
    fc.property(curve, fc.nat(), wild, wild, (points, n, x, y) => {
      const index = n % points.length;
      const next = movedPoint(points, index, x, y);
      for (const [i, [u, v]] of next.entries()) {
        if (i > 0) expect(u).toBeGreaterThan(next[i - 1]![0]);
        expect(u >= 0 && u <= 1 && v >= 0 && v <= 1).toBe(true);
        if (i !== index) expect(next[i]).toEqual(points[i]);
      }
      expect(withoutPoint(points, index)).toHaveLength(Math.max(2, points.length - 1));
    }),
  );
});

it('what lies under the pointer stays there when photographs beside each other are zoomed', () => {
  const photographs = [
    { id: 1, width: 3000, height: 2000 },
    { id: 2, width: 1200, height: 1600 },
  ];
  const room = { width: 600, height: 500 };
  const factor = fc.double({ min: 1.1, max: 6, noNaN: true });
  fc.assert(
    fc.property(factor, factor, fc.nat(599), fc.nat(499), fc.constantFrom(1, 2), (first, then, x, y, id) => {
      const cellsAt = (view: Parameters<typeof zoomed>[0]) => photographs.map((one) => cellOf(one, room, view, new Map()));
      const before = zoomed({ zoom: 1, x: 0, y: 0 }, first, photographs, cellsAt({ zoom: 1, x: 0, y: 0 }), undefined);
      const cells = cellsAt(before);
      const after = zoomed(before, then, photographs, cells, { id, x, y });
      const cell = cells.find((one) => one.id === id)!;
      const now = cellsAt(after).find((one) => one.id === id)!;
      const photograph = photographs.find((one) => one.id === id)!;
      for (const [side, pointed, start] of [
        ['width', x, 'x'],
        ['height', y, 'y'],
      ] as const) {
        // What is smaller than its cell stands in the middle; cells begin on whole pixels of the screen.
        if (photograph[side] * cell.scale <= room[side]) continue;
        const [from, to] = [cell, now].map(({ area, scale }) => (area[start] + pointed) / scale) as [number, number];
        expect(Math.abs(from - to)).toBeLessThan(1.5 / cell.scale);
      }
      expect(panned(after, 0, 0, photographs, cells)).toEqual({
        ...after,
        x: Math.min(0.5, Math.max(-0.5, after.x)),
        y: Math.min(0.5, Math.max(-0.5, after.y)),
      });
    }),
  );
});
