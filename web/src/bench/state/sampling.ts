'use client';
/** Colours that a part takes of a region, all at once. */
import { distinct } from '@umbo/core/carry';
import { findMaskOwner } from '@umbo/core/document';
import { eachMask, maskPartKind, sampledFrom } from '@umbo/core/mask';
import type { BenchState } from './benchState';
import { onPart } from './masks';

/** Gives a part the colours of a region, as the photograph has them. */
export async function sampleRegion(now: () => BenchState, ownerId: string, partId: string, regionId: string): Promise<void> {
  const region = findMaskOwner(now().committed, regionId);
  if (!region) return;
  try {
    const { colours } = await now().measure({ kind: 'ownColours', settings: {} }, regionId, { of: 'photograph', quietly: true });
    const different = distinct(colours);
    if (different.length === 0) return now().set({ notice: `“${region.name}” catches nothing whose colours could be taken.` });
    now().commit(
      `Colours of ${region.name}`,
      onPart(ownerId, partId, (part) => maskPartKind(part.kind).takeAll?.(part, different, regionId)),
    );
  } catch (error) {
    now().set({ notice: (error as Error).message });
  }
}

/** Takes the colours of regions anew, in the masks of these owners. */
export async function sampleAnew(now: () => BenchState, owners: readonly string[]): Promise<void> {
  for (const id of owners) {
    const where = findMaskOwner(now().committed, id)?.where;
    for (const { parts } of where ? eachMask(where) : [])
      for (const part of parts) {
        const from = sampledFrom(part);
        if (from !== undefined) await sampleRegion(now, id, part.id, from);
      }
  }
}
