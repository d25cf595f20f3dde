/**
 * 3D look-up tables as .cube text: `LUT_3D_SIZE n`, optionally `TITLE`, `DOMAIN_MIN`, `DOMAIN_MAX`, then n^3 lines of red green blue, red
 * running fastest. Written from the format as it is in common use, no standard.
 */

import type { Lattice } from '../base/acceleration.ts';

export interface CubeLut extends Lattice {
  readonly title: string;
}

export const CUBE_SIZES = [2, 65] as const;

/**
 * @throws RangeError with what is wrong, as a sentence for people
 * @example
 * parseCube('LUT_3D_SIZE 2\n' + '0 0 0\n'.repeat(8)).size; // → 2
 */
export function parseCube(text: string): CubeLut {
  let title = '';
  let size = 0;
  let min: [number, number, number] = [0, 0, 0];
  let max: [number, number, number] = [1, 1, 1];
  let values = new Float32Array(0);
  let filled = 0;
  const three = (words: string[], line: number): [number, number, number] => {
    const numbers = words.map(Number);
    if (numbers.length !== 3 || !numbers.every(Number.isFinite)) throw new RangeError(`Line ${line} does not hold three numbers.`);
    return numbers as [number, number, number];
  };
  for (const [i, raw] of text.split(/\r\n|\r|\n/).entries()) {
    const line = raw.trim();
    if (line === '' || line.startsWith('#')) continue;
    const words = line.split(/\s+/);
    const [word] = words;
    if (word === 'TITLE') title = line.slice(5).trim().replace(/^"|"$/g, '');
    else if (word === 'DOMAIN_MIN') min = three(words.slice(1), i + 1);
    else if (word === 'DOMAIN_MAX') max = three(words.slice(1), i + 1);
    else if (word === 'LUT_1D_SIZE') throw new RangeError('This is a table for single channels; only 3D tables can be used.');
    else if (word === 'LUT_3D_SIZE') {
      size = Number(words[1]);
      if (!Number.isInteger(size) || size < CUBE_SIZES[0] || size > CUBE_SIZES[1])
        throw new RangeError(`The table has ${words[1] ?? 'no'} points a side; ${CUBE_SIZES[0]} to ${CUBE_SIZES[1]} can be used.`);
      values = new Float32Array(size ** 3 * 3);
    } else if (/^[-+.\d]/.test(word!)) {
      if (size === 0) throw new RangeError('The table’s size is missing: LUT_3D_SIZE must come before the values.');
      if (filled + 3 > values.length) throw new RangeError(`The table holds more than ${size ** 3} colours.`);
      values.set(three(words, i + 1), filled);
      filled += 3;
    }
    // Other words are of makers, and say nothing about the colours.
  }
  if (size === 0) throw new RangeError('This is no 3D table: it has no LUT_3D_SIZE.');
  if (filled < values.length) throw new RangeError(`The table holds ${filled / 3} of ${size ** 3} colours.`);
  if (min.some((v, c) => !(max[c]! > v))) throw new RangeError('The table’s DOMAIN_MAX is not above its DOMAIN_MIN.');
  return { title, size, min, max, values };
}

export function writeCube({ title, size, min, max, values }: CubeLut): string {
  const number = (v: number): string => v.toFixed(7).replace(/\.?0+$/, '');
  const lines = [`TITLE "${title.replace(/["\r\n]/g, ' ')}"`, `LUT_3D_SIZE ${size}`];
  if (min.some((v) => v !== 0)) lines.push(`DOMAIN_MIN ${min.map(number).join(' ')}`);
  if (max.some((v) => v !== 1)) lines.push(`DOMAIN_MAX ${max.map(number).join(' ')}`);
  for (let i = 0; i < values.length; i += 3) lines.push(`${number(values[i]!)} ${number(values[i + 1]!)} ${number(values[i + 2]!)}`);
  return `${lines.join('\n')}\n`;
}
