/** How much of a region belongs to which hue family. */
import type { HueFamily } from '@umbo/core/colour';
import { familyShares } from '@umbo/core/measure';
import type { RegionMeasure } from '../../workers/protocol';

/** Empty while the region is not measured yet. */
export function sharesOf(region: RegionMeasure | null, layerId: string, families: readonly HueFamily[]): ReadonlyMap<string, number> {
  if (region?.layerId !== layerId) return new Map();
  const shares = familyShares(region.census.oklch, families);
  return new Map(families.map(({ id }, i) => [id, shares[i]!]));
}

export const percentWords = (share: number): string => (share > 0 && share < 0.01 ? '<1 %' : `${Math.round(share * 100)} %`);
