import type { Raster } from '../base/planes.ts';
import type { Scale } from '../base/geometry.ts';
import type { Layer } from '../document/types.ts';

/** What a measurement looks at, small: what a layer's mask lets in of the picture below the layer, or of the result of all layers. */
export interface Measured {
  /** For a measurement that needs only the mask: the photograph. */
  readonly picture: Raster;
  /** How much each pixel counts, 0..65535; null: all alike. */
  readonly weight: Uint16Array | null;
  readonly scale: Scale;
}

/** One kind of measurement: numbers found on a picture or a mask, and what is made of them. */
export interface Measurement<K extends string, S, R> {
  readonly kind: K;
  /** What has to be rendered for it: the picture with the mask, or the mask alone. */
  readonly needs: 'picture' | 'mask';
  readonly measure: (settings: S, of: Measured) => R;
  /** Writes what was found into the layer that it was found for, in place. */
  readonly apply?: (found: R, settings: S, layer: Layer) => void;
  /** New layers that do what was found. */
  readonly layers?: (found: R, newId: () => string) => Layer[];
}
