/**
 * Lists of colours as colour-measuring devices write them: CGATS.17 text (ANSI CGATS.17-2009; the same keywords as ISO 28178): a line that
 * names the format, keywords, the fields between BEGIN_DATA_FORMAT and END_DATA_FORMAT, and the values between BEGIN_DATA and END_DATA.
 */
export interface NamedLab {
  readonly name: string;
  /** CIELAB, D50. */
  readonly lab: { l: number; a: number; b: number };
}

const FIELDS = ['LAB_L', 'LAB_A', 'LAB_B'] as const;
const NAMES = ['SAMPLE_NAME', 'SAMPLE_ID', 'SAMPLEID'];

/** Words, and texts between quotation marks, as they are. */
const words = (line: string): string[] =>
  Array.from(line.matchAll(/"((?:[^"]|"")*)"|(\S+)/g), ([, quoted, bare]) => quoted?.replaceAll('""', '"') ?? bare!);
const quoted = (text: string): string => `"${text.replaceAll('"', '""')}"`;

/**
 * @param created a date, as ISO 8601 writes it
 * @example
 * readCgats(writeCgats([{ name: 'Jug', lab: { l: 50, a: 1.5, b: -2 } }], 'A studio', '2026-01-01')); // → [{ name: 'Jug', lab: { l: 50, a: 1.5, b: -2 } }]
 */
export function writeCgats(colours: readonly NamedLab[], originator: string, created: string): string {
  const rows = colours.map(({ name, lab }, i) => [i + 1, quoted(name), ...[lab.l, lab.a, lab.b].map((v) => v.toFixed(4))].join('\t'));
  return [
    'CGATS.17',
    `ORIGINATOR\t${quoted(originator)}`,
    `CREATED\t${quoted(created)}`,
    'WEIGHTING_FUNCTION\t"ILLUMINANT, D50"',
    'NUMBER_OF_FIELDS\t5',
    'BEGIN_DATA_FORMAT',
    ['SAMPLE_ID', 'SAMPLE_NAME', ...FIELDS].join('\t'),
    'END_DATA_FORMAT',
    `NUMBER_OF_SETS\t${colours.length}`,
    'BEGIN_DATA',
    ...rows,
    'END_DATA',
    '',
  ].join('\n');
}

/** @throws Error with a sentence about the first thing that is wrong */
export function readCgats(text: string): NamedLab[] {
  const lines = text
    .replace(/^\uFEFF/, '')
    .split(/\r\n?|\n/)
    .map((line) => line.trim())
    .filter((line) => line !== '' && !line.startsWith('#'));
  const between = (begin: string, end: string): string[] => {
    const [from, to] = [lines.indexOf(begin), lines.indexOf(end)];
    if (from < 0 || to < from) throw new Error(`It has no ${begin} with an ${end} after it.`);
    return lines.slice(from + 1, to);
  };
  const fields = between('BEGIN_DATA_FORMAT', 'END_DATA_FORMAT').flatMap(words);
  const columns = FIELDS.map((field) => fields.indexOf(field));
  if (columns.includes(-1)) throw new Error('It has no LAB_L, LAB_A and LAB_B.');
  const named = NAMES.map((field) => fields.indexOf(field)).find((column) => column >= 0);
  const values = between('BEGIN_DATA', 'END_DATA').flatMap(words);
  if (values.length === 0 || values.length % fields.length !== 0)
    throw new Error(`Its data are ${values.length} values, which is no multiple of its ${fields.length} fields.`);
  return Array.from({ length: values.length / fields.length }, (_, i) => {
    const row = values.slice(i * fields.length, (i + 1) * fields.length);
    const [l, a, b] = columns.map((column) => Number(row[column])) as [number, number, number];
    if (![l, a, b].every(Number.isFinite) || l < 0 || l > 100 || Math.max(Math.abs(a), Math.abs(b)) > 300)
      throw new Error(`Sample ${i + 1} is no colour: ${columns.map((column) => row[column]).join(', ')}.`);
    return { name: (named === undefined ? '' : row[named]!) || `Sample ${i + 1}`, lab: { l, a, b } };
  });
}
