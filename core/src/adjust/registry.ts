import type { Adjustment } from './adjustment.ts';
import { hueSaturation } from './hueSaturation.ts';
import { levels } from './levels.ts';

/** Every adjustment, in the order in which it is offered. */
export const adjustments = [hueSaturation, levels] as const;

type ContentOf<A> = A extends Adjustment<infer K, infer S> ? { kind: K; settings: S } : never;
/** What an adjustment layer does: one kind and its settings. */
export type AdjustmentContent = ContentOf<(typeof adjustments)[number]>;

const byKind = new Map<string, unknown>(adjustments.map((adjustment) => [adjustment.kind, adjustment]));

/** @throws RangeError for a kind that is not registered */
export function adjustment<C extends AdjustmentContent>(kind: C['kind']): Adjustment<C['kind'], C['settings']> {
  const found = byKind.get(kind);
  if (!found) throw new RangeError(`There is no adjustment "${kind}"`);
  return found as Adjustment<C['kind'], C['settings']>;
}
