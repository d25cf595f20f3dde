import { contentKind, findMaskOwner, isLayer } from '@umbo/core/document';
import { findPart, hasPlace, maskPartKind, maskPartKinds } from '@umbo/core/mask';
import type { BenchState, DrawTool, Tool } from '../state/benchState';

/** The kinds of mask parts that are drawn by a drag. */
export const drawnKinds = maskPartKinds.filter(({ draw }: { draw?: unknown }) => draw !== undefined);
const DRAW_TOOLS = drawnKinds.map(({ kind }): DrawTool => `draw ${kind}`);

/** The tools that have something to act on: with a layer, all that make a part of its mask. */
export function offeredTools({ document, layerId, partId }: BenchState): Tool[] {
  const layer = findMaskOwner(document, layerId);
  if (!layer) return ['move', 'crop', 'sample', 'read'];
  const part = findPart(layer.where, partId);
  return [
    'move',
    'crop',
    'paint',
    'erase',
    'sample',
    'read',
    ...(isLayer(layer) && contentKind(layer.what)?.pull ? (['pull'] as const) : []),
    'catch',
    ...(part && maskPartKind(part.kind).take ? (['leave'] as const) : []),
    'outline',
    ...DRAW_TOOLS,
    ...(hasPlace(layer.where) ? (['region'] as const) : []),
  ];
}
