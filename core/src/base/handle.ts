/** A place on the photograph that belongs to the settings of a mask part or an adjustment, in pixels of the full photograph. */
export interface Handle {
  readonly name: string;
  readonly x: number;
  readonly y: number;
}
