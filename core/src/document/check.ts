/** What the schema cannot say about a document. */
import type { Mask } from '../mask/registry.ts';
import { childrenOf, eachLayer } from './tree.ts';
import type { Stroke } from '../mask/stroke.ts';
import type { Layer, UmboDocument } from './types.ts';

const LAYERS = 500;
const DEPTH = 8;
/** Numbers in all strokes together: more is not worked on smoothly. */
const STROKE_NUMBERS = 1_500_000;

/** Characters in all tables together. */
const TABLES = 20_000_000;

/** @returns what is wrong, as the end of a sentence; null when the document is sound */
export function faultOf(document: UmboDocument): string | null {
  const byId = new Map<string, Layer>();
  let numbers = 0;
  let tables = 0;
  for (const layer of eachLayer(document.layers)) {
    if (byId.has(layer.id)) return `two layers have the id "${layer.id}"`;
    byId.set(layer.id, layer);
    if (byId.size > LAYERS) return `it has more than ${LAYERS} layers`;
    if (layer.what.kind === 'colourways') {
      const { shown } = layer.what.settings;
      if (!layer.what.layers.some(({ id }) => id === shown)) return `the colourway set "${layer.name}" shows a layer that is not in it`;
    }
    if (layer.what.kind === 'lut3d') tables += layer.what.settings.table.length;
    if (tables > TABLES) return 'its 3D LUTs together are larger than 20 MB';
    const strokes = [...strokesIn(layer.where), ...(layer.what.kind === 'paint' ? layer.what.settings.strokes : [])];
    for (const { points } of strokes) numbers += points.length;
    if (numbers > STROKE_NUMBERS) return 'its strokes together are longer than 500 000 points';
  }
  if (depthOf(document.layers) > DEPTH) return `its groups are nested more than ${DEPTH} deep`;
  for (const layer of byId.values()) {
    const passed = new Set<string>();
    for (let at: Layer | undefined = layer; at?.where.link !== undefined; at = byId.get(at.where.link)) {
      if (passed.has(at.id)) return `the masks of "${layer.name}" and others are linked in a loop`;
      passed.add(at.id);
      if (!byId.has(at.where.link)) return `the mask of "${at.name}" is linked to a layer that does not exist`;
    }
  }
  return null;
}

/** Of the brushes of a mask, and of the masks that they paint through. */
const strokesIn = (mask: Mask): readonly Pick<Stroke, 'points'>[] =>
  mask.parts.flatMap((part) => (part.kind === 'brush' ? [...part.strokes, ...(part.through ? strokesIn(part.through as Mask) : [])] : []));

const depthOf = (layers: readonly Layer[]): number =>
  layers.length === 0 ? 0 : 1 + Math.max(...layers.map((layer) => depthOf(childrenOf(layer))));
