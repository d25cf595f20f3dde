import { adjustment, findLayer, hasPlace, isSource, maskPartKind } from '@umbo/core';
import type { BenchState, Tool } from './store';

/** The tools that make sense for the layer and the mask part in work. */
export function offeredTools({ document, layerId, partId }: BenchState): Tool[] {
  const layer = findLayer(document, layerId);
  const part = layer?.where.parts.find(({ id }) => id === partId);
  return [
    'move',
    'paint',
    'erase',
    'sample',
    ...(layer && !isSource(layer.what) && !('layers' in layer.what) && adjustment(layer.what.kind).pull ? (['pull'] as const) : []),
    ...(part && maskPartKind(part.kind).take ? (['catch', 'leave'] as const) : []),
    ...(part?.kind === 'outline' ? (['outline'] as const) : []),
    ...(layer && hasPlace(layer.where) ? (['region'] as const) : []),
  ];
}
