/** PDFs in the font of the house. */
import { join } from 'node:path';
import PDFDocument from 'pdfkit';

export const fontFile = (): string =>
  join(process.cwd(), 'node_modules/@fontsource/spline-sans-mono/files/spline-sans-mono-latin-400-normal.woff');

export const INK = '#191919';
export const INK_2 = '#4d4d4d';
export const EDGE = '#bcbcbc';
/** For a text that has one line. */
export const ONE_LINE = { lineBreak: false, ellipsis: true } as const;

/**
 * @param page its size and margin in points
 * @param draw adds the pages
 */
export async function makePdf(
  title: string,
  page: { width: number; height: number; margin: number },
  draw: (file: PDFKit.PDFDocument) => void,
): Promise<Buffer> {
  const file = new PDFDocument({
    size: [page.width, page.height],
    margin: page.margin,
    autoFirstPage: false,
    font: fontFile(),
    info: { Title: title, Producer: 'Umbo' },
  });
  const chunks: Buffer[] = [];
  file.on('data', (chunk: Buffer) => chunks.push(chunk));
  const ended = new Promise((done) => file.once('end', done));
  draw(file);
  file.end();
  await ended;
  return Buffer.concat(chunks);
}
