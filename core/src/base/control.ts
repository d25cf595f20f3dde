/** How a setting is offered to people. Bounds come from the schema, the value to return to from the defaults. */
export interface Control<S> {
  readonly key: keyof S & string;
  readonly label: string;
  /** For numbers: a usual step, the unit that is shown, and whether a plus is. */
  readonly step?: number;
  readonly unit?: '' | '°' | '%' | 'px' | 'ΔE';
  readonly signed?: boolean;
  /** The bounds of its slider, where those of the schema are too wide for one. */
  readonly usual?: readonly [number, number];
  /** For one of a few words: the words and how they are shown. */
  readonly options?: readonly (readonly [string, string])[];
  /** For a hue: the model whose hues its slider shows. */
  readonly scale?: 'hue' | 'hsl';
  /** A colour, 0..1 of each channel, for an adjustment that changes each by itself: its slider's track shows what becomes of it at every place. */
  readonly shows?: readonly [number, number, number];
  /** Settings of the same section are shown together, one section at a time. */
  readonly section?: string;
  /** The hue family that the setting is for: shown with its share of the picture. */
  readonly family?: { readonly id: string; readonly name: string };
  /** For a colour: whether one that is sampled on the photograph goes here. */
  readonly sampled?: true;
  /** Whether the setting has any effect with these settings; true when left out. */
  readonly when?: (settings: S) => boolean;
}
