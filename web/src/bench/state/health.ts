import { findLayer } from '@umbo/core/document';
import type { BenchState } from './benchState';

/** What was found, while the mask is still as it was then. */
export function foundFor({ health, document }: BenchState) {
  return health && findLayer(document, health.layerId)?.where === health.of ? health.found : null;
}
