import type { MaskPartKind } from './part.ts';
import type { RefineStep } from './refineRegistry.ts';
import { brush } from './parts/brush.ts';
import { clipped } from './parts/clipped.ts';
import { ellipse } from './parts/ellipse.ts';
import { frameEdge } from './parts/frameEdge.ts';
import { gradient } from './parts/gradient.ts';
import { hueRange } from './parts/hueRange.ts';
import { likeness } from './parts/likeness.ts';
import { luminosity } from './parts/luminosity.ts';
import { outOfGamut } from './parts/outOfGamut.ts';
import { outline } from './parts/outline.ts';
import { pick } from './parts/pick.ts';
import { picture } from './parts/picture.ts';
import { texture } from './parts/texture.ts';

/** Every kind of mask part, in the order in which it is offered. */
export const maskPartKinds = [
  hueRange,
  luminosity,
  likeness,
  pick,
  gradient,
  ellipse,
  outline,
  brush,
  frameEdge,
  texture,
  outOfGamut,
  clipped,
  picture,
] as const;

type PartOf<T> = T extends MaskPartKind<infer P> ? P : never;
export type MaskPart = PartOf<(typeof maskPartKinds)[number]>;

/** Where a layer acts. No parts: everywhere. */
export interface Mask {
  parts: MaskPart[];
  /** Refining steps in order. */
  refine: RefineStep[];
  /** 0..1; less than 1 lets some of the layer act everywhere. */
  strength: number;
  invert: boolean;
  /** The layer whose parts and refining steps stand in for those here, so that one edit serves both; strength and invert stay this mask's own. */
  link?: string;
}

const byKind = new Map<string, unknown>(maskPartKinds.map((kind) => [kind.kind, kind]));

/** The kind of a part. @throws RangeError for a kind that is not registered */
export function maskPartKind<P extends MaskPart>(kind: P['kind']): MaskPartKind<P> {
  const found = byKind.get(kind);
  if (!found) throw new RangeError(`There is no mask part "${kind}"`);
  return found as MaskPartKind<P>;
}

/** The mask within a part. Kinds know no more of it than that it is one, so that they need not know each other. */
export const innerMask = (part: MaskPart): Mask | undefined => maskPartKind(part.kind).inner?.(part) as Mask | undefined;
