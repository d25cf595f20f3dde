import type { MaskPartKind } from './part.ts';
import type { RefineStep } from './refineRegistry.ts';
import { bracket } from './parts/bracket.ts';
import { brush } from './parts/brush.ts';
import { clipped } from './parts/clipped.ts';
import { ellipse } from './parts/ellipse.ts';
import { found } from './parts/found.ts';
import { frameEdge } from './parts/frameEdge.ts';
import { gradient } from './parts/gradient.ts';
import { grown } from './parts/grown.ts';
import { hueRange } from './parts/hueRange.ts';
import { likeness } from './parts/likeness.ts';
import { luminosity } from './parts/luminosity.ts';
import { outOfGamut } from './parts/outOfGamut.ts';
import { outline } from './parts/outline.ts';
import { pick } from './parts/pick.ts';
import { picture } from './parts/picture.ts';
import { texture } from './parts/texture.ts';
import { wellExposed } from './parts/wellExposed.ts';

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
  grown,
  bracket,
  frameEdge,
  texture,
  outOfGamut,
  clipped,
  wellExposed,
  picture,
  found,
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
  /**
   * The layer whose parts and refining steps stand in for parts here, so that one edit serves both. This mask's own refining steps come
   * after those; strength and invert stay its own.
   */
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
export function innerMask(part: MaskPart): Mask | undefined {
  const { inner } = maskPartKind(part.kind);
  return inner === undefined ? undefined : (part[inner] as Mask | undefined);
}

/** The region whose colours a part took. */
export function sampledFrom(part: MaskPart): string | undefined {
  const { sampled } = maskPartKind(part.kind);
  return sampled === undefined ? undefined : (part[sampled] as string | undefined);
}

/** A part with another mask within it. */
export const withInner = (part: MaskPart, mask: Mask): MaskPart => ({ ...part, [maskPartKind(part.kind).inner!]: mask });

/** A mask, and every mask within its parts. */
export function* eachMask(mask: Mask): Generator<Mask> {
  yield mask;
  for (const part of mask.parts) {
    const inner = innerMask(part);
    if (inner) yield* eachMask(inner);
  }
}

/** The list that holds a part, wherever in a mask it stands; undefined when it is not there. */
export function partsWith(mask: Mask, id: string | null): MaskPart[] | undefined {
  for (const { parts } of eachMask(mask)) if (parts.some((part) => part.id === id)) return parts;
  return undefined;
}

/** The list that a new part goes into while this part is in work: what stands in the same brackets, or in it, if it is brackets itself. */
export function partsAt(mask: Mask, id: string | null): MaskPart[] {
  const part = findPart(mask, id);
  const inner = part && maskPartKind(part.kind).open ? innerMask(part)! : undefined;
  return inner && inner.link === undefined ? inner.parts : (partsWith(mask, id) ?? mask.parts);
}

/** A part of a mask, wherever in it. */
export const findPart = (mask: Mask, id: string | null): MaskPart | undefined => partsWith(mask, id)?.find((part) => part.id === id);
