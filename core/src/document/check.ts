/** What the schema cannot say about a document. */
import type { Weight } from '../base/weight.ts';
import { eachMask, innerMask, maskPartKind, type Mask } from '../mask/registry.ts';
import { MOST_PIXELS } from '../geometry/geometry.ts';
import { contentKind } from './contentKind.ts';
import { passedLimit } from './limits.ts';
import { brokenLink } from './resolve.ts';
import { pictureSizeOf } from './scale.ts';
import type { MaskOwner } from './region.ts';
import { childrenOf, eachMaskOwner, isLayer } from './tree.ts';
import type { Layer, UmboDocument } from './types.ts';

const LAYERS = 500;
/** In one mask, counting those of masks that it is linked to as often as it is. */
const PARTS = 1000;
const DEPTH = 8;
/** Numbers in all strokes together: more is not worked on smoothly. */
const STROKE_NUMBERS = 1_500_000;

/** Dabs of all brushes together: the work of drawing them. */
const DABS = 30e6;
/** Characters in all tables together. */
const TABLES = 20_000_000;

/**
 * @returns what is wrong, as the end of a sentence; null when the document is sound
 * @example
 * const twice = adjustmentLayer('a', 'exposure', 'A');
 * faultOf({ ...emptyDocument({ width: 60, height: 40 }), layers: [twice, twice] }); // → 'two layers have the id "a"'
 */
export function faultOf(document: UmboDocument): string | null {
  const limit = passedLimit(document);
  if (limit) return limit;
  const owners = new Map<string, MaskOwner>();
  const total = { strokes: 0, dabs: 0, tables: 0 };
  let layers = 0;
  for (const owner of eachMaskOwner(document)) {
    const { id, name, where } = owner;
    if (owners.has(id)) return `two layers have the id "${id}"`;
    owners.set(id, owner);
    if (isLayer(owner)) {
      if (++layers > LAYERS) return `it has more than ${LAYERS} layers`;
      if (owner.what.kind === 'colourways') {
        const { shown } = owner.what.settings;
        if (!owner.what.layers.some((layer) => layer.id === shown)) return `the colourway set "${name}" shows a layer that is not in it`;
      }
    }
    if (nestingOf(where) > DEPTH) return `the brackets in the mask of "${name}" are nested more than ${DEPTH} deep`;
    for (const { strokes = 0, dabs = 0, tables = 0 } of weightsOf(owner)) {
      total.strokes += strokes;
      total.dabs += dabs;
      total.tables += tables;
    }
    if (total.tables > TABLES) return 'its 3D LUTs together are larger than 20 MB';
    if (total.strokes > STROKE_NUMBERS) return 'its strokes together are longer than 500 000 points';
    if (total.dabs > DABS) return `its strokes together are made of more than ${DABS / 1e6} million dabs`;
  }
  if (depthOf(document.layers) > DEPTH) return `its groups are nested more than ${DEPTH} deep`;
  for (const owner of owners.values()) {
    const broken = brokenLink(owner, (id) => owners.get(id));
    if (broken?.kind === 'loop') return `the masks of "${owner.name}" and others are linked in a loop`;
    if (broken) return `the mask of "${broken.at.name}" is linked to a layer that does not exist`;
  }
  const { width, height } = pictureSizeOf(document);
  if (width * height > MOST_PIXELS) return `its picture has more than ${MOST_PIXELS / 1e6} megapixels`;
  const lost = document.readings?.find(({ spot, where }) => (spot === undefined) === (where === undefined));
  if (lost) return `reading ${lost.letter} has no place, or two`;
  const readings = new Set(document.readings?.map(({ id }) => id));
  if (readings.size < (document.readings?.length ?? 0)) return 'two readings have the same id';
  for (const { name, where } of owners.values()) {
    const parts = Array.from(eachMask(where)).flatMap((mask) => mask.parts);
    if (new Set(parts.map(({ id }) => id)).size < parts.length) return `two parts of the mask of "${name}" have the same id`;
  }
  const sizes = new Map<Mask, number>();
  for (const { name, where } of owners.values())
    if (partsIn(where, owners, sizes) > PARTS) return `the mask of "${name}" has more than ${PARTS} parts, with all that it is linked to`;
  return null;
}

/** The fault of an edit that it did not have before: what an earlier version of Umbo let through must not keep it from being changed. */
export function newFault(document: UmboDocument, before?: UmboDocument): string | null {
  const fault = faultOf(document);
  return fault !== null && before && faultOf(before) === fault ? null : fault;
}

/** Of what a layer shows, of the parts of its mask, and of the masks within them. */
function weightsOf(owner: MaskOwner): Weight[] {
  const content = isLayer(owner) ? (contentKind(owner.what)?.weight?.(owner.what.settings) ?? {}) : {};
  const parts = Array.from(eachMask(owner.where)).flatMap((mask) => mask.parts);
  return [content, ...parts.map((part) => maskPartKind(part.kind).weight?.(part) ?? {})];
}

function partsIn(mask: Mask, owners: ReadonlyMap<string, MaskOwner>, sizes: Map<Mask, number>): number {
  let count = sizes.get(mask);
  if (count === undefined) {
    const giver = mask.link === undefined ? undefined : owners.get(mask.link);
    count = giver ? partsIn(giver.where, owners, sizes) : mask.parts.length;
    for (const part of giver ? [] : mask.parts) {
      const inner = innerMask(part);
      if (inner) count += partsIn(inner, owners, sizes);
    }
    sizes.set(mask, count);
  }
  return count;
}

/** How deep masks stand in each other. */
const nestingOf = (mask: Mask): number => 1 + Math.max(0, ...mask.parts.map((part) => (innerMask(part) ? nestingOf(innerMask(part)!) : 0)));

const depthOf = (layers: readonly Layer[]): number =>
  layers.length === 0 ? 0 : 1 + Math.max(...layers.map((layer) => depthOf(childrenOf(layer))));
