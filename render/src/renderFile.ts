/** From an edit and the pixels of its photographs to a file. It knows nothing of jobs and databases. */
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Rect, Size } from '@umbo/core/base';
import { scaleOf, type UmboDocument } from '@umbo/core/document';
import { tiffHeader } from '@umbo/core/format';
import { documentReach, filterLayers } from '@umbo/core/render';
import { outputProfile, type HandOverOptions } from '@umbo/data';
import sharp from 'sharp';
import { bytesPerPixel, divide, fitsMemory } from './divide.ts';
import type { Pool } from './pool.ts';
import type { PictureFile, Task } from './tasks.ts';

/** Rendering is this much of the whole; encoding and storing are the rest. */
const RENDER_SHARE = 0.8;
/** Bytes for every pixel while the code tables of a JPEG are fitted to it, which makes it smaller: all of it is held (measured). */
const OPTIMISED_JPEG = 12.5;

export interface Rendering {
  readonly document: UmboDocument;
  readonly full: Size;
  /** Files with the pixels: the photograph at full size, and what else the edit needs. */
  readonly level: string;
  readonly pictures: PictureFile[];
  readonly options: Pick<HandOverOptions, 'format' | 'bits' | 'space' | 'quality' | 'grey'>;
}

/** Who waits for it. */
export interface Watcher {
  /** @param share of the whole that is done, 0 to 1 */
  told: (share: number) => void;
  /** Whether it is still wanted. */
  wanted: () => boolean;
}

/**
 * Renders an edit at full size.
 * @param folder of its own, for what is too large for memory and for the result
 * @returns the file; null when it was not wanted any more
 */
export async function renderFile({ options, ...edit }: Rendering, folder: string, pool: Pool, watcher: Watcher): Promise<string | null> {
  const { document, full } = edit;
  const { bits, space } = options;
  const [plain, result] = [join(folder, 'plain.tiff'), join(folder, 'result')];
  const filtered: { id: string; file: string }[] = [];
  const header = tiffHeader(full.width, full.height, bits, await outputProfile(space));
  await writeFile(plain, header);

  const scale = scaleOf(document, full);
  const looking = filterLayers(document, scale);
  const bytes = bytesPerPixel(document);
  let passes = 0;
  /** Renders the picture once, part by part. */
  const pass = async (reach: number, taskOf: (part: Rect) => Task): Promise<void> => {
    const { parts, lanes } = divide(full, reach, bytes, pool.size);
    let next = 0;
    let ended = 0;
    const lane = async (): Promise<void> => {
      for (let i = next++; i < parts.length && watcher.wanted(); i = next++) {
        await pool.run(taskOf(parts[i]!));
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
    await pass(layer.reach, (part) => ({ ...edit, type: 'filter', layer, part, filtered: known, out }));
    if (!watcher.wanted()) return null;
  }
  const reach = documentReach(document, scale, { known: new Set(looking.map(({ id }) => id)) });
  await pass(reach, (part) => ({ ...edit, type: 'part', part, filtered, bits, space, out: plain, offset: header.length }));
  if (!watcher.wanted()) return null;
  await encode(plain, result, full, options);
  return result;
}

/** From the plain TIFF, whose profile is carried over while the pixels are left alone. */
async function encode(from: string, to: string, size: Size, { format, bits, quality, grey }: Rendering['options']): Promise<void> {
  const image = sharp(from, { ignoreIcc: true, limitInputPixels: false });
  if (grey) image.extractChannel(0).toColourspace(bits === 16 ? 'grey16' : 'b-w');
  else {
    image.keepIccProfile();
    if (bits === 16) image.toColourspace('rgb16');
  }
  if (format === 'jpeg')
    image.jpeg({
      quality,
      chromaSubsampling: quality >= 90 ? '4:4:4' : '4:2:0',
      optimiseCoding: fitsMemory(size, OPTIMISED_JPEG),
    });
  else if (format === 'png') image.png({ compressionLevel: 6 });
  else image.tiff({ compression: 'deflate', predictor: 'horizontal' });
  await image.toFile(to);
}
