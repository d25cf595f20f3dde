/** Bringing positions and lengths to a photograph of another size. */
import type { Size } from './geometry.ts';

/** From pixels of one photograph to pixels of another. */
export interface Fit {
  readonly x: (v: number) => number;
  readonly y: (v: number) => number;
  /** For lengths without a direction: radii, the size of a brush. */
  readonly size: (v: number) => number;
}

export function fitBetween(from: Size, to: Size): Fit {
  const [sx, sy] = [to.width / from.width, to.height / from.height];
  const both = Math.sqrt(sx * sy);
  return { x: (v) => v * sx, y: (v) => v * sy, size: (v) => v * both };
}
