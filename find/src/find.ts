/** Everything that is found on a photograph, or what is asked for. */
import type { Nets } from './nets.ts';
import type { Picture } from './picture.ts';
import { findPortrait } from './portrait.ts';
import type { FoundRegion, Progress, Wanted } from './regions.ts';
import { findObject, findSky } from './scene.ts';

export interface Found {
  readonly regions: readonly FoundRegion[];
  readonly hasFaces: boolean;
}

/** Finds people and what of them is what; where nobody is, the sky and the main object. */
export async function findRegions(picture: Picture, nets: Nets, progress: Progress, wanted: Wanted = null): Promise<Found> {
  const { faces, regions } = await findPortrait(picture, nets, progress, wanted);
  if (faces > 0) return { regions, hasFaces: true };
  // A smooth wall is taken for a sky: it is offered only where nobody is in the picture.
  const scene = [
    { role: 'sky', find: findSky },
    { role: 'object', find: findObject },
  ] as const;
  const found = scene.flatMap(({ role, find }) => (wanted && !wanted.has(role) ? [] : (find(picture) ?? [])));
  return { regions: found, hasFaces: false };
}
