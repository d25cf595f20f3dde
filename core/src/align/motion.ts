/** From places of the first picture, about its middle, to places of the second, about its own: leant, scaled, turned, then shifted. */
export interface Motion {
  readonly dx: number;
  readonly dy: number;
  /** Radians, from x to y. */
  readonly turn: number;
  readonly scale: number;
  /** Perspective: a place (x, y) is divided by 1 + lean · (x, y), per pixel; left out: none. */
  readonly lean?: readonly [number, number];
}
