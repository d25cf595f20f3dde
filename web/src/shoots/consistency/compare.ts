/** What is alike on several photographs, and how far each of them is from the others. */
import { difference2000, type Lab } from '@umbo/core/colour';
import { roleName, type Role } from '@umbo/core/document';
import type { Spreads } from '@umbo/core/measure';
import type { ColourFacts } from '@umbo/data';
import Papa from 'papaparse';

/** Something that photographs have in common: a role, a region's name, or a reading's. */
export interface Subject {
  readonly key: string;
  readonly words: string;
  /** What of the photographs it is; null: a reading. */
  readonly region: { readonly name: string; readonly role: Role | null } | null;
  /** On how many photographs it is. */
  readonly count: number;
}

interface Seen extends Omit<Subject, 'count'> {
  readonly lab: Lab;
  /** Null: of a single place. */
  readonly spread: Spreads | null;
}

/** A photograph has each of its subjects once: of several regions with one role, the first. */
function seenOn({ regions, readings }: ColourFacts): Map<string, Seen> {
  const seen = new Map<string, Seen>();
  const add = (one: Seen): void => void (seen.has(one.key) || seen.set(one.key, one));
  for (const { role, name, lab, spread } of regions)
    add(
      role
        ? { key: `role ${role}`, words: roleName(role), region: { name: roleName(role), role }, lab, spread }
        : { key: `region ${name}`, words: name, region: { name, role }, lab, spread },
    );
  for (const { name, lab } of readings) add({ key: `reading ${name}`, words: `${name} (reading)`, region: null, lab, spread: null });
  return seen;
}

/** What can be compared: what is on at least two photographs, that which is on most of them first. */
export function subjectsOf(facts: readonly ColourFacts[]): Subject[] {
  const found = new Map<string, Omit<Subject, 'key'>>();
  for (const one of facts)
    for (const { key, words, region } of seenOn(one).values()) found.set(key, { words, region, count: (found.get(key)?.count ?? 0) + 1 });
  return Array.from(found, ([key, one]) => ({ key, ...one }))
    .filter(({ count }) => count > 1)
    .toSorted((a, b) => b.count - a.count);
}

export interface Compared {
  readonly photographId: number;
  readonly name: string;
  readonly revision: number;
  readonly lab: Lab;
  readonly spread: Spreads | null;
  /** CIEDE2000 from what all are compared with. */
  readonly off: number;
}

export interface Comparison {
  /** What all are compared with, in CIELAB D50. */
  readonly middle: Lab;
  /** The farthest first. */
  readonly rows: readonly Compared[];
  /** Of the distances. */
  readonly mean: number;
  readonly farthest: number;
}

/**
 * @param to the photograph whose colour all are compared with; null: the middle of all
 * @returns null where nothing is to be compared
 */
export function compare(facts: readonly ColourFacts[], subject: string, to: number | null): Comparison | null {
  const seen = facts.flatMap((one) => {
    const own = seenOn(one).get(subject);
    return own ? [{ ...one, lab: own.lab, spread: own.spread }] : [];
  });
  if (seen.length === 0) return null;
  const meanOf = (axis: keyof Lab): number => seen.reduce((sum, { lab }) => sum + lab[axis], 0) / seen.length;
  const middle = seen.find(({ photographId }) => photographId === to)?.lab ?? { l: meanOf('l'), a: meanOf('a'), b: meanOf('b') };
  const rows = seen
    .map(({ photographId, name, revision, lab, spread }) => ({
      photographId,
      name,
      revision,
      lab,
      spread,
      off: difference2000(middle, lab).total,
    }))
    .toSorted((a, b) => b.off - a.off || a.name.localeCompare(b.name));
  return { middle, rows, mean: rows.reduce((sum, { off }) => sum + off, 0) / rows.length, farthest: rows[0]!.off };
}

const digits = (v: number): number => Number(v.toFixed(3));

/** One line for each photograph. */
export const asCsv = ({ rows }: Comparison, tolerance: number): string =>
  Papa.unparse(
    rows.map(({ name, lab, spread, off }) => ({
      photograph: name,
      L: digits(lab.l),
      a: digits(lab.a),
      b: digits(lab.b),
      'spread of L': spread && digits(spread.lightness),
      'spread of C': spread && digits(spread.chroma),
      'spread of h': spread && digits(spread.hue),
      DE00: digits(off),
      within: off <= tolerance ? 'yes' : 'no',
    })),
  );
