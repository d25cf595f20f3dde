import { levelFor, levelSize, photographsIn, type UmboDocument } from '@umbo/core';
import { ensureLevels, levelFile, Photograph, type Database } from '@umbo/data';
import type { OtherLevel } from './tasks.ts';

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
      const sha256 = await ensureLevels(db, cache, assetId);
      return { id, full, file: levelFile(cache, sha256, level), size: levelSize(full, level) };
    }),
  );
}
