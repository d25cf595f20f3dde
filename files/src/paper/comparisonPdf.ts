/** How alike one thing is on many photographs, on paper. */
import type { Lab } from '@umbo/core/colour';
import type { Spreads } from '@umbo/core/measure';
import { EDGE, INK, INK_2, makePdf, ONE_LINE } from './pdf.ts';

export interface ComparisonOnPaper {
  shoot: string;
  /** What is compared, and with what. */
  subject: string;
  against: string;
  tolerance: number;
  middle: Lab;
  mean: number;
  /** The farthest first. */
  rows: readonly { name: string; preview: Buffer | null; lab: Lab; spread: Spreads | null; off: number }[];
}

/** A4 upright, in points. */
const PAGE = { width: 595, height: 842, margin: 36, head: 66, row: 44 } as const;
/** Where columns begin, and how wide they are. */
const COLUMNS = [
  ['Photograph', 84, 130],
  ['CIEDE2000', 220, 90],
  ['L* a* b*', 330, 110],
  ['Spread of L*, C*, h', 450, 110],
] as const;
const BAR = { x: 250, width: 66, height: 6 } as const;

const triple = ({ l, a, b }: Lab): string => [l, a, b].map((v) => v.toFixed(1)).join(' ');
const spreadText = (spread: Spreads | null): string =>
  spread ? `${spread.lightness.toFixed(1)} ${spread.chroma.toFixed(1)} ${spread.hue.toFixed(1)}°` : '';

/** A line for each photograph, with its picture and how far it is off as a bar, on as many pages as it takes. */
export function comparisonPdf({ shoot, subject, against, tolerance, middle, mean, rows }: ComparisonOnPaper): Promise<Buffer> {
  const each = Math.floor((PAGE.height - 2 * PAGE.margin - PAGE.head) / PAGE.row);
  const pages = Math.max(1, Math.ceil(rows.length / each));
  const most = Math.max(tolerance, ...rows.map(({ off }) => off));
  const outside = rows.filter(({ off }) => off > tolerance).length;
  return makePdf(`${shoot}: ${subject}`, PAGE, (file) => {
    for (const [i, { name, preview, lab, spread, off }] of rows.entries()) {
      if (i % each === 0) {
        file.addPage();
        const wide = { ...ONE_LINE, width: PAGE.width - 2 * PAGE.margin - 60, height: 16 };
        file.fillColor(INK).fontSize(12).text(`${shoot}: ${subject}`, PAGE.margin, PAGE.margin, wide);
        file.fillColor(INK_2).fontSize(7);
        file.text(
          `Against ${against}, ${triple(middle)} (CIELAB, D50); off by ${mean.toFixed(1)} (CIEDE2000) in the mean, ${outside} of ${rows.length} by more than ${tolerance}`,
          PAGE.margin,
          PAGE.margin + 20,
          ONE_LINE,
        );
        file.text(`${i / each + 1} of ${pages}`, PAGE.width - PAGE.margin - 60, PAGE.margin + 3, { width: 60, align: 'right' });
        for (const [words, x, width] of COLUMNS) file.text(words, x, PAGE.margin + 44, { ...ONE_LINE, width });
      }
      const y = PAGE.margin + PAGE.head + (i % each) * PAGE.row;
      file
        .moveTo(PAGE.margin, y - 5)
        .lineTo(PAGE.width - PAGE.margin, y - 5)
        .lineWidth(0.5)
        .stroke(EDGE);
      // The picture stands before the first column.
      if (preview) file.image(preview, PAGE.margin, y, { fit: [34, PAGE.row - 10], align: 'center', valign: 'center' });
      const texts = [name, off.toFixed(1), triple(lab), spreadText(spread)];
      file.fillColor(INK).fontSize(8);
      for (const [c, [, x, width]] of COLUMNS.entries()) file.text(texts[c]!, x, y + 12, { ...ONE_LINE, width, height: 11 });
      file.rect(BAR.x, y + 13, (BAR.width * off) / most, BAR.height).fill(off > tolerance ? INK : EDGE);
      const limit = BAR.x + (BAR.width * tolerance) / most;
      file
        .moveTo(limit, y + 9)
        .lineTo(limit, y + 23)
        .lineWidth(0.5)
        .stroke(INK);
    }
  });
}
