/** What an edit does on its photograph, in numbers that can be laid beside those of another. */
import { wholeOf, type Scale } from '../base/geometry.ts';
import type { Pictures } from '../base/pictures.ts';
import { createPlanes, createRaster, readRaster, writePlanes, type Raster } from '../base/planes.ts';
import { resample } from '../base/resample.ts';
import { findResolved, resolveLayers } from '../document/resolve.ts';
import { scaleOf } from '../document/scale.ts';
import { findMaskOwner } from '../document/tree.ts';
import type { UmboDocument } from '../document/types.ts';
import { pixelsInPicture } from '../geometry/framing.ts';
import { coversAll } from '../mask/mask.ts';
import { clippedShares } from '../measure/clipped.ts';
import { cover } from '../measure/cover.ts';
import { firstCorrection } from '../measure/firstCorrection.ts';
import { findPixels } from '../render/backdrop.ts';
import { renderRegion } from '../render/region.ts';
import { clippingWords, lightWords, maskWords, type Clipping, type Light } from './words.ts';

export interface CarryFacts {
  /** How much of the photograph each mask covers, 0..1, by the id of its owner; links cover what they lead to and are left out. */
  readonly shares: Readonly<Record<string, number>>;
  /** Share of the picture's pixels that had drawing and have lost it. */
  readonly clipped: number;
  /** What is neutral in the photograph. */
  readonly light: Light;
}

/**
 * @param photograph all of it, small
 * @param owners whose masks are measured
 */
export function factsOf(
  document: UmboDocument,
  scale: Scale,
  photograph: Raster,
  pictures: Pictures,
  owners: readonly string[],
): CarryFacts {
  const { area } = photograph;
  const roots = resolveLayers(document);
  const finder = findPixels(document, scale, area, photograph, pictures);
  const shares: Record<string, number> = {};
  for (const id of owners) {
    const where = findMaskOwner(document, id)?.where;
    const node = findResolved(roots, id);
    if (!node || !where || where.link !== undefined || coversAll(node.where)) continue;
    shares[id] = cover.measure({}, { picture: photograph, weight: finder.pixelsOf(node).mask!, scale });
  }
  const whole = halved(photograph);
  const { whiteBalance } = firstCorrection.measure({}, { picture: whole, weight: null, scale: scaleOf(document, whole.area) });
  return {
    shares,
    clipped: clippedIn(document, whole, pictures),
    light: { kelvin: whiteBalance.kelvin, tint: whiteBalance.tint },
  };
}

/** A picture of half the size: enough for numbers of the whole picture. */
function halved(photograph: Raster): Raster {
  const { width, height } = photograph.area;
  const size = { width: Math.ceil(width / 2), height: Math.ceil(height / 2) };
  const half = createRaster(wholeOf(size));
  resample(photograph, photograph.area, size, half.area, half);
  return half;
}

/** Share of the picture's pixels that had drawing and have lost it. */
function clippedIn(document: UmboDocument, photograph: Raster, pictures: Pictures): number {
  const { area } = photograph;
  const scale = scaleOf(document, area);
  const n = area.width * area.height;
  const [before, after] = [createPlanes(n), createPlanes(n)];
  readRaster(photograph, area, before);
  renderRegion(document, scale, area, photograph, pictures, (tile, pixels) => writePlanes(after, area, tile, pixels));
  const inside = pixelsInPicture(scale, area);
  const kept = (plane: Float32Array): Float32Array => (inside ? plane.filter((_, i) => inside[i] === 1) : plane);
  const [seen, made] = [before, after].map(({ r, g, b }) => ({ r: kept(r), g: kept(g), b: kept(b) })) as [typeof before, typeof after];
  return clippedShares(seen, made, seen.r.length).any;
}

/** A mask that came along. */
export interface CarriedMask {
  /** Of its owner here. */
  readonly id: string;
  readonly name: string;
  /** Share of the photograph, 0..1: there (null: not known), and here. */
  readonly before: number | null;
  readonly now: number;
  /** What there is to say of it; null: nothing. */
  readonly words: string | null;
}

/** What came of carrying to one photograph. */
export interface CarryReport {
  readonly masks: readonly CarriedMask[];
  readonly clipped: Clipping;
  /** What there is to say of the photograph as a whole. */
  readonly words: readonly string[];
}

/**
 * Lays what came along beside where it came from.
 * @param document the edit here, of the photograph with the SHA-256 `of`
 * @param here the owners here by those there
 * @param was what the edit here clipped before, 0..1
 */
export function cameWith(
  document: UmboDocument,
  of: string,
  here: ReadonlyMap<string, string>,
  there: CarryFacts,
  now: CarryFacts,
  was: number,
): CarryReport {
  const masks = Array.from(here, ([from, id]): CarriedMask | null => {
    const share = now.shares[id];
    const owner = findMaskOwner(document, id);
    if (share === undefined || !owner) return null;
    const before = there.shares[from] ?? null;
    return { id, name: owner.name, before, now: share, words: maskWords(owner, of, before, share) };
  });
  const clipped = { there: there.clipped, was, now: now.clipped };
  return {
    masks: masks.filter((mask) => mask !== null),
    clipped,
    words: [clippingWords(clipped), lightWords(there.light, now.light)].filter((words) => words !== null),
  };
}
