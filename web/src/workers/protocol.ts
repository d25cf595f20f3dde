/** What the bench and its engine say to each other. */
import type { Patch, Rect, Scale, Size, UmboDocument } from '@umbo/core';

export type Compare = 'after' | 'before' | 'wipe';
export type MaskView = 'photo' | 'spotlight' | 'contours' | 'plain';

/** Where the photograph lies on the stage, in device pixels. */
export interface View {
  /** The photograph's top left corner. */
  x: number;
  y: number;
  /** Device pixels per pixel of the photograph. */
  zoom: number;
}

/** How the stage shows what it shows. */
export interface Look {
  compare: Compare;
  /** Share of the stage's width at which the wipe stands. */
  wipe: number;
  maskView: MaskView;
  /** The layer whose mask is looked at. */
  layerId: string | null;
  /** Grey of the stage, 0..255. */
  surround: number;
}

export type ToEngine =
  | { type: 'open'; canvas: OffscreenCanvas; ports: MessagePort[]; photographId: number; full: Size; document: UmboDocument }
  | { type: 'size'; size: Size }
  | { type: 'view'; view: View; seq: number }
  | { type: 'look'; look: Look; seq: number }
  | { type: 'patches'; patches: Patch[]; seq: number }
  | { type: 'document'; document: UmboDocument; seq: number }
  /** Asks for the colours at a place of the stage, in device pixels. */
  | { type: 'probe'; x: number; y: number; id: number };

export interface Thumbnail {
  width: number;
  height: number;
}
export interface MaskThumbnail extends Thumbnail {
  /** 0..1 */
  values: Float32Array;
}
export interface PictureThumbnail extends Thumbnail {
  rgba: Uint8ClampedArray<ArrayBuffer>;
}

export type FromEngine =
  | { type: 'painted'; seq: number; sharp: boolean }
  | { type: 'loading'; share: number }
  | { type: 'census'; bins: Float32Array }
  | { type: 'probed'; id: number; before: Triple; after: Triple; mask: number | null }
  | { type: 'thumbnails'; masks: { id: string; mask: MaskThumbnail | null }[]; original: PictureThumbnail; result: PictureThumbnail }
  | { type: 'failed'; message: string };
export type Triple = readonly [number, number, number];

/** Pixels of a part of the picture that all threads see. */
export interface SharedRaster {
  area: Rect;
  r: Uint16Array;
  g: Uint16Array;
  b: Uint16Array;
}

/** What tile workers need to know of the part of the picture that is on the stage. */
export interface SharedFrame {
  scale: Scale;
  /** The part that is rendered. */
  area: Rect;
  /** The photograph at this scale, `area` and a margin for masks. */
  source: SharedRaster;
  /** Finished pixels of `area`. */
  rgba: Uint8ClampedArray;
  /** The picture below the layer in work: float planes of `area`. */
  below: { r: Float32Array; g: Float32Array; b: Float32Array };
}

export interface LayerJob {
  id: string;
  /** Mask values of the frame's area; null where the layer acts everywhere. */
  mask: Uint16Array | null;
  /** The part of the mask to render anew. */
  dirty: Rect | null;
}

export type TileJob =
  | { type: 'source'; level: SharedRaster; levelSize: Size }
  | {
      type: 'render';
      layers: LayerJob[];
      /** The part of the picture to render. */
      rect: Rect;
      /** The first layer to apply; those below it are in `below` (0: begin with the photograph). */
      from: number;
      /** Keep the picture below this layer; -1: do not. */
      storeAt: number;
    };

export type ToTile =
  | { type: 'document'; document: UmboDocument }
  | { type: 'patches'; patches: Patch[] }
  | { type: 'frame'; frame: SharedFrame }
  /** `control[0]` counts the bands taken; `control[1]` is not 0 once the job is called off. */
  | { type: 'job'; id: number; job: TileJob; control: Int32Array; bandHeight: number };

export type FromTile = { type: 'done'; id: number } | { type: 'error'; id: number; message: string };
