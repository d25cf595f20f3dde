/**
 * Converts a grid of sRGB colours to CMYK and back through the profile that libvips brings, into core/src/colour/inks.gen.ts: the
 * inks, and the colours that come back from print.
 */
import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';

process.chdir(fileURLToPath(new URL('..', import.meta.url)));
const SIDE = 17;
const step = (i) => Math.round((i * 255) / (SIDE - 1));
const grid = Buffer.from(
  Array.from({ length: SIDE ** 3 }, (_, i) => [step(Math.floor(i / SIDE ** 2)), step(Math.floor(i / SIDE) % SIDE), step(i % SIDE)]).flat(),
);
const inInks = sharp(grid, { raw: { width: SIDE, height: SIDE ** 2, channels: 3 } }).toColourspace('cmyk');
const inks = await inInks.clone().raw().toBuffer();
// Read as a picture of its own, which is then converted back.
const printed = await sharp(await inInks.clone().tiff({ compression: 'none' }).toBuffer())
  .toColourspace('srgb')
  .raw()
  .toBuffer();
if (inks.length !== SIDE ** 3 * 4 || printed.length !== SIDE ** 3 * 3) throw new Error('The conversion to CMYK gave no four channels');
const hex = (name, bytes) => `export const ${name} =\n  '${bytes.toString('hex')}';\n`;
writeFileSync('core/src/colour/inks.gen.ts', `export const INK_SIDE = ${SIDE};\n${hex('inksHex', inks)}${hex('printedHex', printed)}`);
