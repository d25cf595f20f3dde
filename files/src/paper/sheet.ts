/** Photographs of a shoot on a sheet: as a PDF with pages, or as one picture. */
import type { Lab } from '@umbo/core/colour';
import sharp, { type OverlayOptions } from 'sharp';
import { EDGE, fontFile, INK, INK_2, makePdf, ONE_LINE } from './pdf.ts';

const FONT = 'Spline Sans Mono';

/** A reading as a sheet says it. */
interface ReadingOnSheet {
  readonly letter: string;
  readonly name: string;
  readonly lab: Lab;
  /** How far it is from its target (CIEDE2000); null without one. */
  readonly off: number | null;
  readonly passes: boolean | null;
}

/** A photograph on a sheet; without a picture its place is left blank. */
export interface OnSheet {
  readonly name: string;
  readonly width: number;
  readonly height: number;
  readonly state: string;
  readonly takenAt: string | null;
  readonly preview: Buffer | null;
  readonly readings: readonly ReadingOnSheet[];
}

/** Of one page, in points; A4 across. */
const PAGE = { width: 842, height: 595, margin: 36, columns: 4, rows: 3, head: 30, words: 26 } as const;

const factsOf = ({ width, height, state, takenAt }: OnSheet): string =>
  [`${width} × ${height}`, state, takenAt?.slice(0, 16).replace('T', ' ')].filter(Boolean).join(', ');

/** Lines of readings under a picture, at most, and how high they are. */
const READINGS = { most: 6, height: 8.5 } as const;

/** Such as "A 62.1 4.2 -11.0, 1.3 off, passed: Cheek"; what is cut off where there is no room is the name. */
function readingLine({ letter, name, lab, off, passes }: ReadingOnSheet): string {
  const numbers = [lab.l, lab.a, lab.b].map((v) => v.toFixed(1)).join(' ');
  const against = off === null ? '' : `, ${off.toFixed(1)} off, ${passes ? 'passed' : 'not passed'}`;
  return `${letter} ${numbers}${against}${name === '' || name === `Reading ${letter}` ? '' : `: ${name}`}`;
}

/** What is said under a picture; of many readings, how many more there are. */
const readingLines = (readings: readonly ReadingOnSheet[]): string[] =>
  readings.length <= READINGS.most
    ? readings.map(readingLine)
    : [...readings.slice(0, READINGS.most - 1).map(readingLine), `and ${readings.length - READINGS.most + 1} more readings`];

/** A PDF with twelve photographs to a page: picture, name, size, state, time, and what its readings are. */
export async function sheetPdf(title: string, shown: readonly OnSheet[]): Promise<Buffer> {
  const each = PAGE.columns * PAGE.rows;
  const pages = Math.ceil(shown.length / each);
  const cell = {
    width: (PAGE.width - 2 * PAGE.margin) / PAGE.columns,
    height: (PAGE.height - 2 * PAGE.margin - PAGE.head) / PAGE.rows,
  };
  const line = ONE_LINE;
  // Pictures stand in line: all leave as much room as the one with the most readings needs.
  const words = PAGE.words + READINGS.height * Math.max(0, ...shown.map(({ readings }) => readingLines(readings).length));
  return makePdf(title, PAGE, (file) => {
    for (const [i, one] of shown.entries()) {
      if (i % each === 0) {
        file.addPage();
        file
          .fillColor(INK)
          .fontSize(12)
          .text(title, PAGE.margin, PAGE.margin, { ...line, width: 500, height: 16 });
        if (words > PAGE.words)
          file.fontSize(6.5).text('readings in CIELAB (D50): L* a* b*; off by CIEDE2000', PAGE.margin + 400, PAGE.margin + 4, line);
        file
          .fontSize(8)
          .text(`${i / each + 1} of ${pages}`, PAGE.width - PAGE.margin - 100, PAGE.margin + 3, { width: 100, align: 'right' });
      }
      const at = i % each;
      const x = PAGE.margin + (at % PAGE.columns) * cell.width;
      const y = PAGE.margin + PAGE.head + Math.floor(at / PAGE.columns) * cell.height;
      const box: [number, number] = [cell.width - 10, cell.height - words - 8];
      if (one.preview) file.image(one.preview, x, y, { fit: box, align: 'center', valign: 'center' });
      else file.rect(x, y, ...box).stroke(EDGE);
      const width = { ...line, width: box[0], height: 11 };
      file
        .fillColor(INK)
        .fontSize(8)
        .text(one.name, x, y + box[1] + 4, width);
      file
        .fillColor(INK_2)
        .fontSize(6.5)
        .text(factsOf(one), x, y + box[1] + 15, width);
      for (const [n, text] of readingLines(one.readings).entries())
        file.fontSize(6).text(text, x, y + box[1] + PAGE.words + n * READINGS.height, width);
    }
  });
}

/** Of a cell of the picture, in pixels. */
const CELL = { width: 320, height: 240, words: 24, gap: 16 } as const;
/** More columns than this make names too small to be read on a screen. */
const WIDEST = 8;

const escaped = (text: string): string => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');

/** One JPEG of all of them with their names, in about as many rows as columns. */
export async function sheetPicture(shown: readonly OnSheet[]): Promise<Buffer> {
  const columns = Math.min(WIDEST, Math.ceil(Math.sqrt(shown.length)));
  const rows = Math.ceil(shown.length / columns);
  const layers: OverlayOptions[] = [];
  for (const [i, { name, preview }] of shown.entries()) {
    const left = CELL.gap + (i % columns) * (CELL.width + CELL.gap);
    const top = CELL.gap + Math.floor(i / columns) * (CELL.height + CELL.words + CELL.gap);
    if (preview) {
      const { data, info } = await sharp(preview)
        .resize({ width: CELL.width, height: CELL.height, fit: 'inside' })
        .toBuffer({ resolveWithObject: true });
      layers.push({ input: data, left: left + Math.floor((CELL.width - info.width) / 2), top: top + CELL.height - info.height });
    }
    const label = {
      text: `<span foreground="#191919">${escaped(name)}</span>`,
      font: `${FONT} 9`,
      fontfile: fontFile(),
      rgba: true,
      dpi: 96,
    };
    // Without any font the pictures are still a sheet.
    const words = await sharp({ text: label })
      .png()
      .toBuffer({ resolveWithObject: true })
      .catch(() => null);
    if (!words) continue;
    const cut = { left: 0, top: 0, width: Math.min(CELL.width, words.info.width), height: words.info.height };
    const fitted = await sharp(words.data).extract(cut).toBuffer();
    layers.push({ input: fitted, left, top: top + CELL.height + 5 });
  }
  const width = CELL.gap + columns * (CELL.width + CELL.gap);
  const height = CELL.gap + rows * (CELL.height + CELL.words + CELL.gap);
  return sharp({ create: { width, height, channels: 3, background: '#ffffff' } })
    .composite(layers)
    .jpeg({ quality: 90 })
    .toBuffer();
}
