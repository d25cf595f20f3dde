import type { TObject } from '@sinclair/typebox';
import type { Fit } from '../document/fit.ts';
import { feather, type Feather } from './refine/feather.ts';

/** One kind of refining step: works on the combined mask, 0..65535, in place. */
export interface RefineKind<S extends { readonly kind: string }> {
  readonly kind: S['kind'];
  /** As shown to people. */
  readonly name: string;
  readonly schema: TObject;
  /** How many pixels away a pixel can still count. @param scale size of the picture in work relative to the full photograph */
  readonly reach: (step: S, scale: number) => number;
  /** Changes a step in place so that it suits a photograph of another size. */
  readonly fit: (step: S, fit: Fit) => void;
  readonly apply: (step: S, scale: number, plane: Uint16Array, width: number, height: number) => void;
}

export type RefineStep = Feather;

export const refineKinds = [feather] as const;

const byKind = new Map<string, RefineKind<RefineStep>>(refineKinds.map((kind) => [kind.kind, kind]));

/** @throws RangeError for a kind that is not registered */
export function refineKind(kind: string): RefineKind<RefineStep> {
  const found = byKind.get(kind);
  if (!found) throw new RangeError(`There is no refining step "${kind}"`);
  return found;
}
