/** What a sheet of photographs shows: their edits as previews show them, once those are there. */
import { setTimeout as sleep } from 'node:timers/promises';
import { Problem } from '@umbo/core/base';
import type { OnSheet } from '@umbo/files';
import type { Database } from '../database.ts';
import { wantPreviews } from '../jobs.ts';
import { readPreview } from '../previews.ts';
import { readShoot } from '../shoots.ts';

/** As many as one sheet may have. */
const MOST = 400;
/** Previews that are not there by then are left blank. */
const PATIENCE_MS = 30_000;
const LOOK_EVERY_MS = 300;
/**
 * Waits a while for previews that are not there yet.
 * @throws Problem 'not-found' when one of them is not in the shoot (any more)
 */
export async function sheetContent(
  db: Database,
  shootId: number,
  ids: readonly number[],
): Promise<{ title: string; shown: readonly OnSheet[] }> {
  const { name, photographs } = await readShoot(db, shootId);
  const chosen = ids.map((id) => photographs.find((one) => one.id === id));
  if (chosen.length === 0 || chosen.some((one) => !one)) throw new Problem('not-found', 'A photograph is not in this shoot (any more).');
  if (chosen.length > MOST) throw new Problem('invalid', `A sheet holds at most ${MOST} photographs.`);
  const wanted = chosen.map((one) => ({ id: one!.id, revision: one!.revision }));
  for (const until = Date.now() + PATIENCE_MS; Date.now() < until; await sleep(LOOK_EVERY_MS)) {
    const there = new Map((await wantPreviews(db, wanted)).map(({ id, revision }) => [id, revision]));
    if (wanted.every(({ id, revision }) => (there.get(id) ?? 0) >= revision)) break;
  }
  const shown: OnSheet[] = [];
  for (const one of chosen) {
    const preview = await readPreview(db, one!.id);
    shown.push({ ...one!, preview: preview?.data ?? null, readings: preview?.readings ?? [] });
  }
  return { title: name, shown };
}
