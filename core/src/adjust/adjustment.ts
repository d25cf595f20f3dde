import type { TObject } from '@sinclair/typebox';
import type { Control } from '../document/control.ts';
import type { Planes } from '../render/planes.ts';

/** One kind of adjustment: a change of the picture below the layer, pixel by pixel. */
export interface Adjustment<K extends string, S> {
  /** As in documents. */
  readonly kind: K;
  /** As shown to people. */
  readonly name: string;
  readonly schema: TObject;
  readonly defaults: S;
  /** The settings in the order of the desk. */
  readonly controls: readonly Control<S>[];
  /** Whether these settings change nothing. */
  readonly isNeutral: (settings: S) => boolean;
  /** Changes the first `n` pixels in place. */
  readonly apply: (settings: S, pixels: Planes, n: number) => void;
}
