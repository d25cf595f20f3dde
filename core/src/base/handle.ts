/** A place on the photograph that belongs to the settings of a mask part or an adjustment, in pixels of the full photograph. */
export interface Handle {
  readonly name: string;
  readonly x: number;
  readonly y: number;
}

/** A number that can be typed for what is drawn on the photograph. */
export interface TypedNumber<S> {
  readonly label: string;
  readonly unit: '°' | 'px';
  readonly min: number;
  readonly max: number;
  readonly get: (settings: S) => number;
  /** Changes settings in place. */
  readonly set: (settings: S, value: number) => void;
}
