/** Names of many files, from a pattern with fields. */
import { cleanName, shorten } from '../base/names.ts';

/** What a pattern can name, with what that is. */
export const NAME_FIELDS = [
  ['name', 'Name of the photograph'],
  ['number', 'Number in the order of the sheet'],
  ['version', 'Version'],
  ['colourway', 'Colourway'],
  ['shoot', 'Shoot'],
  ['date', 'Date of today'],
] as const;
export type NameField = (typeof NAME_FIELDS)[number][0];
export type NamedBy = Readonly<Record<NameField, string>>;

export const PLAIN_PATTERN = '{name} - {version} - {colourway}';

/** Longest name, without its ending. */
const LONGEST = 200;
/** What holds fields together, and is left over where one of them is empty. */
const LOOSE = /^[\s\-_,.]+|[\s\-_,]+$/gu;
const DOUBLE = /(?:\s*[-_,]\s*){2,}/gu;
/** What some systems do not take in names of files, and names that they keep for themselves ("Naming Files, Paths, and Namespaces", Windows). */
const FOREIGN = /[/\\<>:"|?*\s]+/gu;
const RESERVED = /^(?:con|prn|aux|nul|com\d|lpt\d)(?:\.|$)/iu;

/**
 * @returns the name without an ending, which every system can unpack; never empty
 * @example
 * fillPattern('{name} - {version} - {colourway}', { name: 'stool', number: '01', version: '', colourway: 'Ochre', shoot: 'S', date: '2026-05-04' });
 * // → 'stool - Ochre'
 */
export function fillPattern(pattern: string, by: NamedBy): string {
  const filled = pattern.replace(/\{(\w+)\}/gu, (whole, field: string) => (Object.hasOwn(by, field) ? by[field as NameField] : whole));
  const plain = cleanName(filled.replace(FOREIGN, ' ')).replace(DOUBLE, ' - ').replace(LOOSE, '');
  const name = shorten(plain, LONGEST).replace(/[. ]+$/u, '') || 'picture';
  return RESERVED.test(name) ? `${name}_` : name;
}

/** Names that are there more than once, to systems that tell neither capitals nor the ways of writing an accent apart. */
export function clashesIn(names: readonly string[]): string[] {
  const seen = new Map<string, number>();
  const plain = (name: string): string => name.normalize('NFC').toLowerCase();
  for (const name of names) seen.set(plain(name), (seen.get(plain(name)) ?? 0) + 1);
  return [...new Set(names.filter((name) => seen.get(plain(name))! > 1))];
}
