import { levelFor, levelSize, overviewLevel, type Size } from '@umbo/core/base';
import type { UmboDocument } from '@umbo/core/document';
import { needsPhotographWhole, photographsIn } from '@umbo/core/render';
import { ensureLevels, levelFile, Photograph, type Database } from '@umbo/data';
import type { OtherLevel, OverviewLevel } from './tasks.ts';

/**
 * The levels of the other photographs that an edit shows. As on the bench, those of the shoot only; what is gone or elsewhere is left
 * out, and its layers with it.
 * @param photograph the one in work
 * @param shrink how small the picture is rendered: 1 in full
 */
export async function otherLevels(
  db: Database,
  cache: string,
  photograph: Photograph,
  document: UmboDocument,
  shrink: number,
): Promise<OtherLevel[]> {
  const ids = photographsIn(document).filter((id) => id !== photograph.id);
  const photographs = await Photograph.findAll({ where: { id: ids, shootId: photograph.shootId } });
  return Promise.all(
    photographs.map(async ({ id, width, height, assetId }) => {
      const full = { width, height };
      const level = levelFor(full, Math.ceil(width * shrink));
      const sha256 = await ensureLevels(db, cache, assetId, full);
      return { id, full, file: levelFile(cache, sha256, level), size: levelSize(full, level) };
    }),
  );
}

/** The level on which the masks of an edit look at the photograph as a whole; null where none does. @param sha256 of the photograph's asset */
export function overviewOf(cache: string, sha256: string, full: Size, document: UmboDocument): OverviewLevel | null {
  if (!needsPhotographWhole(document)) return null;
  const level = overviewLevel(full);
  return { file: levelFile(cache, sha256, level), size: levelSize(full, level) };
}
