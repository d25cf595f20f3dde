/** What the bench and its engine say to each other. */
import type { Framing, Lattice, SourceRaster, PictureNeed, Rect, Scale, Size } from '@umbo/core/base';
import type { Colour } from '@umbo/core/colour';
import type { Aim, Layer, Patch, Peek, Turned, UmboDocument } from '@umbo/core/document';
import type { AnyTask, Found, Histogram, Lit } from '@umbo/core/measure';
import type { ReadingValues } from '@umbo/core/solve';

export type Compare = 'after' | 'before' | 'wipe' | 'beside' | 'difference' | 'blink';
export type MaskView = 'photo' | 'spotlight' | 'contours' | 'plain' | 'dimmed';

/** Beside each other, both pictures are moved this far from the middle, so that each half shows the middle of the stage. */
export const besideShift = (stageWidth: number): number => Math.round(stageWidth / 4);

/** Where the picture lies on the stage, in device pixels. */
export interface View {
  /** The picture's top left corner. */
  x: number;
  y: number;
  /** Device pixels per pixel of the picture. */
  zoom: number;
  /** The picture that is cut from the photograph; left out: all of it. */
  framing?: Framing | undefined;
  /** Whether it is being chosen how the picture is cut: then all of the photograph is seen. */
  choosing?: boolean;
}

/** Pixels on each side of what the magnifier shows; odd, so that one is in the middle. */
export const MAGNIFIED = 15;

/** What the picture is compared with: the photograph, itself without the proof, the stack up to a layer, or an edit that was told: a version, another photograph. */
export type Against = { kind: 'photograph' } | { kind: 'unproofed' } | { kind: 'layer'; id: string } | { kind: 'told'; key: string };

/** Which of the two pictures that are compared. */
export type ComparedSide = 'before' | 'after';

/** How the stage shows what a press, or another display, makes of the picture. */
export interface ProofChoice {
  /** The number of a profile of the shoot, or the name of one of our spaces. */
  profile: string;
  intent: 'perceptual' | 'relative' | 'saturation' | 'absolute';
  /** Whether the darkest black there is becomes the darkest there. */
  black: boolean;
  /** Whether white is shown as the paper is. */
  paper: boolean;
  /** From how far out of the gamut colours are outlined, in ΔE00; null: they are not. */
  warnFrom: number | null;
}

/** The tables of a proof. */
export interface Proof {
  /** From the working space to what the display shows of it. */
  readonly shown: Lattice;
  /** How far out of the gamut, in ΔE00, in all three channels; null where nobody asks. */
  readonly beyond: Lattice | null;
}

/** How much of the gamut warning there is: the share of what is on the stage that is out, and how far at most. */
export interface OutOfGamut {
  share: number;
  most: number;
}

/** ΔE00 that is the end of what is told apart. */
export const FARTHEST = 40;

/** How the stage shows what it shows. */
export interface Look {
  compare: Compare;
  against: Against;
  /** An edit that was told and stands in for the one in work, by its key; null: none does. */
  instead: string | null;
  /** While the two blink: which of them is seen. */
  blink: ComparedSide;
  /** What of the edit is looked at. */
  peek: Peek;
  /** Share of the stage's width at which the wipe stands. */
  wipe: number;
  maskView: MaskView;
  /** How a difference is shown: channels four times as strong, or CIEDE2000. */
  difference: 'channels' | 'deltaE';
  /** Whether pixels that are newly clipped are marked. */
  clipped: boolean;
  /** The layer whose mask is looked at. */
  layerId: string | null;
  /** Null: colours are shown as they are. */
  proof: ProofChoice | null;
  /** Grey of the stage, 0..255. */
  surround: number;
  /** Pixels that are lit up, instead of the layer's mask; null: none. */
  lit: LitUp | null;
}

/** Which pixels are lit up, and by which picture that is decided: below the layer, the photograph, or the result. */
export type LitUp = Lit & { readonly of: 'below' | 'photograph' | 'result' };

export type ToEngine =
  | {
      type: 'open';
      canvas: OffscreenCanvas;
      ports: MessagePort[];
      /** Of the worker that answers questions. */
      side: MessagePort;
      /** The space of the canvas. */
      display: PredefinedColorSpace;
      photograph: Other;
      others: Other[];
      document: UmboDocument;
    }
  | { type: 'size'; size: Size }
  | { type: 'view'; view: View; seq: number }
  | { type: 'look'; look: Look; seq: number }
  /** The layers whose cards are in sight. */
  | { type: 'cards'; ids: readonly string[] }
  | { type: 'patches'; patches: Patch[]; seq: number }
  /** An edit for one side of a comparison: a version, or one that shows another photograph. */
  | { type: 'told'; side: ComparedSide; document: UmboDocument; seq: number }
  /** A mask was imported into the shoot. */
  | { type: 'other'; other: Other }
  /** Asks for the colours at a place of the stage, in device pixels, and for the pixels around it if wanted. */
  | { type: 'probe'; x: number; y: number; id: number; around: boolean }
  | { type: 'ask'; ask: Ask; id: number }
  /** Asks for small pictures of all alternatives of a colourway set; null ends it. */
  | { type: 'alternatives'; setId: string | null };

/** Whether a layer's measurement is made below it, with it as it is before it is blended, or on the photograph. */
export type MeasuredOf = 'below' | 'own' | 'photograph';

/** A question that has one answer. */
export type Ask =
  /** The mean colour of an area of the full photograph, as it is below a layer. */
  | { kind: 'sample'; area: Rect; below: string | null }
  /** A measurement of what is below a layer (null: of the result), as far as the layer's mask lets it in. */
  | { kind: 'measure'; task: AnyTask; layerId: string | null; of: MeasuredOf }
  /** What may have gone too far. */
  | { kind: 'warnings' }
  /** The layer that does most of what a note is about, by its id; null when it is none. */
  | { kind: 'behind'; key: string }
  | PlacedAsk;

/** A question about readings. */
export type PlacedAsk =
  /** What readings are, also below a layer. */
  | { kind: 'read'; ids: readonly string[]; below: string | null }
  /** Settings of a layer that bring readings to their aims. */
  | ({ kind: 'solve' } & SolveTask);

export interface SolveTask {
  readonly layer: Layer;
  /** What puts a layer into the edit that is not there yet; null for one that is. */
  readonly put: readonly Patch[] | null;
  readonly turned: Turned;
  readonly wanted: readonly { readonly id: string; readonly aim: Aim }[];
  /** Share of the picture, 0..1, that it may newly clip; left out: as much as it takes. */
  readonly clips?: number;
}

/** What a layer's mask lets in of the picture below it. */
export interface RegionMeasure extends PictureMeasure {
  layerId: string;
  /** The same of all of the picture below. */
  below: PictureMeasure;
  /** The same of what the layer itself brings there, before it is blended. */
  own: Found<'histogram'>;
}
export interface PictureMeasure {
  census: Found<'census'>;
  histogram: Found<'histogram'>;
}

/** A photograph or a mask whose pixels are shown. */
export interface Other extends Size {
  /** Of the photograph or, where it is one, the mask. */
  id: number;
  /** Of its file. */
  sha256: string;
  isMask?: boolean;
  /** All of a mask, a value for each pixel, 0..255, where its file is not on the server yet. */
  grey?: Uint8Array;
}

/** All of a shoot that an edit can show. */
export const othersOf = ({ photographs, masks }: { photographs: readonly Other[]; masks: readonly Other[] }): Other[] => [
  ...photographs.map(({ id, sha256, width, height }) => ({ id, sha256, width, height })),
  ...masks.map(({ id, sha256, width, height, grey }) => ({ id, sha256, width, height, isMask: true, ...(grey && { grey }) })),
];

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
  /** Left out: sRGB. */
  space?: PredefinedColorSpace;
}

export type FromEngine =
  | { type: 'out of gamut'; out: OutOfGamut | null }
  | { type: 'painted'; seq: number }
  | { type: 'loading'; share: number }
  | { type: 'measured'; census: Float32Array; histogram: Histogram }
  | { type: 'region'; region: RegionMeasure | null; result: PictureMeasure }
  | { type: 'answered'; id: number; answer: unknown }
  | { type: 'unanswered'; id: number; message: string }
  /** How far the answer to a question is; 1 when it is there. */
  | { type: 'asking'; share: number }
  /** Pictures of alternatives as they get done; `wanted` is how many there will be. */
  | { type: 'alternatives'; setId: string; wanted: number; pictures: { id: string; picture: PictureThumbnail }[] }
  /** `below`: encoded sRGB, 0..1, below the selected layer. */
  | {
      type: 'probed';
      id: number;
      before: Triple;
      after: Triple;
      below: Colour | null;
      mask: number | null;
      around: PictureThumbnail | null;
    }
  /** Small pictures; of the masks, those that are new. */
  | {
      type: 'thumbnails';
      masks: { id: string; mask: MaskThumbnail | null }[];
      /** The picture as it is after a layer, of those cards in sight that show another one now. */
      cards: { id: string; picture: PictureThumbnail }[];
      original: PictureThumbnail;
      result: PictureThumbnail;
    }
  /** What readings are, by their ids: as measured, or as painted meanwhile. */
  | { type: 'readings'; measured: [string, ReadingValues][] }
  | { type: 'glimpsed'; colours: [string, Colour][] }
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
export interface SharedViewport {
  scale: Scale;
  /** The part that is rendered. */
  area: Rect;
  /** The photograph at this scale, `area` and a margin for masks. */
  source: SharedRaster;
  /** The space of what is shown. */
  display: PredefinedColorSpace;
  /** Finished pixels of `area`, as they are shown. */
  rgba: Uint8ClampedArray;
  /** The same in the working space; null where that is what is shown. */
  result: SharedRaster | null;
  /** How far out of the gamut the finished pixels are, 0..65535 for 0..{@link FARTHEST}; null where nobody asks. */
  beyond: Uint16Array | null;
  /** The picture below the layer in work: float planes of `area`. */
  below: { r: Float32Array; g: Float32Array; b: Float32Array };
  /** What the picture is compared with, where that is not the photograph. */
  before: Uint8ClampedArray;
}

export interface LayerJob {
  id: string;
  /** Mask values of the viewport's area; null where the layer acts everywhere. */
  mask: Uint16Array | null;
  /** The part of the mask to render anew. */
  maskDirty: Rect | null;
  /** Colours of the layer's own in the viewport's area, and the part of them to render anew. */
  source: SourceRaster | null;
  sourceDirty: Rect | null;
  /** What a filter made of the picture below it, in the viewport's area. */
  filtered: SharedRaster | null;
}

export type TileJob =
  | { type: 'source'; level: SharedRaster; levelSize: Size }
  /** Renders the masks and colours that are dirty. */
  | { type: 'pixels'; layers: LayerJob[] }
  /** Renders the picture below a layer in the viewport's area. */
  | { type: 'below'; id: string; layers: LayerJob[]; into: SharedRaster }
  /** Makes of that what the layer's filter makes of it. */
  | { type: 'filter'; id: string; from: SharedRaster; into: SharedRaster }
  | {
      type: 'render';
      layers: LayerJob[];
      /** The part of the picture to render. */
      rect: Rect;
      /** The first layer of the outermost list to apply; those below it are in `below` (0: begin with the photograph). */
      from: number;
      /** Keep the picture below this layer; -1: do not. */
      storeAt: number;
    }
  /** Renders another edit of the photograph into `before`. */
  | { type: 'before'; document: UmboDocument };

export type ToTile =
  | { type: 'document'; document: UmboDocument }
  | { type: 'patches'; patches: Patch[] }
  | { type: 'peek'; peek: Peek }
  /** What is looked at where that is a part of the edit, or of one that stands in for it, for the next jobs; null: all of the edit. */
  | { type: 'shown'; shown: { document: UmboDocument; edit: UmboDocument } | null }
  | { type: 'viewport'; viewport: SharedViewport }
  | { type: 'proof'; proof: Proof | null }
  /** What was loaded for a need. */
  | { type: 'picture'; need: PictureNeed; picture: { full: Size; level: SharedRaster } }
  | { type: 'question'; id: number; question: Question; control: Int32Array }
  /** `control[0]` counts the bands taken; `control[1]` is not 0 once the job is called off. */
  | { type: 'job'; id: number; job: TileJob; control: Int32Array; bandHeight: number };

/** A question with the pixels that it is answered from. */
export type Question = PictureQuestion | PlacedQuestion;
export interface PlacedQuestion {
  ask: PlacedAsk;
  /** By the ids of the readings. */
  places: Map<string, { scale: Scale; area: Rect; source: SharedRaster }>;
  /** All of the picture, small; where it is to be seen what is clipped. */
  whole: { scale: Scale; source: SharedRaster } | null;
}
export interface PictureQuestion {
  ask:
    | Exclude<Ask, PlacedAsk>
    | { kind: 'alternative'; setId: string; id: string }
    | { kind: 'thumbnails'; layerId: string | null; cards: readonly string[] };
  scale: Scale;
  source: SharedRaster;
}

/** Small pictures of an edit; of its masks, those that are new. */
export interface Thumbnails {
  masks: { id: string; mask: MaskThumbnail | null }[];
  cards: { id: string; picture: PictureThumbnail }[];
  original: PictureThumbnail;
  result: PictureThumbnail;
  region: RegionMeasure | null;
  /** Of the result of all layers. */
  whole: PictureMeasure;
}

export type FromTile =
  | { type: 'done'; id: number }
  | { type: 'error'; id: number; message: string }
  | { type: 'answer'; id: number; answer: unknown }
  | { type: 'progress'; id: number; share: number }
  /** An answer that nobody waits for any more. */
  | { type: 'stopped'; id: number };
