/** Everything that is found on a photograph, or what is asked for. */
import type { Nets } from './nets.ts';
import type { Picture } from './picture.ts';
import { findPortrait } from './portrait.ts';
import type { Came, FoundRegion, Progress, Wanted } from './regions.ts';
import { findObject, findSky } from './scene.ts';

export interface Found {
  readonly regions: readonly FoundRegion[];
  readonly hasFaces: boolean;
}

/**
 * Finds people and what of them is what; where nobody is, the sky and the main object.
 * @param came is given what is found as it comes; all of it is returned in the end
 */
export async function findRegions(
  picture: Picture,
  nets: Nets,
  progress: Progress,
  wanted: Wanted = null,
  came: Came = async () => undefined,
): Promise<Found> {
  const { faces, regions } = await findPortrait(picture, nets, progress, wanted, came);
  if (faces > 0) return { regions, hasFaces: true };
  // A smooth wall is taken for a sky: it is offered only where nobody is in the picture.
  const scene = [
    { role: 'sky', find: findSky },
    { role: 'object', find: findObject },
  ] as const;
  const found: FoundRegion[] = [];
  for (const { role, find } of scene) {
    const region = wanted && !wanted.has(role) ? null : find(picture);
    if (!region) continue;
    found.push(region);
    await came([region]);
  }
  return { regions: found, hasFaces: false };
}
