import { Type, type TLiteral, type TObject, type TProperties } from '@sinclair/typebox';
import type { Control } from '../document/control.ts';
import type { Fit } from '../document/fit.ts';
import type { Rect, Size } from '../render/geometry.ts';
import type { Planes } from '../render/planes.ts';

/** How a part joins the parts before it: add `min(1, a + b)`, cut `max(0, a - b)`, keep common `a * b`. */
export type Combine = 'add' | 'cut' | 'common';

/** What a mask part may look at while it covers a region. */
export interface MaskView {
  /** The size of the picture at the scale in work. */
  readonly picture: Size;
  /** The size of the full photograph, in whose pixels positions and radii are stored. */
  readonly full: Size;
  /** The pixels to cover, in the picture in work. */
  readonly region: Rect;
  /** The photograph's own pixels in the region. */
  readonly photograph: () => Planes;
}

/** What every part has beside the settings of its kind. */
export interface PartBase {
  readonly id: string;
  readonly on: boolean;
  readonly invert: boolean;
  readonly combine: Combine;
}

/** One kind of mask part. */
export interface MaskPartKind<P extends PartBase & { readonly kind: string }> {
  readonly kind: P['kind'];
  /** As shown to people. */
  readonly name: string;
  readonly schema: TObject;
  /** The settings that the desk offers beside what is set on the photograph. */
  readonly controls: readonly Control<P>[];
  /** A new part of this kind. */
  readonly create: (id: string, combine: Combine) => P;
  /** Writes the cover, 0..1, of every pixel of the region; `out` holds region.width * region.height values. */
  readonly cover: (part: P, view: MaskView, out: Float32Array) => void;
  /** The area of the full photograph whose cover can differ between two states of a part; null where it may be anywhere. */
  readonly changedArea: (before: P, after: P) => Rect | null;
  /** Changes a part in place so that it suits a photograph of another size; left out where nothing depends on size. */
  readonly fit?: (part: P, fit: Fit) => void;
  /** A few words for a chip, such as "Hue 312–18°". */
  readonly summary: (part: P) => string;
}

/** The schema of a part: the common fields and the settings of its kind. */
export function partSchema<K extends string, T extends TProperties>(kind: K, settings: T) {
  return Type.Object(
    {
      id: Type.String({ minLength: 1, maxLength: 40 }),
      kind: Type.Literal(kind) as TLiteral<K>,
      on: Type.Boolean(),
      invert: Type.Boolean(),
      combine: Type.Union([Type.Literal('add'), Type.Literal('cut'), Type.Literal('common')]),
      ...settings,
    },
    { additionalProperties: false },
  );
}
