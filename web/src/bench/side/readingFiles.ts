/** Readings as text, and colours from lists: CSV and CGATS.17. */
import { cleanName, shorten } from '@umbo/core/base';
import { spaces, type Lab } from '@umbo/core/colour';
import type { Reading } from '@umbo/core/document';
import { readCgats, writeCgats, type NamedLab } from '@umbo/core/format';
import Papa from 'papaparse';
import type { BenchState } from '../state/benchState';
import { colourOf, labOf, readingsOf, targetOf } from '../state/readings';
import { notationOf } from './notations';

/** Lines of letter, name, and numbers before and after in the chosen notation, with tabs between. */
export function asText(state: BenchState, readings: readonly Reading[]): string {
  const { write } = notationOf(state.notation);
  const space = spaces[state.committed.workingSpace];
  return readings
    .map(({ id, letter, name }) => {
      const numbers = (['before', 'after'] as const).map((side) => {
        const colour = colourOf(state, id, side);
        return colour ? write(space, colour).trim().replaceAll(/ +/g, ' ').replaceAll('−', '-') : '';
      });
      return [letter, name, ...numbers].join('\t');
    })
    .join('\n');
}

const digits = (v: number): number => Number(v.toFixed(3));

/** Into the clipboard, as {@link asText} has them; says what became of that. */
export function copyNumbers(state: BenchState, readings: readonly Reading[]): void {
  navigator.clipboard.writeText(asText(state, readings)).then(
    () => state.set({ notice: 'The numbers are copied.' }),
    () => state.set({ notice: 'The numbers were not copied: the browser does not let this page use the clipboard.' }),
  );
}

/** CIELAB D50 before, after and of the target. */
export function asCsv(state: BenchState): string {
  const three = (prefix: string, lab: Lab | null) => ({
    [`${prefix} L`]: lab && digits(lab.l),
    [`${prefix} a`]: lab && digits(lab.a),
    [`${prefix} b`]: lab && digits(lab.b),
  });
  return Papa.unparse(
    readingsOf(state).map((reading) => {
      const of = (side: 'before' | 'after'): Lab | null => labOf(state, reading.id, side);
      return {
        letter: reading.letter,
        name: reading.name,
        ...three('before', of('before')),
        ...three('after', of('after')),
        ...three('target', targetOf(state, reading)),
      };
    }),
    // A cell that begins like a formula must not act as one when a spreadsheet opens the file; numbers below nothing stay numbers.
    { escapeFormulae: /^(?!-?\d+(?:\.\d+)?$)[=+\-@\t\r]/ },
  );
}

/** What the readings are after all layers. */
export function asCgats(state: BenchState): string {
  const colours = readingsOf(state).flatMap(({ id, name }) => {
    const lab = labOf(state, id, 'after');
    return lab ? [{ name, lab }] : [];
  });
  return writeCgats(colours, 'Umbo', new Date().toISOString());
}

const COLOURS = 1000;
const COLUMNS = [
  ['l', 'a', 'b'],
  ['lab_l', 'lab_a', 'lab_b'],
  ['after l', 'after a', 'after b'],
] as const;

/** Reads a list of colours of either kind. @throws Error with a sentence about the first thing that is wrong */
export function readColours(text: string): NamedLab[] {
  const colours = text.includes('BEGIN_DATA_FORMAT') ? readCgats(text) : fromCsv(text);
  if (colours.length === 0) throw new Error('There is no colour in it.');
  if (colours.length > COLOURS) throw new Error(`It has more than ${COLOURS} colours.`);
  return colours.map(({ name, lab }) => ({ name: shorten(cleanName(name), 120) || 'Colour', lab }));
}

function fromCsv(text: string): NamedLab[] {
  const { data, meta } = Papa.parse<Record<string, string>>(text, {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (header) => header.trim().toLowerCase(),
  });
  const columns = COLUMNS.find((three) => three.every((column) => meta.fields?.includes(column)));
  if (!columns) throw new Error('Its first line must name the columns L, a and b.');
  return data.map((row, i) => {
    const [l, a, b] = columns.map((column) => (row[column]?.trim() ? Number(row[column]) : NaN)) as [number, number, number];
    if (![l, a, b].every(Number.isFinite) || l < 0 || l > 100 || Math.max(Math.abs(a), Math.abs(b)) > 300)
      throw new Error(`Line ${i + 2} has no colour.`);
    return { name: row.name?.replace(/^'(?=[=+\-@])/, '') || `Line ${i + 2}`, lab: { l, a, b } };
  });
}
