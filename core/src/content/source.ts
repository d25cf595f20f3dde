import type { Weight } from '../base/weight.ts';
import type { Fit } from '../base/fit.ts';
import type { FindPhotograph } from '../base/pictures.ts';
import type { OwnRaster } from '../base/ownRaster.ts';
import type { TObject } from '@sinclair/typebox';
import type { Control } from '../base/control.ts';
import type { Rect, Size, Scale } from '../base/geometry.ts';
import type { Planes } from '../base/planes.ts';

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
  /** What of the settings is heavy; left out: nothing. */
  readonly weight?: (settings: S) => Weight;
  /** Changes settings in place so that they suit a photograph of another size; left out where nothing depends on size. */
  readonly fit?: (settings: S, fit: Fit) => void;
}
