/** From places of the first picture, about its middle, to places of the second, about its own: scaled, turned, then shifted. */
export interface Motion {
  readonly dx: number;
  readonly dy: number;
  /** Radians, from x to y. */
  readonly turn: number;
  readonly scale: number;
}
