/** What the schema cannot say about a document. */
import type { Weight } from '../base/weight.ts';
import { innerMask, maskPartKind, type Mask } from '../mask/registry.ts';
import { contentKind } from './contentKind.ts';
import { childrenOf, eachLayer } from './tree.ts';
import type { Layer, UmboDocument } from './types.ts';

const LAYERS = 500;
const DEPTH = 8;
/** Numbers in all strokes together: more is not worked on smoothly. */
const STROKE_NUMBERS = 1_500_000;

/** Characters in all tables together. */
const TABLES = 20_000_000;

/**
 * @returns what is wrong, as the end of a sentence; null when the document is sound
 * @example
 * const twice = adjustmentLayer('a', 'exposure', 'A');
 * faultOf({ ...emptyDocument({ width: 60, height: 40 }), layers: [twice, twice] }); // → 'two layers have the id "a"'
 */
export function faultOf(document: UmboDocument): string | null {
  const byId = new Map<string, Layer>();
  const total = { strokes: 0, tables: 0 };
  for (const layer of eachLayer(document.layers)) {
    if (byId.has(layer.id)) return `two layers have the id "${layer.id}"`;
    byId.set(layer.id, layer);
    if (byId.size > LAYERS) return `it has more than ${LAYERS} layers`;
    if (layer.what.kind === 'colourways') {
      const { shown } = layer.what.settings;
      if (!layer.what.layers.some(({ id }) => id === shown)) return `the colourway set "${layer.name}" shows a layer that is not in it`;
    }
    for (const { strokes = 0, tables = 0 } of weightsOf(layer)) {
      total.strokes += strokes;
      total.tables += tables;
    }
    if (total.tables > TABLES) return 'its 3D LUTs together are larger than 20 MB';
    if (total.strokes > STROKE_NUMBERS) return 'its strokes together are longer than 500 000 points';
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

/** Of what a layer shows, of the parts of its mask, and of the masks within them. */
function weightsOf({ what, where }: Layer): Weight[] {
  const ofMask = (mask: Mask): Weight[] =>
    mask.parts.flatMap((part) => {
      const inner = innerMask(part);
      return [maskPartKind(part.kind).weight?.(part) ?? {}, ...(inner ? ofMask(inner) : [])];
    });
  return [contentKind(what)?.weight?.(what.settings) ?? {}, ...ofMask(where)];
}

const depthOf = (layers: readonly Layer[]): number =>
  layers.length === 0 ? 0 : 1 + Math.max(...layers.map((layer) => depthOf(childrenOf(layer))));
