/** From an edit and the pixels of its photographs to a file. It knows nothing of jobs and databases. */
import { randomUUID } from 'node:crypto';
import { appendFile, copyFile, truncate, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { type Rect, type Size, Problem } from '@umbo/core/base';
import { scaleOf, type UmboDocument } from '@umbo/core/document';
import { spaces } from '@umbo/core/colour';
import { fileFormats } from '@umbo/core/format';
import { sizeAt } from '@umbo/core/geometry';
import { documentReach, filterLayers } from '@umbo/core/render';
import { outputSize, type HandOverOptions } from '@umbo/data';
import { profileOf, type MetadataBlocks, type Press } from '@umbo/files';
import sharp, { type Sharp } from 'sharp';
import { bytesPerPixel, divide, turnedBy } from './divide.ts';
import { encoders } from './encoders.ts';
import { carriedBlocks, rightsPacket } from './metadata/carried.ts';
import { putExtendedXmp, splitXmp } from './metadata/extendedXmp.ts';
import { putExif } from './metadata/tiffExif.ts';
import { PLAIN_HEADER, plainHeader, plainTail } from './plainPicture.ts';
import { print } from './print.ts';
import type { Pool } from './pool.ts';
import type { PictureFile, Task } from './tasks.ts';

/** Rendering is this much of the whole; encoding and storing are the rest. */
const RENDER_SHARE = 0.8;

export interface Rendering {
  readonly document: UmboDocument;
  readonly full: Size;
  /** Files with the pixels: the photograph at full size, and what else the edit needs. */
  readonly level: string;
  readonly pictures: PictureFile[];
  readonly options: Omit<HandOverOptions, 'fileName'>;
  /** The profile that the file is for; null: it is in a space. */
  readonly press: Press | null;
  /** What the photograph's file says of itself. */
  readonly metadata: MetadataBlocks;
}

/** Who waits for it. */
export interface Watcher {
  /** @param share of the whole that is done, 0 to 1 */
  told: (share: number) => void;
  /** Ends it while it runs. */
  signal: AbortSignal;
}

/**
 * Renders an edit at full size.
 * @param folder of its own, for what is too large for memory and for the result
 * @returns the file; null when it was not wanted any more
 */
export async function renderFile(
  { options, press: wantedPress, metadata, ...edit }: Rendering,
  folder: string,
  pool: Pool,
  watcher: Watcher,
): Promise<string | null> {
  const { document, full } = edit;
  const press = options.grey ? null : wantedPress;
  // Into a profile colours go as they are worked on, and are made fewer bits there.
  const bits = press ? 16 : options.bits;
  // A mask's greys are those that it is worked on in.
  const space = press || options.grey || options.space === 'working' ? document.workingSpace : options.space;
  // The image library remembers files by their names: another picture needs another one.
  const [plain, result] = [join(folder, `${randomUUID()}.v`), join(folder, 'result')];
  const filtered: { id: string; file: string }[] = [];
  const scale = scaleOf(document, full);
  const picture = sizeAt(scale);
  await writeFile(plain, plainHeader(picture, bits));

  const looking = filterLayers(document, scale);
  const bytes = bytesPerPixel(document);
  let passes = 0;
  /** Renders the photograph, or the picture, once, part by part. @param turned how much wider parts are on the photograph */
  const pass = async (whole: Size, reach: number, turned: number, taskOf: (part: Rect) => Task): Promise<void> => {
    const { parts, lanes } = divide(whole, { reach, turned, bytes }, pool.size);
    let next = 0;
    let ended = 0;
    const lane = async (): Promise<void> => {
      for (let i = next++; i < parts.length && !watcher.signal.aborted; i = next++) {
        // Among the parts of a long work somebody may wait for a small one.
        await pool.run(taskOf(parts[i]!), { last: true });
        watcher.told((RENDER_SHARE * (passes + ++ended / parts.length)) / (looking.length + 1));
      }
    };
    await Promise.all(Array.from({ length: lanes }, lane));
    passes++;
  };
  for (const layer of looking) {
    const out = join(folder, `${filtered.length}.planes`);
    await writeFile(out, '');
    const known = [...filtered];
    filtered.push({ id: layer.id, file: out });
    await pass(full, layer.reach, 0, (part) => ({ ...edit, type: 'filter', layer, part, filtered: known, out }));
    if (watcher.signal.aborted) return null;
  }
  const reach = documentReach(document, scale, { known: new Set(looking.map(({ id }) => id)) });
  await pass(picture, reach, turnedBy(scale), (part) => ({
    ...edit,
    type: 'part',
    part,
    filtered,
    bits,
    space,
    dither: options.dither ?? false,
    out: plain,
    offset: PLAIN_HEADER,
  }));
  if (watcher.signal.aborted) return null;
  // The last part may not have been written last.
  await truncate(plain, PLAIN_HEADER + (picture.width * picture.height * 3 * bits) / 8);
  const size = outputSize(picture, options.size);
  const carried = options.grey ? { exif: null, xmp: null, iptc: null } : carriedBlocks(metadata, options, size);
  // A JPEG holds only so much in one segment.
  const xmp = options.format === 'jpeg' && carried.xmp ? splitXmp(carried.xmp, rightsPacket(metadata)) : null;
  if (xmp) carried.xmp = xmp.main;
  await appendFile(plain, plainTail({ icc: press?.icc ?? profileOf(spaces[space]), ...carried }));
  if (press) {
    const printed = join(folder, `${randomUUID()}.v`);
    const sized = join(folder, `${randomUUID()}.v`);
    await sizedAndSharp(plain, picture, options).toColourspace('rgb16').toFile(sized);
    await print({ from: sized, to: printed, size, space, press, options, tail: plainTail({ icc: press.icc, ...carried }) });
    const asItIs = { ...options };
    delete asItIs.size;
    delete asItIs.sharpen;
    await encode(printed, result, size, asItIs, press.colours);
  } else await encode(plain, result, picture, options);
  // The picture is there, whatever its metadata is: a block that cannot be put in stays out.
  if (options.format === 'tiff' && carried.exif) await putExif(result, carried.exif).catch(() => undefined);
  if (xmp?.rest) await putExtendedXmp(result, xmp.rest);
  return result;
}

/**
 * Output sharpening, after the picture has its size: an unsharp mask of lightness, that of flat places left alone. For a print it is broader,
 * because ink spreads. How far an edge overshoots is measured in the tests. Common practice, no source.
 */
const SHARPENING = {
  screen: { sigma: 0.6, m1: 0, m2: 1.2, x1: 2, y2: 8, y3: 12 },
  print: { sigma: 1.1, m1: 0, m2: 1.4, x1: 2, y2: 10, y3: 14 },
} as const;

/** The plain picture at the file's size. */
function sizedAndSharp(from: string, full: Size, { size, sharpen, grey }: Rendering['options']): Sharp {
  const image = sharp(from, { ignoreIcc: true, limitInputPixels: false });
  const target = outputSize(full, size);
  if (target.width !== full.width || target.height !== full.height)
    image.resize({ ...target, kernel: 'lanczos3', fit: 'cover', position: 'centre', fastShrinkOnLoad: false });
  if (sharpen && !grey) image.sharpen(SHARPENING[sharpen]);
  return image;
}

/** From the plain picture, whose profile is carried over while the pixels are left alone. */
async function encode(
  from: string,
  to: string,
  full: Size,
  options: Rendering['options'],
  colours: Press['colours'] = 'rgb',
): Promise<void> {
  const { format, bits, quality, grey, atMost } = options;
  const picture = (): Sharp => {
    const image = sizedAndSharp(from, full, options);
    // As it is, all the way: what the image library takes for another colourspace it converts.
    if (colours === 'cmyk') return image.pipelineColourspace('cmyk').toColourspace('cmyk').keepMetadata();
    if (colours === 'grey') return image.toColourspace(bits === 16 ? 'grey16' : 'b-w').keepMetadata();
    if (grey) return image.extractChannel(0).toColourspace(bits === 16 ? 'grey16' : 'b-w');
    image.keepMetadata();
    return bits === 16 ? image.toColourspace('rgb16') : image;
  };
  const encoded = (best: number): Sharp => encoders[format](picture(), best, full);
  if (atMost === undefined || !fileFormats[format].isLossy) {
    await encoded(quality).toFile(to);
    return;
  }
  // Sizes grow with the quality: the best that is small enough is found by halving.
  let [low, high] = [1, quality];
  let fits: string | null = null;
  for (let tried = high; low <= high; tried = Math.floor((low + high) / 2)) {
    const file = `${to}-${tried}`;
    const { size: bytes } = await encoded(tried).toFile(file);
    if (bytes <= atMost * 1000) {
      fits = file;
      low = tried + 1;
    } else high = tried - 1;
  }
  if (fits === null) throw new Problem('refused', `The picture cannot be made as small as ${atMost} kB. Give it fewer pixels.`);
  await copyFile(fits, to);
}
