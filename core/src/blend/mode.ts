import { unit } from '../base/number.ts';
import type { Planes } from '../base/planes.ts';

/** One way of combining a layer's own colour with the picture below it. */
export interface BlendMode {
  /** As in documents; for W3C modes the CSS keyword. */
  readonly id: string;
  /** As shown to people. */
  readonly name: string;
  /** Replaces the first `n` pixels of `source` by the blend of `backdrop` and `source`. */
  readonly apply: (backdrop: Planes, source: Planes, n: number) => void;
}

/**
 * A mode that treats the channels alike (W3C Compositing and Blending Level 1, section 10.1).
 * @param plane blends one channel: replaces the first `n` values of `source`. A loop of its own in every mode's file, around a formula
 * of the file, is what lets the engine that runs it inline the formula: one loop for all modes takes five times as long.
 */
export function separable(plane: (backdrop: Float32Array, source: Float32Array, n: number) => void): BlendMode['apply'] {
  return (backdrop, source, n) => {
    plane(backdrop.r, source.r, n);
    plane(backdrop.g, source.g, n);
    plane(backdrop.b, source.b, n);
  };
}

/** A colour in the hands of a non-separable mode: r, g, b. */
export type Triple = Float64Array;

/** A mode that sees the whole colour (section 10.2). `f` leaves its result in `source`; neither argument may be kept. */
export function nonSeparable(f: (backdrop: Triple, source: Triple) => void): BlendMode['apply'] {
  return (backdrop, source, n) => {
    const [below, above] = [new Float64Array(3), new Float64Array(3)];
    for (let i = 0; i < n; i++) {
      below[0] = unit(backdrop.r[i]!);
      below[1] = unit(backdrop.g[i]!);
      below[2] = unit(backdrop.b[i]!);
      above[0] = unit(source.r[i]!);
      above[1] = unit(source.g[i]!);
      above[2] = unit(source.b[i]!);
      f(below, above);
      source.r[i] = above[0];
      source.g[i] = above[1];
      source.b[i] = above[2];
    }
  };
}
