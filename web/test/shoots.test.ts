/** The contact sheet and the line-up: what is shown where. */
import type { PhotographSummary } from '@umbo/data';
import { clashesIn, fillPattern } from '@umbo/core/format';
import fc from 'fast-check';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { arranged, cameraWords, SORTS } from '../src/shoots/sheet/arrange';
import { cellOf, FITTED, gridFor } from '../src/shoots/lineUp/place';
import { keepChosen, keptChosen, walkFrom } from '../src/ui/chosen';

const photograph = (id: number, more: Partial<PhotographSummary> = {}): PhotographSummary => ({
  id,
  sha256: String(id),
  name: `p${id}.jpg`,
  width: 600,
  height: 400,
  bits: 8,
  state: 'untouched',
  revision: 1,
  takenAt: null,
  shotWith: {},
  light: null,
  ...more,
});
const ids = (list: readonly PhotographSummary[]): number[] => list.map(({ id }) => id);

describe('the sheet', () => {
  const all = [
    photograph(1, { name: 'Vase 10.jpg', state: 'done', light: 60, takenAt: '2026-03-02T10:00:00' }),
    photograph(2, { name: 'vase 9.jpg', light: 20, shotWith: { camera: 'Kiln 4', lens: 'Normal 50' } }),
    photograph(3, { name: 'Vase 10.jpg', state: 'in work', takenAt: '2026-03-01T10:00:00' }),
  ];
  const by = (sort: (typeof SORTS)[number][0]): number[] => ids(arranged(all, { filter: 'all', search: '', sort }));

  it('is sorted by what is known, what is not known last, and numbers in names as numbers', () => {
    expect([by('added'), by('name'), by('taken'), by('state'), by('light')]).toEqual([[1, 2, 3], [2, 1, 3], [3, 1, 2], [2, 3, 1], [2, 1, 3]]); // prettier-ignore
    expect(ids(arranged(all, { filter: 'in work', search: '', sort: 'name' }))).toEqual([3]);
    expect(ids(arranged(all, { filter: 'all', search: ' kiln NORMAL', sort: 'name' }))).toEqual([2]);
    expect(arranged(all, { filter: 'all', search: 'kiln vase 10', sort: 'name' })).toEqual([]);
  });

  it('says what a photograph was taken with', () => {
    const facts = { camera: 'Kiln 4', exposure: 0.008, aperture: 2.8, iso: 400, focal: 84.6 };
    expect(cameraWords(photograph(1, { takenAt: '2026-03-14T15:09:26', shotWith: facts }))).toBe(
      '14 Mar 2026, 15:09 · Kiln 4 · 1/125 s · f/2.8 · ISO 400 · 85 mm',
    );
    expect(cameraWords(photograph(1, { shotWith: { exposure: 2 } }))).toBe('2 s');
    expect(cameraWords(photograph(1))).toBe('');
  });
});

describe('what is chosen', () => {
  beforeEach(() => {
    const kept = new Map<string, string>();
    vi.stubGlobal('sessionStorage', { getItem: (key: string) => kept.get(key) ?? null, setItem: (key: string, text: string) => void kept.set(key, text) }); // prettier-ignore
  });
  it('is walked through in the order of the sheet, when one is among several; else everything is', () => {
    keepChosen(1, { order: [5, 3, 9, 4], chosen: [4, 3] });
    expect([walkFrom(1, 3), walkFrom(1, 9), walkFrom(2, 9)]).toEqual([[3, 4], [5, 3, 9, 4], []]); // prettier-ignore
    sessionStorage.setItem('umbo-chosen-1', '{"order":["x"],"chosen":7}');
    expect(keptChosen(1)).toEqual({ order: [], chosen: [] });
    sessionStorage.setItem('umbo-chosen-1', '{');
    expect(keptChosen(1)).toEqual({ order: [], chosen: [] });
  });
});

describe('the line-up', () => {
  it('has cells in which pictures are as large as they can be', () => {
    const size = { width: 1200, height: 700 };
    for (let count = 2; count <= 12; count++) {
      const { columns, rows } = gridFor(count, size, 1.5);
      expect(columns * rows).toBeGreaterThanOrEqual(count);
      const sideOf = (c: number): number => Math.min(size.width / c, (size.height / Math.ceil(count / c)) * 1.5);
      for (let c = 1; c <= count; c++) expect(sideOf(columns)).toBeGreaterThanOrEqual(sideOf(c));
    }
  });

  it('shows the same place of all, never beyond their ends, and anchors in the same place and size', () => {
    const cell = { width: 300, height: 200 };
    const share = fc.double({ min: -0.5, max: 0.5, noNaN: true });
    fc.assert(
      fc.property(
        fc.integer({ min: 300, max: 6000 }),
        fc.integer({ min: 300, max: 6000 }),
        fc.double({ min: 1, max: 20, noNaN: true }),
        share,
        share,
        (width, height, zoom, x, y) => {
          const { scale, area } = cellOf({ id: 1, width, height }, cell, { zoom, x, y }, new Map());
          for (const [from, seen, whole] of [
            [area.x, cell.width, width * scale],
            [area.y, cell.height, height * scale],
          ] as const) {
            if (whole <= seen) expect(Math.abs(from - (whole - seen) / 2)).toBeLessThan(1);
            else expect(from >= 0 && from + seen <= whole + 1).toBe(true);
          }
        },
      ),
    );
    const anchors = new Map([[1, { x: 0.4, y: 0.4, size: 0.2 }], [2, { x: 0.6, y: 0.5, size: 0.4 }]]); // prettier-ignore
    const places = [1, 2].map((id) => {
      const { scale, area } = cellOf({ id, width: 3000, height: 3000 }, cell, { ...FITTED, zoom: 4 }, anchors);
      const { x, y, size } = anchors.get(id)!;
      return [x * 3000 * scale - area.x, y * 3000 * scale - area.y, size * 3000 * scale];
    });
    for (const [i, v] of places[0]!.entries()) expect(Math.abs(v - places[1]![i]!)).toBeLessThanOrEqual(1);
  });
});

it('names of files follow a pattern, whatever is in the fields, and clashes are found as file systems find them', () => {
  const by = { name: 'stool', number: '03', version: '', colourway: '', shoot: 'A/B', date: '2026-05-04' };
  expect(fillPattern('{name} - {version} - {colourway}', by)).toBe('stool');
  expect(fillPattern('{shoot}_{number} {unknown}', by)).toBe('A B_03 {unknown}');
  expect(fillPattern('{version}', by)).toBe('picture');
  expect(fillPattern('..{name}', by)).toBe('stool');
  expect(clashesIn(['a.jpg', 'A.JPG', 'b.jpg'])).toEqual(['a.jpg', 'A.JPG']);
  fc.assert(
    fc.property(fc.string(), fc.string({ unit: 'grapheme' }), (pattern, name) => {
      const made = fillPattern(pattern, { ...by, name });
      expect(made.length > 0 && made.length <= 200 && !/[/\\\u0000-\u001f]/u.test(made)).toBe(true);
    }),
  );
});
