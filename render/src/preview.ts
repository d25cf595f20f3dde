import { rgbToLab, srgb } from '@umbo/core/colour';
import { levelCount, levelFor, levelSize } from '@umbo/core/base';
import { pictureSizeOf, scaleOf, type UmboDocument } from '@umbo/core/document';
import { sizeAt } from '@umbo/core/geometry';
import type { RegionColour } from '@umbo/core/warnings';
import {
  endJob,
  ensureLevels,
  findPhotograph,
  pixelsFor,
  readDocument,
  storePreview,
  type ReadingFact,
  type TakenJob,
  type Database,
  type Photograph,
} from '@umbo/data';
import { levelFile } from '@umbo/files';
import sharp from 'sharp';
import { pictureFiles, smallLevel } from './pictures.ts';
import type { Lease } from './lease.ts';
import type { Pool } from './pool.ts';

/** Every so many pixels are looked at for how light a picture is. */
const EVERY = 16;

/** Mean lightness L* of interleaved 8-bit sRGB. */
function lightOf(rows: Uint8Array): number {
  let [sum, n] = [0, 0];
  for (let i = 0; i + 2 < rows.length; i += 3 * EVERY, n++) sum += rgbToLab(srgb, rows[i]! / 255, rows[i + 1]! / 255, rows[i + 2]! / 255).l;
  return sum / Math.max(1, n);
}

/** Longer side of a preview in pixels. */
const LONG_SIDE = 640;

/** How an edit of a photograph looks, small. */
export async function smallPicture(
  db: Database,
  cache: string,
  pool: Pool,
  photograph: Photograph,
  document: UmboDocument,
  signal: AbortSignal,
): Promise<{ rows: Uint8Array; data: Buffer }> {
  const full = { width: photograph.width, height: photograph.height };
  const picture = pictureSizeOf(document);
  const shrink = Math.min(1, LONG_SIDE / Math.max(picture.width, picture.height));
  const size = { width: Math.max(1, Math.round(full.width * shrink)), height: Math.max(1, Math.round(full.height * shrink)) };
  const level = levelFor(full, size.width);
  const of = await ensureLevels(db, cache, photograph.assetId, full, pixelsFor(document));
  const task = {
    type: 'preview',
    document,
    full,
    pictures: await pictureFiles(db, cache, photograph, document, size.width / full.width, false),
    level: levelFile(cache, of, level),
    levelSize: levelSize(full, level),
    size,
  } as const;
  const rows = (await pool.run(task, { signal })) as Uint8Array;
  const raw = { ...sizeAt(scaleOf(document, size)), channels: 3 } as const;
  return { rows, data: await sharp(rows, { raw }).jpeg({ quality: 88 }).toBuffer() };
}

/** Renders the edit small, for the contact sheet. */
export async function preview(db: Database, cache: string, pool: Pool, { holder, signal }: Lease, job: TakenJob): Promise<void> {
  const photograph = await findPhotograph(job.photographId);
  const full = { width: photograph.width, height: photograph.height };
  // As it is now, which is newer than when it was asked for.
  const { document, revision } = await readDocument(db, job.photographId);
  const of = await ensureLevels(db, cache, photograph.assetId, full, pixelsFor(document));
  const { rows, data } = await smallPicture(db, cache, pool, photograph, document, signal);
  const readings = document.readings?.length
    ? await pool.run(
        {
          type: 'readings',
          document,
          full,
          pictures: await pictureFiles(db, cache, photograph, document, 1, true),
          levels: Array.from({ length: levelCount(full) }, (_, i) => levelFile(cache, of, i)),
        },
        { signal },
      )
    : [];
  const small = smallLevel(full);
  const regions = document.regions?.length
    ? await pool.run(
        {
          type: 'overview',
          look: 'regions',
          document,
          full,
          pictures: await pictureFiles(db, cache, photograph, document, levelSize(full, small).width / full.width, true),
          level: levelFile(cache, of, small),
          levelSize: levelSize(full, small),
          owners: [],
        },
        { signal },
      )
    : [];
  await endJob(db, job.id, holder, {
    state: 'done',
    store: async (transaction) => {
      const facts = { readings: readings as ReadingFact[], regions: regions as RegionColour[] };
      await storePreview(db, job.photographId, { revision, data, light: lightOf(rows), ...facts }, transaction);
      return null;
    },
  });
}
