/** Converts a grid of sRGB colours to CMYK through the profile that libvips brings, into core/src/colour/inks.gen.ts. */
import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';

process.chdir(fileURLToPath(new URL('..', import.meta.url)));
const SIDE = 17;
const step = (i) => Math.round((i * 255) / (SIDE - 1));
const grid = Buffer.from(
  Array.from({ length: SIDE ** 3 }, (_, i) => [step(Math.floor(i / SIDE ** 2)), step(Math.floor(i / SIDE) % SIDE), step(i % SIDE)]).flat(),
);
const inks = await sharp(grid, { raw: { width: SIDE, height: SIDE ** 2, channels: 3 } })
  .toColourspace('cmyk')
  .raw()
  .toBuffer();
if (inks.length !== SIDE ** 3 * 4) throw new Error('The conversion to CMYK gave no four channels');
writeFileSync('core/src/colour/inks.gen.ts', `export const INK_SIDE = ${SIDE};\nexport const inksHex =\n  '${inks.toString('hex')}';\n`);
