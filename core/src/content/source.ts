import type { ColourSpace } from '../base/space.ts';
import type { FindPicture } from '../base/pictures.ts';
import type { SourceRaster } from '../base/sourceRaster.ts';
import type { Colour } from '../colour/colour.ts';
import type { CanBePulled } from '../colour/pull.ts';
import type { TakesColour } from '../colour/takesColour.ts';
import type { Kind } from '../base/kind.ts';
import type { Rect, Size, Scale } from '../base/geometry.ts';
import type { Planes } from '../base/planes.ts';
import type { MaskView } from '../mask/part.ts';
import type { SeenByStrokes } from '../mask/stroke.ts';

/** What a source knows while it draws a tile. */
export interface SourceView {
  readonly scale: Scale;
  readonly space: ColourSpace;
  readonly tile: Rect;
  /** What {@link Source.raster} gave; null for a source without. */
  readonly raster: SourceRaster | null;
}

/** What a source knows while it makes pixels that are kept. */
export interface RasterView extends SeenByStrokes, Pick<MaskView, 'photograph'> {
  readonly picture: Size;
  readonly full: Size;
  readonly find: FindPicture;
}

/** One kind of content that brings colours of its own instead of changing those below. */
export interface Source<K extends string, S> extends Kind<S>, TakesColour<S>, CanBePulled<S> {
  /** As in documents. */
  readonly kind: K;
  /** What it does, in one line and in plain words. */
  readonly explains: string;
  /** What a new layer of this kind has on a photograph of this size. */
  readonly create: (photo: Size) => S;
  /** A few words for the desk. */
  readonly summary: (settings: S) => string;
  /** Whether it shows what is below again: in normal mode it then changes nothing. */
  readonly repeatsBelow?: true;
  /** Whether what it does to a pixel depends on the pixel's colour alone, so that a table can hold it; left out: no. */
  readonly byColour?: (settings: S) => boolean;
  /** The one colour that it shows everywhere; null, or left out: it shows more. */
  readonly oneColour?: (settings: S) => Colour | null;
  /** The colours that it brings, those that matter most first; left out: none of its own. */
  readonly colours?: (settings: S) => readonly Colour[];
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
    readonly render: (settings: S, view: RasterView) => SourceRaster;
    /** The area of the full photograph in which two states can differ; null where it may be anywhere. */
    readonly changedArea: (before: S, after: S) => Rect | null;
  };
}
