import type { Weight } from '../base/weight.ts';
import type { Fit } from '../base/fit.ts';
import type { FindPhotograph } from '../base/pictures.ts';
import { Type, type TLiteral, type TObject, type TProperties } from '@sinclair/typebox';
import type { Colour } from '../colour/colour.ts';
import type { Control } from '../base/control.ts';
import type { Handle } from '../base/handle.ts';
import type { Rect, Size } from '../base/geometry.ts';
import type { Planes, Raster } from '../base/planes.ts';

/** How a part joins the parts before it: add `min(1, a + b)`, cut `max(0, a - b)`, keep common `a * b`. */
export type Combine = 'add' | 'cut' | 'common';

/** The photograph in OKLab, L times 100, a and b times 200: L 0..100, a and b about -80..80. */
export interface OklabPlanes {
  readonly l: Float32Array;
  readonly a: Float32Array;
  readonly b: Float32Array;
}

/** A mask within a part: what it is made of is the registry's to know. */
export interface InnerMask {
  readonly parts: readonly object[];
  readonly refine: readonly object[];
  readonly strength: number;
  readonly invert: boolean;
  readonly link?: string;
}

/** What a mask part or a refining step may look at while it covers a region. */
export interface MaskView {
  /** The size of the picture at the scale in work. */
  readonly picture: Size;
  /** The size of the full photograph, in whose pixels positions and radii are stored. */
  readonly full: Size;
  /** The pixels to cover, in the picture in work. */
  readonly region: Rect;
  /** The photograph's own pixels in the region. */
  readonly photograph: () => Planes;
  /** The same in OKLab. */
  readonly oklab: () => OklabPlanes;
  /** The same of another area; null where the photograph is not known. */
  readonly oklabOf: (area: Rect) => OklabPlanes | null;
  /** The whole photograph at the size of its overview level, the same at every scale in work; see {@link MaskPartKind.overview}. */
  readonly overview: () => Raster;
  /** Other photographs and masks of the shoot. */
  readonly find: FindPhotograph;
  /** The values, 0..65535, of a mask within a part; see {@link MaskPartKind.inner}. */
  readonly inner: (mask: InnerMask) => Uint16Array;
}

/** What every part has beside the settings of its kind. */
export interface PartBase {
  readonly id: string;
  readonly on: boolean;
  readonly invert: boolean;
  readonly combine: Combine;
  /** How much of the part counts, 0..1; left out: all of it. */
  readonly strength?: number;
  /** A name of its own. */
  readonly name?: string;
}

/** A colour taken from the photograph, and where: in pixels of the full photograph. */
export interface Taken {
  readonly colour: Colour;
  readonly x: number;
  readonly y: number;
}

/** One kind of mask part. */
export interface MaskPartKind<P extends PartBase & { readonly kind: string }> {
  readonly kind: P['kind'];
  /** As shown to people. */
  readonly name: string;
  readonly schema: TObject;
  /** The settings that the desk offers beside what is set on the photograph. */
  readonly controls: readonly Control<P>[];
  /** A new part of this kind, on a photograph of this size. */
  readonly create: (id: string, combine: Combine, photo: Size) => P;
  /** Whether a part needs the photograph's overview: for what depends on more than a pixel's surroundings. Left out: no. */
  readonly overview?: (part: P) => boolean;
  /** Whether a part looks at the picture below its layer instead of the photograph. Left out: no. */
  readonly readsBelow?: (part: P) => boolean;
  /** A mask within the part, if it has one: what that needs, the part needs. */
  readonly inner?: (part: P) => InnerMask | undefined;
  /** Other photographs or masks of the shoot that the settings name. */
  readonly photographs?: (part: P) => readonly number[];
  /** Writes the cover, 0..1, of every pixel of the region; `out` holds region.width * region.height values. */
  readonly cover: (part: P, view: MaskView, out: Float32Array) => void;
  /** The area of the full photograph whose cover can differ between two states of a part; null where it may be anywhere. */
  readonly changedArea: (before: P, after: P) => Rect | null;
  /** What of the part is heavy; left out: nothing. */
  readonly weight?: (part: P) => Weight;
  /** Changes a part in place so that it suits a photograph of another size, or lies elsewhere; left out where it has no place. */
  readonly fit?: (part: P, fit: Fit) => void;
  /** Changes a part in place by a colour taken from the photograph: widened to catch it, or narrowed to leave it out. */
  readonly take?: (part: P, taken: Taken, leaveOut: boolean) => void;
  /** The places on the photograph by which the part can be shaped. */
  readonly handles?: (part: P) => readonly Handle[];
  /** Changes a part in place: a handle is elsewhere now. */
  readonly moveHandle?: (part: P, name: string, x: number, y: number) => void;
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
      strength: Type.Optional(Type.Number({ minimum: 0, maximum: 1 })),
      name: Type.Optional(Type.String({ minLength: 1, maxLength: 60 })),
      ...settings,
    },
    { additionalProperties: false },
  );
}

/** What every new part begins with. */
export const newPart = <K extends string>(kind: K, id: string, combine: Combine) => ({ id, kind, on: true, invert: false, combine });

/** A position on the photograph, in pixels of the full photograph; may lie beside it. */
export const position = Type.Number({ minimum: -1e6, maximum: 1e6 });
