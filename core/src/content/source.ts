import type { TObject } from '@sinclair/typebox';
import type { Control } from '../document/control.ts';
import type { Fit } from '../document/fit.ts';
import type { Scale } from '../mask/mask.ts';
import type { Rect, Size } from '../render/geometry.ts';
import type { Planes, Raster } from '../render/planes.ts';

/** Colours that are a layer's own, rendered once for a part of the picture: 16-bit encoded RGB and how far each pixel is covered. */
export interface OwnRaster extends Raster {
  readonly a: Uint16Array;
}

/** Another photograph, for layers that show it: a level of its pyramid and its size in full. */
export interface OtherPhotograph {
  readonly full: Size;
  readonly level: Raster;
}
/** Finds the pixels of another photograph, at least as fine as `shrink` (1: full size, 0.5: half) asks; null where there are none (yet). */
export type FindPhotograph = (id: number, shrink: number) => OtherPhotograph | null;

/** What a source knows while it draws a tile. */
export interface SourceView {
  readonly scale: Scale;
  readonly tile: Rect;
  /** What {@link Source.raster} gave; null for a source without. */
  readonly raster: OwnRaster | null;
}

/** One kind of content that brings colours of its own instead of changing those below. */
export interface Source<K extends string, S> {
  /** As in documents. */
  readonly kind: K;
  /** As shown to people. */
  readonly name: string;
  readonly schema: TObject;
  /** What a new layer of this kind has on a photograph of this size. */
  readonly create: (photo: Size) => S;
  /** The settings that the desk offers beside the editor of the kind. */
  readonly controls: readonly Control<S>[];
  /** A few words for the desk. */
  readonly summary: (settings: S) => string;
  /** For a source that repeats what is below: how often it is blended over it. */
  readonly times?: (settings: S) => number;
  /** The mode in which a new layer of this kind begins; normal when left out. */
  readonly mode?: string;
  /**
   * Writes the colours of a tile, row by row, and into `cover` how far each pixel is covered (0..1).
   */
  readonly draw: (settings: S, view: SourceView, below: Planes, own: Planes, cover: Float32Array) => void;
  /** For what is too much work for every frame: pixels that are kept until the settings change. */
  readonly raster?: {
    readonly render: (settings: S, scale: Scale, region: Rect, find: FindPhotograph) => OwnRaster;
    /** The area of the full photograph in which two states can differ; null where it may be anywhere. */
    readonly changedArea: (before: S, after: S) => Rect | null;
  };
  /** Photographs beside the one in work that the settings name. */
  readonly photographs?: (settings: S) => readonly number[];
  /** Changes settings in place so that they suit a photograph of another size; left out where nothing depends on size. */
  readonly fit?: (settings: S, fit: Fit) => void;
}
