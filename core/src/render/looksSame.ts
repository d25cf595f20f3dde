/** Whether two states of layers look the same: what is kept of one state, on the stage and for masks of the result, serves the other then. */
import { isSource, sourceKind } from '../content/registry.ts';
import type { ResolvedLayer } from '../document/resolve.ts';
import { coversAll } from '../mask/mask.ts';

/**
 * A new name or note does not change the picture.
 * @param which `pixels` counts what masks and rasters hold, too; `layers` only that they are there
 */
export function looksSame(a: ResolvedLayer, b: ResolvedLayer, which: 'pixels' | 'layers'): boolean {
  if (a === b) return true;
  const [x, y] = [a.layer, b.layer];
  if (x.id !== y.id || x.on !== y.on || x.how !== y.how || x.clip !== y.clip || x.what.kind !== y.what.kind) return false;
  if (coversAll(a.where) !== coversAll(b.where)) return false;
  if (which === 'pixels' && a.where !== b.where) return false;
  const hasRaster = isSource(x.what) && sourceKind(x.what.kind).raster !== undefined;
  if (x.what.settings !== y.what.settings && (which === 'pixels' || !hasRaster)) return false;
  return a.layers.length === b.layers.length && a.layers.every((child, i) => looksSame(child, b.layers[i]!, which));
}

/** The same for all of several layers, and what their masks and rasters hold. */
export const allLookSame = (a: readonly ResolvedLayer[], b: readonly ResolvedLayer[]): boolean =>
  a.length === b.length && a.every((node, i) => looksSame(node, b[i]!, 'pixels'));
