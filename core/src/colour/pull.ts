import type { ColourSpace } from '../base/space.ts';
import type { Colour } from './colour.ts';

/** Dragging on a colour of the photograph changes the setting that decides about it. */
export interface Pull<S> {
  /** What can be changed by dragging, such as "Hue"; one of them is chosen. */
  readonly qualities: readonly (readonly [string, string])[];
  /**
   * Changes settings in place as a drag does that began on `colour`.
   * @param by how far the drag went, in widths of the photograph's view: to the right or upwards is positive
   * @returns what was changed, in a word or two; null where the colour has no such setting
   */
  readonly drag: (settings: S, colour: Colour, quality: string, by: number, space: ColourSpace) => string | null;
  /** The name of the part of the settings that decides about a colour, where they have such parts; null where none does. */
  readonly partAt?: (settings: S, colour: Colour, space: ColourSpace) => string | null;
  /** For kinds with colours of their own: which of them lies at a place on the photograph; null where none does. Left out: what is below counts. */
  readonly colourAt?: (settings: S, x: number, y: number) => Colour | null;
}

/** Kinds whose settings can be pulled. */
export interface CanBePulled<S> {
  readonly pull?: Pull<S>;
}
