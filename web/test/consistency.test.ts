/** How alike one thing is on many photographs: means and distances against simple-statistics and the published pairs of CIEDE2000. */
import Papa from 'papaparse';
import { mean } from 'simple-statistics';
import { describe, expect, it } from 'vitest';
import type { ColourFacts } from '@umbo/data';
import { asCsv, compare, subjectsOf } from '../src/shoots/consistency/compare';

type Three = readonly [number, number, number];
const labOf = ([l, a, b]: Three) => ({ l, a, b });
const spread = { lightness: 1, chroma: 2, hue: 3 };
const region = (name: string, role: string | null, lab: Three) =>
  ({ name, role, lab: labOf(lab), spread }) as ColourFacts['regions'][number];
const photograph = (photographId: number, regions: ColourFacts['regions'], readings: readonly [string, Three][] = []): ColourFacts => ({
  photographId,
  name: `p${photographId}.jpg`,
  revision: 1,
  isCurrent: true,
  regions,
  readings: readings.map(([name, lab]) => ({ letter: 'A', name, lab: labOf(lab), off: null, passes: null })),
});

describe('colours of many photographs', () => {
  const facts = [
    photograph(1, [region('Face skin A', 'faceSkin', [60, 20, 20]), region('Wall', null, [50, 0, 0])], [['Cheek', [61, 20, 20]]]),
    photograph(2, [region('Face', 'faceSkin', [64, 22, 21]), region('Other', 'faceSkin', [10, 0, 0])], [['Cheek', [60, 20, 20]]]),
    photograph(3, [region('Face', 'faceSkin', [50, 5, 30])], [['Alone', [0, 0, 0]]]),
  ];

  it('are compared by role, by name, or by reading, where at least two have it; what is on most comes first', () => {
    expect(subjectsOf(facts).map(({ key, count }) => [key, count])).toEqual([
      ['role faceSkin', 3],
      ['reading Cheek', 2],
    ]);
    expect(compare(facts, 'region Wall', null)!.rows).toHaveLength(1);
    expect(compare(facts, 'region None', null)).toBeNull();
  });

  it('lie about their middle, the farthest first; or about one of them', () => {
    const found = compare(facts, 'role faceSkin', null)!;
    expect(found.middle.l).toBeCloseTo(mean([60, 64, 50]), 9);
    expect(found.middle.a).toBeCloseTo(mean([20, 22, 5]), 9);
    expect(found.rows.map(({ photographId }) => photographId)).toEqual([3, 2, 1]);
    expect([found.mean, found.farthest]).toEqual([mean(found.rows.map(({ off }) => off)), found.rows[0]!.off]);
    const about = compare(facts, 'role faceSkin', 1)!;
    expect([about.middle, about.rows.at(-1)!.off]).toEqual([{ l: 60, a: 20, b: 20 }, 0]);
  });

  // Sharma, Wu, Dalal (2005), table 1, pairs 1, 7 and 25.
  it.each([
    [[50, 2.6772, -79.7751], [50, 0, -82.7485], 2.0425],
    [[50, 0, 0], [50, -1, 2], 2.3669],
    [[60.2574, -34.0099, 36.2677], [60.4626, -34.1751, 39.4387], 1.2644],
  ] as const)('%j and %j are as far apart as is published', (one, other, wanted) => {
    const pair = [photograph(1, [region('X', null, one)]), photograph(2, [region('X', null, other)])];
    expect(compare(pair, 'region X', 1)!.farthest).toBeCloseTo(wanted, 4);
  });

  it('leave as CSV, with what is within the tolerance', () => {
    const { data } = Papa.parse<Record<string, string>>(asCsv(compare(facts, 'role faceSkin', 1)!, 5), { header: true });
    expect(data.map(({ photograph: name, within }) => [name, within])).toEqual([
      ['p3.jpg', 'no'],
      ['p2.jpg', 'yes'],
      ['p1.jpg', 'yes'],
    ]);
    expect(data[0]).toMatchObject({ L: '50', a: '5', b: '30', 'spread of h': '3' });
  });
});
