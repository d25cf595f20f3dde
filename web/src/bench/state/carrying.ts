'use client';
/** Masks that came along from another photograph: what each covers here, against there. */
import { eachMaskOwner, findMaskOwner, foundIn, toBeChecked, type UmboDocument } from '@umbo/core/document';
import type { BenchState } from './benchState';
import type { CarriedMask, Light, Shares } from './copied';
import { isElsewhere } from './finding';

type Now = () => BenchState;

/** Less than this of a photograph is nothing. */
const NOTHING = 0.0005;
/** By so much more or less a mask is worth a look. */
const APART = 2;

/** What there is to say of a mask that came along; null: nothing. */
export function wordsFor(state: Pick<BenchState, 'committed' | 'photograph'>, { id, before, now }: CarriedMask): string | null {
  const owner = findMaskOwner(state.committed, id);
  if (!owner) return 'is gone';
  if (now < NOTHING) return 'catches nothing';
  if ('where' in owner && !('what' in owner) && isElsewhere(state, owner)) return 'not found here';
  const words: string[] = [];
  if (before !== null && now > before * APART) words.push(`${(now / before).toFixed(1)} times as much`);
  if (before !== null && now < before / APART) words.push('less than half as much');
  if (toBeChecked(owner.where).length > 0) words.push('drawn: check');
  const part = 'what' in owner ? undefined : foundIn(owner);
  if (part && part.sure !== 'sure') words.push(part.sure);
  return words.length > 0 ? words.join(', ') : null;
}

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

/** Half of the cast is what first corrections take out: so far apart, in mired and in tint, two photographs are not in the same light. */
const OTHER_LIGHT = { mired: 15, tint: 6 } as const;

/** What is neutral in the photograph, as its first correction has it. */
export async function lightOf(now: Now): Promise<Light> {
  const { whiteBalance } = await now().measure({ kind: 'firstCorrection', settings: {} }, null, { of: 'photograph', quietly: true });
  return { kelvin: whiteBalance.kelvin, tint: whiteBalance.tint };
}

/** That layers were made in other light; null when they were not. */
export function lightWords(there: Light, here: Light): string | null {
  const mired = Math.abs(1e6 / there.kelvin - 1e6 / here.kelvin);
  const tint = Math.abs(there.tint - here.tint);
  if (mired < OTHER_LIGHT.mired && tint < OTHER_LIGHT.tint) return null;
  const say = ({ kelvin, tint: t }: Light): string => `${Math.round(kelvin / 50) * 50} K, tint ${t.toFixed(0)}`;
  return `The light is another: neutral there at ${say(there)}, here at ${say(here)}.`;
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
    if (masks.length > 0 || otherLight) now().set({ carried: { masks, otherLight }, listed: 'regions' });
  } catch (error) {
    now().set({ notice: `What came along could not be measured. ${(error as Error).message}` });
  }
}
