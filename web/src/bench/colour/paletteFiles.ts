/** Palettes as files: CSV (name, red, green, blue; 0..255) and JSON (name, swatches with colours 0..1). */
import { cleanName, shorten } from '@umbo/core/base';
import { srgb, type Colour } from '@umbo/core/colour';
import type { NewSwatch, Palette } from '@umbo/data';
import Papa from 'papaparse';
import { hexOf } from '@/ui/hexOf';
import { colourOfHex } from './colourModels';

type Named = Pick<Palette, 'name'> & { swatches: readonly NewSwatch[] };

export const paletteCsv = ({ swatches }: Named): string =>
  Papa.unparse(
    swatches.map(({ name, colour }) => {
      const [red, green, blue] = colour.map((v) => Number((v * 255).toFixed(2)));
      return { name, red, green, blue };
    }),
    // A cell that begins like a formula must not act as one when a spreadsheet opens the file.
    { escapeFormulae: true },
  );

export const paletteJson = ({ name, swatches }: Named): string =>
  JSON.stringify({ name, swatches: swatches.map(({ name: swatch, colour }) => ({ name: swatch, colour })) }, null, 2);

const clean = (name: unknown, colour: Colour): string =>
  (typeof name === 'string' ? shorten(cleanName(name), 120) : '') || hexOf(colour, srgb);

const isColour = (value: unknown, most: number): value is Colour =>
  Array.isArray(value) && value.length === 3 && value.every((v) => typeof v === 'number' && v >= 0 && v <= most);

/** Reads either kind of file. @throws Error with a sentence about the first thing that is wrong */
export function readPalette(fileName: string, text: string): Named {
  const name = shorten(cleanName(fileName.replace(/\.[^.]*$/, '')), 120) || 'Palette';
  const palette = /^\s*[{[]/.test(text) ? fromJson(name, text) : { name, swatches: fromCsv(text) };
  if (palette.swatches.length === 0) throw new Error('There is no colour in it.');
  if (palette.swatches.length > 1000) throw new Error('It has more than 1000 colours.');
  return palette;
}

function fromCsv(text: string): NewSwatch[] {
  const { data, meta } = Papa.parse<Record<string, string>>(text, {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (header) => header.trim().toLowerCase(),
  });
  const columns = new Set(meta.fields);
  if (!columns.has('hex') && !['red', 'green', 'blue'].every((column) => columns.has(column)))
    throw new Error('Its first line must name the columns red, green and blue (0 to 255), or hex.');
  return data.map((row, i) => {
    const numbers = [row.red, row.green, row.blue].map((cell) => (cell?.trim() ? Number(cell) : NaN));
    const colour = isColour(numbers, 255) ? (numbers.map((v) => v / 255) as Colour) : colourOfHex(row.hex ?? '');
    if (!colour) throw new Error(`Line ${i + 2} has no colour.`);
    return { name: clean(row.name?.replace(/^'(?=[=+\-@])/, ''), colour), colour };
  });
}

function fromJson(fallback: string, text: string): Named {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new Error('It is not JSON.');
  }
  const { name, swatches } = (Array.isArray(value) ? { swatches: value } : value) as { name?: unknown; swatches?: unknown };
  if (!Array.isArray(swatches)) throw new Error('It has no list of swatches.');
  return {
    name: (typeof name === 'string' && shorten(cleanName(name), 120)) || fallback,
    swatches: (swatches as { name?: unknown; colour?: unknown }[]).map((swatch, i) => {
      const colour = typeof swatch?.colour === 'string' ? colourOfHex(swatch.colour) : swatch?.colour;
      if (!isColour(colour, 1)) throw new Error(`Swatch ${i + 1} has no colour.`);
      return { name: clean(swatch.name, colour), colour };
    }),
  };
}
