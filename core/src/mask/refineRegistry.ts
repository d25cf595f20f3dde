import type { RefineKind } from './refine.ts';
import { clean } from './refine/clean.ts';
import { contrast } from './refine/contrast.ts';
import { edges } from './refine/edges.ts';
import { feather } from './refine/feather.ts';
import { grow } from './refine/grow.ts';

/** Every kind of refining step, in the order in which it is offered. */
export const refineKinds = [clean, grow, feather, edges, contrast] as const;

type StepOf<T> = T extends RefineKind<infer S> ? S : never;
export type RefineStep = StepOf<(typeof refineKinds)[number]>;

const byKind = new Map<string, unknown>(refineKinds.map((kind) => [kind.kind, kind]));

/** The kind of a step. @throws RangeError for a kind that is not registered */
export function refineKind<S extends RefineStep>(kind: S['kind']): RefineKind<S> {
  const found = byKind.get(kind);
  if (!found) throw new RangeError(`There is no refining step "${kind}"`);
  return found as RefineKind<S>;
}
