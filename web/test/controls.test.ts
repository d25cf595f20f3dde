import { wrapHue } from '@umbo/core/colour';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { moveHueHandle, type HueHandle, type Range } from '../src/bench/ranges/hueHandles';
import { fit, zoomAbout } from '../src/bench/state/view';
import { fileName } from '../src/handOver/options';
import { hostIsKnown, isSameOrigin } from '../src/http/origin';
import { parseNumber } from '../src/ui/parseNumber';

describe('typed numbers', () => {
  it('are numbers with or without units, and simple sums', () => {
    for (const [text, value] of [
      ['12', 12],
      ['-3.5', -3.5],
      ['−40', -40],
      ['+23°', 23],
      ['15 px', 15],
      ['50 %', 50],
      ['1,5', 1.5],
      ['12 + 3', 15],
      ['100/3*3', 100],
      ['10 - 4 - 3', 3],
      ['2 + 3 * 4', 14],
      ['-10 - -5', -5],
    ] as const)
      expect(parseNumber(text), text).toBeCloseTo(value, 9);
  });
  it('and nothing else', () => {
    for (const text of ['', 'red', '1 2', '5/0', '3 +', '*4', '1e9x', '--', 'alert(1)']) expect(parseNumber(text), text).toBeNull();
  });
});

describe('handles of a hue range', () => {
  const range: fc.Arbitrary<Range> = fc
    .tuple(
      fc.integer({ min: 0, max: 359 }),
      fc.integer({ min: 0, max: 100 }),
      fc.integer({ min: 0, max: 100 }),
      fc.integer({ min: 0, max: 100 }),
    )
    .map(([from, fadeIn, span, fadeOut]) => ({ from, fadeIn, span, fadeOut }));
  const handle = fc.constantFrom<HueHandle>('outer start', 'inner start', 'inner end', 'outer end');
  const stops = ({ from, fadeIn, span, fadeOut }: Range): number[] => [
    from,
    from + fadeIn,
    from + fadeIn + span,
    from + fadeIn + span + fadeOut,
  ];
  const order: HueHandle[] = ['outer start', 'inner start', 'inner end', 'outer end'];

  it('never pass each other, never go round more than once, and move nothing else', () => {
    fc.assert(
      fc.property(range, handle, fc.integer({ min: 0, max: 359 }), (before, which, hue) => {
        const after = moveHueHandle(before, which, hue);
        expect(Math.min(after.fadeIn, after.span, after.fadeOut)).toBeGreaterThanOrEqual(0);
        expect(after.fadeIn + after.span + after.fadeOut).toBeLessThanOrEqual(360);
        expect(after.from).toBeGreaterThanOrEqual(0);
        expect(after.from).toBeLessThan(360);
        for (const [i, name] of order.entries())
          if (name !== which) expect(wrapHue(stops(after)[i]! - stops(before)[i]! + 180)).toBeCloseTo(180, 9);
      }),
    );
  });

  it('go to the hue they are dragged to when nothing is in the way', () => {
    const wide = { from: 100, fadeIn: 40, span: 100, fadeOut: 40 };
    expect(stops(moveHueHandle(wide, 'outer start', 80))[0]).toBe(80);
    expect(stops(moveHueHandle(wide, 'inner start', 120))[1]).toBe(120);
    expect(stops(moveHueHandle(wide, 'inner end', 220))[2]).toBe(220);
    expect(stops(moveHueHandle(wide, 'outer end', 300))[3]).toBe(300);
    expect(moveHueHandle({ ...wide, from: 350 }, 'outer start', 340).from).toBe(340);
    expect(stops(moveHueHandle(wide, 'inner start', 270))[1]).toBe(240);
  });
});

describe('views', () => {
  it('fit shows everything, no larger than 100 %', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 9000 }), fc.integer({ min: 1, max: 9000 }), (width, height) => {
        const stage = { width: 700, height: 640 };
        const { x, y, zoom } = fit({ width, height }, stage);
        expect(zoom).toBeLessThanOrEqual(1);
        if (zoom === 0.01) return; // a strip longer than any stage
        expect(Math.min(x, y)).toBeGreaterThanOrEqual(-1);
        expect(x + width * zoom).toBeLessThanOrEqual(stage.width + 1);
        expect(y + height * zoom).toBeLessThanOrEqual(stage.height + 1);
      }),
    );
  });
  it('zooming keeps the point under the pointer where it is', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 4, noNaN: true }),
        fc.integer({ min: 0, max: 700 }),
        fc.integer({ min: 0, max: 600 }),
        (zoom, px, py) => {
          const before = { x: 33, y: -71, zoom: 0.7 };
          const after = zoomAbout(before, zoom, px, py);
          expect((px - after.x) / after.zoom).toBeCloseTo((px - before.x) / before.zoom, 6);
          expect((py - after.y) / after.zoom).toBeCloseTo((py - before.y) / before.zoom, 6);
        },
      ),
    );
    expect(zoomAbout({ x: 0, y: 0, zoom: 1 }, 1e9, 0, 0).zoom).toBe(32);
  });
});

describe('the doors', () => {
  it('know their own names only', () => {
    for (const host of ['127.0.0.1:4180', 'localhost:4180', '[::1]:4180', 'localhost'])
      expect(hostIsKnown(new Headers({ host })), host).toBe(true);
    for (const host of ['', 'umbo.example', '127.0.0.1.example:4180', '10.0.0.1:4180'])
      expect(hostIsKnown(new Headers({ host })), host).toBe(false);
  });
  it('take writes from their own pages only', () => {
    const ask = (origin?: string): boolean =>
      isSameOrigin(new Headers({ host: 'localhost:4180', ...(origin === undefined ? {} : { origin }) }));
    expect(ask('http://localhost:4180')).toBe(true);
    for (const origin of [undefined, 'null', '', 'http://localhost:9999', 'http://evil.example', 'nonsense'])
      expect(ask(origin), origin).toBe(false);
  });
});

it('file names keep the photograph’s and get the format’s ending', () => {
  expect(fileName('mixed-light.png', 'jpeg')).toBe('mixed-light.jpg');
  expect(fileName('two.dots.tif', 'png')).toBe('two.dots.png');
  expect(fileName('no ending', 'tiff')).toBe('no ending.tif');
});
