import { unit } from '../base/number.ts';
import type { Planes } from '../base/planes.ts';

/** One way of combining a layer's own colour with the picture below it. */
export interface BlendMode {
  /** As in documents; for W3C modes the CSS keyword. */
  readonly id: string;
  /** As shown to people. */
  readonly name: string;
  /** Replaces the first `n` pixels of `own` by the blend of `below` (the backdrop) and `own` (the source). */
  readonly apply: (below: Planes, own: Planes, n: number) => void;
}

/**
 * A mode that treats the channels alike (W3C Compositing and Blending Level 1, section 10.1).
 * @param plane blends one channel: replaces the first `n` values of `own`. A loop of its own in every mode's file, around a formula
 * of the file, is what lets the engine that runs it inline the formula: one loop for all modes takes five times as long.
 */
export function separable(plane: (below: Float32Array, own: Float32Array, n: number) => void): BlendMode['apply'] {
  return (below, own, n) => {
    plane(below.r, own.r, n);
    plane(below.g, own.g, n);
    plane(below.b, own.b, n);
  };
}

/** A colour in the hands of a non-separable mode: r, g, b. */
export type Triple = Float64Array;

/** A mode that sees the whole colour (section 10.2). `f` leaves its result in `source`; neither argument may be kept. */
export function nonSeparable(f: (backdrop: Triple, source: Triple) => void): BlendMode['apply'] {
  return (below, own, n) => {
    const backdrop = new Float64Array(3);
    const source = new Float64Array(3);
    for (let i = 0; i < n; i++) {
      backdrop[0] = unit(below.r[i]!);
      backdrop[1] = unit(below.g[i]!);
      backdrop[2] = unit(below.b[i]!);
      source[0] = unit(own.r[i]!);
      source[1] = unit(own.g[i]!);
      source[2] = unit(own.b[i]!);
      f(backdrop, source);
      own.r[i] = source[0];
      own.g[i] = source[1];
      own.b[i] = source[2];
    }
  };
}
