import type { ColourSpace } from '../base/space.ts';
import type { Colour } from '../colour/colour.ts';
import type { TakesColour } from '../colour/takesColour.ts';
import type { Kind } from '../base/kind.ts';
import type { Place, Scale } from '../base/geometry.ts';
import type { Planes, Raster } from '../base/planes.ts';

/** For an adjustment that looks at what surrounds a pixel: a filter. */
export interface Filter<S> {
  /** How many pixels at the scale in work away a pixel can still count; 0: with these settings each pixel is changed by itself. */
  readonly reach: (settings: S, scale: Scale) => number;
  /**
   * Changes the pixels of `picture` in place. Those nearer to its border than {@link reach} come out right only where the border is that
   * of the whole picture, so that results do not depend on the region in work.
   * @param picture 16-bit encoded RGB: what lies outside 0..1 was clamped
   */
  readonly apply: (settings: S, picture: Raster, scale: Scale) => void;
}

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
}

/** One kind of adjustment: a change of the picture below the layer. */
export interface Adjustment<K extends string, S> extends Kind<S>, TakesColour<S> {
  /** As in documents. */
  readonly kind: K;
  /** Under what it is offered. */
  readonly group: 'Colour' | 'Tone' | 'Toning' | 'Detail and light';
  readonly defaults: S;
  /** What new layers of this kind are called; by the kind when left out. */
  readonly layerName?: string;
  /** The blend mode in which a new layer of this kind begins; normal when left out. */
  readonly mode?: string;
  /** Whether these settings change nothing. */
  readonly isNeutral: (settings: S) => boolean;
  /** Changes the first `n` pixels in place, each by itself. Left out: only {@link filter} change anything. */
  readonly apply?: (settings: S, pixels: Planes, n: number, place: Place) => void;
  /** Whether a change depends on where a pixel is; the pixels are then all of the tile's, row by row. */
  readonly placed?: true;
  readonly filter?: Filter<S>;
  readonly pull?: Pull<S>;
}
