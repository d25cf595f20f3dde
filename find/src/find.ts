/** Everything that is found on a photograph. */
import type { Nets } from './nets.ts';
import type { Picture } from './picture.ts';
import { findPortrait } from './portrait.ts';
import type { FoundRegion, Progress } from './regions.ts';
import { findObject, findSky } from './scene.ts';

export interface Found {
  readonly regions: readonly FoundRegion[];
  readonly hasFaces: boolean;
}

/** Finds people and what of them is what; where nobody is, the sky and the main object. */
export async function findRegions(picture: Picture, nets: Nets, progress: Progress): Promise<Found> {
  const people = await findPortrait(picture, nets, progress);
  if (people.length > 0) return { regions: people, hasFaces: people.some(({ role }) => role === 'person') };
  // A smooth wall is taken for a sky: it is offered only where nobody is in the picture.
  return { regions: [findSky(picture), findObject(picture)].filter((one) => one !== null), hasFaces: false };
}
