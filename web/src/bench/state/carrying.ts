'use client';
/** Masks that came along from another photograph: what each covers here, against there. */
import { lightWords, maskWords, type Light } from '@umbo/core/carry';
import { eachMaskOwner, findMaskOwner, type UmboDocument } from '@umbo/core/document';
import type { BenchState } from './benchState';
import type { CarriedShares, Shares } from './copied';

type Now = () => BenchState;

/** What there is to say of a mask that came along, as it is now; null: nothing. */
export const wordsFor = (
  { committed, photograph }: Pick<BenchState, 'committed' | 'photograph'>,
  { id, before, now }: CarriedShares,
): string | null => maskWords(findMaskOwner(committed, id), photograph.sha256, before, now);

/** Measures the masks of an edit that are more than a link: a link covers what it leads to. */
export async function measureShares(now: Now, ids: readonly string[]): Promise<Shares> {
  const shares: Record<string, number> = {};
  for (const id of ids) {
    const where = findMaskOwner(now().committed, id)?.where;
    if (!where || where.link !== undefined || where.parts.length === 0) continue;
    shares[id] = await now().measure({ kind: 'cover', settings: {} }, id, { quietly: true });
  }
  return shares;
}

/** What is neutral in the photograph, as its first correction has it. */
export async function lightOf(now: Now): Promise<Light> {
  const { whiteBalance } = await now().measure({ kind: 'firstCorrection', settings: {} }, null, { of: 'photograph', quietly: true });
  return { kelvin: whiteBalance.kelvin, tint: whiteBalance.tint };
}

export const ownersIn = (document: UmboDocument): string[] => Array.from(eachMaskOwner(document), ({ id }) => id);

/**
 * Says what became of masks that came along.
 * @param from the owners here, each with the id of what it is a copy of
 * @param light of the photograph that they were on; left out: not known
 */
export async function report(now: Now, from: ReadonlyMap<string, string>, before: Shares, light?: Light): Promise<void> {
  const { photograph } = now();
  try {
    const shares = await measureShares(now, [...from.keys()]);
    if (now().photograph !== photograph) return;
    const masks = Object.entries(shares).map(([id, share]) => ({ id, before: before[from.get(id)!] ?? null, now: share }));
    const otherLight = light ? lightWords(light, await lightOf(now)) : null;
    if (now().photograph !== photograph) return;
    if (masks.length > 0 || otherLight) now().set({ carried: { masks, words: otherLight ? [otherLight] : [] }, listed: 'regions' });
  } catch (error) {
    now().set({ notice: `What came along could not be measured. ${(error as Error).message}` });
  }
}
