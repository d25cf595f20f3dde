import type { ColourSpace } from '../base/space.ts';
import type { Kind } from '../base/kind.ts';
import type { FindPicture, RenderedPicture } from '../base/pictures.ts';
import { Type, type TLiteral, type TProperties } from '@sinclair/typebox';
import type { Colour } from '../colour/colour.ts';
import type { Rect, Size, Framing } from '../base/geometry.ts';
import type { Planes, Raster } from '../base/planes.ts';

/** How a part joins the parts before it: add `min(1, a + b)`, cut `max(0, a - b)`, keep common `a * b`. */
export type Combine = 'add' | 'cut' | 'common';

/** The photograph in OKLab, L times 100, a and b times 200: L 0..100, a and b about -80..80. */
export interface OklabPlanes {
  readonly l: Float32Array;
  readonly a: Float32Array;
  readonly b: Float32Array;
}

/** A mask within a part: what it is made of is for the registry to know. */
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
  /** What the photograph's colours mean. */
  readonly space: ColourSpace;
  /** The size of the full photograph, in whose pixels positions and radii are stored. */
  readonly full: Size;
  /** The picture that is cut from the photograph; left out: all of it. */
  readonly framing?: Framing | undefined;
  /** The pixels to cover, in the picture in work. */
  readonly region: Rect;
  /** The photograph's own pixels in the region. */
  readonly photograph: () => Planes;
  /** The same in OKLab. */
  readonly oklab: () => OklabPlanes;
  /** The same of another area; null where the photograph is not known. */
  readonly oklabOf: (area: Rect) => OklabPlanes | null;
  /** The whole photograph at the size of its overview level, the same at every scale in work; for a part that needs it. */
  readonly overview: () => Raster;
  /** What the part needs beside it. */
  readonly find: FindPicture;
  /** For a part that needs it: what the layer itself shows; null where that is nothing by itself, or the mask is no layer's. */
  readonly own: RenderedPicture | null;
  /** The values, 0..65535, of a mask within a part; see {@link MaskPartKind.inner}. */
  readonly inner: (mask: InnerMask) => Uint16Array;
}

/** A place on the photograph, in pixels of the full photograph. */
interface Spot {
  readonly x: number;
  readonly y: number;
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
  /** It was drawn on another photograph, and nobody has changed it here, or said that it is right. */
  readonly check?: true;
}

/** A colour taken from the photograph, and where: in pixels of the full photograph. */
export interface Taken {
  readonly space: ColourSpace;
  readonly colour: Colour;
  readonly x: number;
  readonly y: number;
}

/** One kind of mask part. */
export interface MaskPartKind<P extends PartBase & { readonly kind: string }> extends Kind<P> {
  readonly kind: P['kind'];
  /** Whether it is made by something else than a person who asks for one. */
  readonly comesByItself?: true;
  /** Whether it finds nothing on a layer that shows nothing by itself; left out: no. */
  readonly ofOwn?: true;
  /** A new part of this kind, on a photograph of this size. */
  readonly create: (id: string, combine: Combine, photo: Size) => P;
  /**
   * What becomes of it on another photograph: a rule stays as it is; what was drawn comes along, scaled, and has to be looked at; what was
   * found is found anew.
   */
  readonly travels: 'as it is' | 'to be checked' | 'found anew';
  /** Whether it covers what someone drew or picked, rather than what a rule of colour or tone finds: then what is painted later adds to it. */
  readonly drawn?: true;
  /** What its strokes do: cover where they go, or say what belongs to it and what does not; left out: it has none. */
  readonly strokes?: 'cover' | 'seeds';
  /** The setting that holds a mask within the part, where it has one: what that needs, the part needs. */
  readonly inner?: keyof P & string;
  /** The setting that names the region whose colours it took: on another photograph they are taken anew. */
  readonly sampled?: keyof P & string;
  /** Changes a part in place to one that took these colours, of a region, all at once. */
  readonly takeAll?: (part: P, colours: readonly Colour[], region: string) => void;
  /** Whether it is nothing but that mask: further parts can be put into it, and without any it does not count. */
  readonly open?: true;
  /** Writes the cover, 0..1, of every pixel of the region; `out` holds region.width * region.height values. */
  readonly cover: (part: P, view: MaskView, out: Float32Array) => void;
  /** The area of the full photograph whose cover can differ between two states of a part; null where it may be anywhere. */
  readonly changedArea: (before: P, after: P) => Rect | null;
  /** Changes a part in place by a colour taken from the photograph: widened to catch it, or narrowed to leave it out. */
  readonly take?: (part: P, taken: Taken, leaveOut: boolean) => void;
  /** The places from which it took colours, where it keeps them; `away`: to leave out what is like them. */
  readonly taken?: (part: P) => readonly { readonly x: number; readonly y: number; readonly away: boolean }[];
  /**
   * Changes a new part in place to what a drag over the photograph draws. @param even along whole steps of 15°, or as wide as high
   * @param from where the drag began, in pixels of the full photograph
   */
  readonly draw?: (part: P, from: Spot, to: Spot, even: boolean) => void;
  /** Changes a part in place to its next (1) or previous (-1) grade. */
  readonly stepGrade?: (part: P, by: 1 | -1) => void;
  /** Changes a part in place so that it catches clearly less: the middle of what it caught. */
  readonly narrow?: (part: P) => void;
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
      check: Type.Optional(Type.Literal(true)),
      ...settings,
    },
    { additionalProperties: false },
  );
}

/** What every new part begins with. */
export const newPart = <K extends string>(kind: K, id: string, combine: Combine) => ({ id, kind, on: true, invert: false, combine });

/** A position on the photograph, in pixels of the full photograph; may lie beside it. */
export const position = Type.Number({ minimum: -1e6, maximum: 1e6 });
