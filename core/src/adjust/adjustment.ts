import type { CanBePulled } from '../colour/pull.ts';
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

/** One kind of adjustment: a change of the picture below the layer. */
export interface Adjustment<K extends string, S> extends Kind<S>, TakesColour<S>, CanBePulled<S> {
  /** As in documents. */
  readonly kind: K;
  /** What it does, in one line and in plain words. */
  readonly explains: string;
  /** Under what it is offered: what it is wanted for. */
  readonly group: 'A hue' | 'A cast' | 'Light' | 'A look' | 'Surface';
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
}
