/** What an edit needs loaded, as files of the server's cache. */
import { keyOf, levelFor, levelSize, overviewLevel, type PictureNeed, type Size } from '@umbo/core/base';
import type { UmboDocument } from '@umbo/core/document';
import { picturesNeeded } from '@umbo/core/render';
import { ensureLevels, pictureWithContent, pixelsFor, type Database, type Photograph } from '@umbo/data';
import { levelFile } from '@umbo/files';
import type { PictureFile } from './tasks.ts';

/** Longer side, at least, of what an edit's numbers are found on. */
const FACTS_SIDE = 400;
/** The level on which they are. */
export const smallLevel = (full: Size): number => levelFor(full, (FACTS_SIDE * full.width) / Math.max(full.width, full.height));

/**
 * The files with what an edit needs. As on the bench, photographs of the shoot only; what is gone or elsewhere is left out, and its layers
 * with it.
 * @param photograph the one in work
 * @param shrink how small the picture is rendered: 1 in full
 * @param alsoMasks whether masks of regions and readings are looked at: the picture itself does without
 */
export async function pictureFiles(
  db: Database,
  cache: string,
  photograph: Photograph,
  document: UmboDocument,
  shrink: number,
  alsoMasks: boolean,
): Promise<PictureFile[]> {
  const files = await Promise.all(
    picturesNeeded(document, () => alsoMasks).map((need) => pictureFile(db, cache, photograph, document, need, shrink)),
  );
  return files.filter((file) => file !== null);
}

async function pictureFile(
  db: Database,
  cache: string,
  photograph: Photograph,
  document: UmboDocument,
  need: PictureNeed,
  shrink: number,
): Promise<PictureFile | null> {
  const isOwn = need.kind === 'overview';
  const shown = isOwn ? { ...photograph.get(), isMask: false } : await pictureWithContent(db, photograph.shootId, need.sha256);
  if (!shown) return null;
  const full = { width: shown.width, height: shown.height };
  const level = isOwn ? overviewLevel(full) : levelFor(full, Math.ceil(full.width * shrink));
  const of = await ensureLevels(db, cache, shown.assetId, full, pixelsFor(document, isOwn ? 'own' : shown.isMask ? 'mask' : 'other'));
  return { key: keyOf(need), full, file: levelFile(cache, of, level), size: levelSize(full, level) };
}
