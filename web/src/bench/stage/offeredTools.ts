import { adjustment } from '@umbo/core/adjust';
import { isSource } from '@umbo/core/content';
import { findLayer } from '@umbo/core/document';
import { hasPlace, maskPartKind } from '@umbo/core/mask';
import type { BenchState, Tool } from '../state/benchState';

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
    ...(part && maskPartKind(part.kind).tool === 'outline' ? (['outline'] as const) : []),
    ...(layer && hasPlace(layer.where) ? (['region'] as const) : []),
  ];
}
