/** What a bench holds, slice by slice. Only types: the slices themselves are in `slices/`. */
import type { Rect, Size } from '@umbo/core/base';
import type { Colour } from '@umbo/core/colour';
import type { Recipe, Side, Spot } from '@umbo/core/document';
import type { NamedLab } from '@umbo/core/format';
import type { Combine, Mask, MaskPart } from '@umbo/core/mask';
import type { Found, Histogram, MaskHealth, MeasurementKind, Task } from '@umbo/core/measure';
import type { Warning } from '@umbo/core/warnings';
import type { ReadingValues, Solved } from '@umbo/core/solve';
import type { VersionSummary } from '@umbo/data';
import type { StoreApi } from 'zustand';
import type {
  LitUp,
  Look,
  MaskThumbnail,
  MeasuredOf,
  MaskView,
  PictureMeasure,
  PictureThumbnail,
  ComparedSide,
  OutOfGamut,
  ProofChoice,
  RegionMeasure,
  SolveTask,
  Triple,
  View,
} from '../../workers/protocol';
import type { EditState } from '../keeping/editing';
import type { Conflict, KeepStatus } from '../keeping/keeper';
import type { SetAside } from '../keeping/setAside';
import type { CameAlong, Copied } from './copied';
import type { Heard } from './engine';

export interface PhotographInfo {
  id: number;
  /** The content of its file, as SHA-256. */
  sha256: string;
  name: string;
  width: number;
  height: number;
  bits: number;
  profile: string;
}

/** Draws a mask part of a kind by one drag. */
export type DrawTool = `draw ${MaskPart['kind']}`;
export type Tool = 'crop' | 'read' | 'pull' | 'move' | 'paint' | 'erase' | 'sample' | 'catch' | 'leave' | 'outline' | 'region' | DrawTool;

/** How a crop is made. */
export interface Cropping {
  /** What its sides keep to: nothing, the photograph's ratio, one with a name, typed sides, or those of another photograph's picture. */
  ratio: string;
  /** Sides that were typed, or are another picture's. */
  typed: Size;
  lines: 'thirds' | 'diagonals' | 'none';
  /** Whether it may reach beyond the photograph. */
  beyond: boolean;
  /** What a drag does: move the frame, draw a line that is to be level, or set the corners of what is to be upright. */
  hand: 'frame' | 'line' | 'corners';
}

/** How much of the photograph a sample is the mean of: a square of so many pixels, or an area that is dragged out. */
export type SampleSize = '1' | '5' | '31' | 'area';

/** Another photograph of the shoot. */
export interface Sibling {
  id: number;
  sha256: string;
  name: string;
  width: number;
  height: number;
}
/** A picture to take colours from. */
export type Reference =
  | { readonly kind: 'photograph'; readonly photograph: Sibling }
  /** From a file or the clipboard: this window alone has it. */
  | { readonly kind: 'own'; readonly key: string; readonly name: string; readonly image: ImageData };

/** What can be compared: the result, the photograph, and by their ids a layer (the stack up to it), a version, another photograph. */
export type Compared = 'result' | 'photograph' | 'unproofed' | `layer ${string}` | `version ${number}` | `other ${number}`;

export interface MaskPicture extends Sibling {
  isFound: boolean;
  /** All of it, a value for each pixel, while it is not on the server yet: its id is 0 then. */
  grey?: Uint8Array;
}

export interface ShootInfo {
  id: number;
  name: string;
  photographs: Sibling[];
  /** Masks that were imported, or found. */
  masks: MaskPicture[];
}

export interface BrushSettings {
  /** Diameter in pixels of the photograph. */
  size: number;
  /** A dab takes only what is this like the pixel under its centre; 0: everything. */
  alike: number;
  /** 0..1, as are flow and opacity. */
  hardness: number;
  flow: number;
  opacity: number;
}

export interface Probe {
  x: number;
  y: number;
  before: Triple;
  after: Triple;
  /** Below the selected layer, encoded sRGB, 0..1. */
  below: Colour | null;
  mask: number | null;
  /** What is around the pointer, for the magnifier. */
  around: PictureThumbnail | null;
}

/** The edit and its history, and whether it is kept. */
export interface EditSlice extends EditState {
  status: KeepStatus;
  conflict: Conflict | null;
  /** Changes that the server refused, in this browser: each can be saved as a file. */
  asides: readonly SetAside[];
  /** Shows a change without making it an entry of the history. */
  preview: (recipe: Recipe) => void;
  /** Makes a change. @returns false when the edit would not be sound; then nothing is changed, and a notice says why */
  commit: (label: string, recipe: Recipe) => boolean;
  cancelPreview: () => void;
  /** To a place in the history, 0 being the beginning. */
  go: (position: number) => Promise<void>;
  /** Undo (-1) or redo (1) of one step; presses add up while the history is read. */
  step: (by: 1 | -1) => Promise<void>;
  /** Resolves when everything is on the server that was done here. @throws Error when it cannot be kept */
  whenKept: () => Promise<void>;
  /** Something that is on its way to the server beside the edit. */
  alsoKeep: (storing: Promise<unknown>) => void;
  decide: (side: Side) => void;
  /** Lets go of a change that was set aside. */
  forget: (id: string) => Promise<void>;
}

/** What is worked on. */
export interface SelectionSlice {
  layerId: string | null;
  /** All selected layers; the one worked on is among them. */
  selection: readonly string[];
  /** The mask part that is worked on; null when it is the layer's own strokes. */
  partId: string | null;
  /** The gradient stop that is worked on, counted from the first. */
  stop: number;
  /** Which part of a layer’s settings is worked on, by the layer’s id, where its settings have parts: a range of hues. */
  settingsPart: Readonly<Record<string, string>>;
  select: (layerId: string | null, partId?: string | null) => void;
  selectAll: (ids: readonly string[]) => void;
}

/** What it is worked on with. */
export interface ToolSlice {
  tool: Tool;
  cropping: Cropping;
  sampleSize: SampleSize;
  /** The colour sampled last. */
  sample: Colour | null;
  /** The colour of the next stroke of a paint layer. */
  paintColour: Colour;
  brush: BrushSettings;
  /** How the next stroke joins the mask, with a brush of its own; null: as usual. */
  joins: Combine | null;
  /** The blend mode chosen last for layers with colours of their own, by their kind: a new one begins in it. */
  modes: Readonly<Record<string, string>>;
  /** Curves that were kept to begin with, by their names: points of shares 0..1. */
  ownCurves: Readonly<Record<string, readonly (readonly [number, number])[]>>;
  /** The colours that were chosen last, the newest first. */
  recentColours: readonly Colour[];
  /** The kinds that were added last, the newest first. */
  recentKinds: readonly string[];
  /** What a pull on the photograph changes: one of the qualities that the adjustment in work names. */
  pull: string;
  setBrush: (brush: Partial<BrushSettings>) => void;
}

/** In which numbers all readings are shown. */
export type Notation = 'rgb' | 'percent' | 'hsl' | 'lab' | 'lch' | 'oklch' | 'hex';

/** Places whose colours are read. */
export interface ReadingSlice {
  /** What readings are, by their ids: as measured, and as painted since then. */
  readings: ReadonlyMap<string, { readonly values: ReadingValues; readonly glimpse: Colour | null }>;
  /** The reading that is open in the list. */
  readingId: string | null;
  /** The one that is pointed at, in the list or on the photograph. */
  litReading: string | null;
  notation: Notation;
  /** Whether they are shown below the selected layer, too. */
  readsBelow: boolean;
  /** Pixels along the side of the next spot. */
  spotSide: Spot['side'];
  /** Colours of a list that was read, to choose targets from. */
  colourList: readonly NamedLab[];
  /** What is being solved, in words; null while nothing is. */
  solving: string | null;
  openReading: (id: string | null) => void;
  lightReading: (id: string | null) => void;
}

/** How the window is arranged: in this browser, for all photographs. */
export interface DeskSlice {
  /** What is folded away: the panels at the sides, and the cards to their names. */
  panels: { readonly side: boolean; readonly desk: boolean; readonly cards: boolean };
  /** Which sections of the desk are folded, where that was chosen: by the layer’s kind and the section. */
  folds: Readonly<Record<string, boolean>>;
  /** Notes that were put away for this photograph, by their keys. */
  dismissed: readonly string[];
  fold: (panels: Partial<DeskSlice['panels']>) => void;
  foldSection: (kind: string, section: DeskSection, folded: boolean) => void;
}
export type DeskSection = 'Where' | 'What' | 'How';

/** How the stage shows it. */
export interface ViewSlice {
  look: Omit<Look, 'layerId' | 'surround' | 'lit'>;
  /** A mask view that stands in while a range is dragged. */
  passingView: MaskView | null;
  /** The proof that was shown last; null: none was. */
  proofChoice: ProofChoice | null;
  /** Pixels that are lit up while a histogram or a range is pointed at. */
  lit: LitUp | null;
  surround: number;
  view: View;
  /** Whether the view follows the size of the stage. */
  fitted: boolean;
  /** In device pixels. */
  stageWidth: number;
  resize: (width: number, height: number) => void;
  /** Tells a new engine what the stage is, and what is seen on it. */
  stageAgain: () => void;
  setView: (view: View, fitted?: boolean) => void;
  /** The edit, or the tool, is another: its picture may be cut otherwise. */
  framingChanged: () => void;
  /** Shows all of the photograph. */
  fitView: () => void;
  setLook: (look: Partial<ViewSlice['look']>) => void;
  setPassingView: (view: MaskView | null) => void;
  setLit: (lit: LitUp | null) => void;
  setSurround: (surround: number) => void;
}

/** What the engine tells. */
export interface EngineSlice {
  /** How much is out of the gamut that is warned of; null where nobody asks. */
  outOfGamut: OutOfGamut | null;
  failure: string | null;
  loading: number | null;
  /** How far the answer to a question is that takes longer; null while there is none. */
  asking: number | null;
  /** Whether the stage does not show yet what it is to show. */
  rendering: boolean;
  /** How many measurements are made. */
  measuring: number;
  /** Of the whole photograph. */
  census: Float32Array | null;
  histogram: Histogram | null;
  /** Of what the mask of the selected layer lets in of the picture below it. */
  region: RegionMeasure | null;
  /** Of the result of all layers. */
  result: PictureMeasure | null;
  probe: Probe | null;
  thumbnails: {
    masks: Map<string, MaskThumbnail | null>;
    /** The picture as it is after a layer. */
    cards: Map<string, PictureThumbnail>;
    original: PictureThumbnail | null;
    result: PictureThumbnail | null;
  };
  /** The sequence number of the newest picture on the stage. */
  painted: number;
  /** Pictures of a colourway set's alternatives, beside each other. */
  alternatives: { setId: string; wanted: number; pictures: readonly { id: string; picture: PictureThumbnail }[] } | null;
  /** What was found when a mask was looked over, and the mask as it was then; null while it is not asked for. */
  health: { layerId: string; of: Mask; share: number; found: MaskHealth | null } | null;
  /** Takes what the engine says. */
  hear: (message: Heard) => void;
  /** Reads the colours under the pointer. @param stage the place on the stage, in device pixels */
  askProbe: (x: number, y: number, stage: readonly [number, number]) => void;
  /** Reads the mean colour of an area of the photograph, as it is below a layer. */
  askSample: (area: Rect, below: string | null) => Promise<Colour>;
  /** What may have gone too far in the edit. */
  warnings: readonly Warning[];
  /** Looks the edit over. */
  findWarnings: () => Promise<void>;
  /** The layer that does most of what a note is about. */
  askBehind: (key: string) => Promise<string | null>;
  /** Finds settings of a layer that bring readings to their aims. */
  solve: (task: SolveTask) => Promise<Solved>;
  /** Measures what a layer's mask lets in of the picture below it; null: the result of all layers. */
  measure: <K extends MeasurementKind>(
    task: Task<K>,
    layerId: string | null,
    how?: { of?: MeasuredOf; quietly?: boolean },
  ) => Promise<Found<K>>;
  /** Looks over the mask of a layer; null puts the findings away. @param share of the largest part up to which an island is too small to be meant */
  checkMask: (layerId: string | null, share: number) => void;
  /** The layers whose cards are in sight: they get pictures. */
  cardsInSight: readonly string[];
  showCards: (ids: readonly string[]) => void;
  /** Has all alternatives of a set shown beside each other; null ends it. */
  showAlternatives: (setId: string | null) => void;
}

/** The shoot around the photograph, and what is kept beside its edit. */
export interface ShootSlice {
  shoot: ShootInfo;
  /** Pictures that lie open beside the photograph in work; null while their place is closed. */
  references: readonly Reference[] | null;
  versions: readonly VersionSummary[];
  /** Puts something on a side of the comparison; what is not here is loaded first. */
  compareWith: (side: ComparedSide, what: Compared) => Promise<void>;
  refreshVersions: () => Promise<void>;
  /** How far the aligning of frames is, 0..1; null while nothing is being aligned. */
  aligning: number | null;
  /** How far the finding of regions is, 0..1; null while nothing is being found. */
  finding: number | null;
  /** A mask was imported into the shoot. */
  addMaskPicture: (mask: MaskPicture) => void;
  /** The server has a mask that was found here, under this number. */
  nameMaskPicture: (sha256: string, id: number) => void;
}

export interface BenchState extends EditSlice, SelectionSlice, ToolSlice, ReadingSlice, DeskSlice, ViewSlice, EngineSlice, ShootSlice {
  /** The id of the database that the photograph is in. */
  database: string;
  photograph: PhotographInfo;
  /** Groups of which only the card is shown, unless a selected layer is in them. */
  folded: readonly string[];
  /** What the kinds of layers are offered for: a new layer, one with the mask of the selected one, another kind for that; null: not at all. */
  offering: 'new' | 'same mask' | 'change' | null;
  /** The layers that are to be carried to other photographs; empty: all. Null: none are. */
  carrying: readonly string[] | null;
  /** The layers that are to be kept as a treatment; null: nothing is asked. */
  treating: readonly string[] | null;
  notice: string | null;
  /** What is being done by steps that are said one after the other; null: nothing is. */
  guide: Guide | null;
  /** Whether the field that finds everything is open. */
  searching: boolean;
  /** The photograph of the shoot that is to be opened instead. */
  leavingTo: number | null;
  /** What the side lists below its readings. */
  listed: 'history' | 'versions' | 'regions' | 'spread';
  /** Copied layers of which some are there already, by the id of the copied one: whether they are to be replaced is asked. */
  pasting: { copied: Copied; present: ReadonlyMap<string, string> } | null;
  /** What became of the masks that came along last; null: that has been put away. */
  carried: CameAlong | null;
  /** Puts the stage's canvas into a place of the page and starts the engine. */
  attach: (place: HTMLElement) => () => void;
  set: (
    values: Partial<
      Pick<
        BenchState,
        | 'tool'
        | 'cropping'
        | 'sampleSize'
        | 'sample'
        | 'paintColour'
        | 'joins'
        | 'stop'
        | 'settingsPart'
        | 'references'
        | 'finding'
        | 'aligning'
        | 'folded'
        | 'offering'
        | 'modes'
        | 'recentColours'
        | 'ownCurves'
        | 'recentKinds'
        | 'notice'
        | 'guide'
        | 'searching'
        | 'pasting'
        | 'carried'
        | 'carrying'
        | 'treating'
        | 'listed'
        | 'leavingTo'
        | 'pull'
        | 'panels'
        | 'folds'
        | 'dismissed'
        | 'brush'
        | 'notation'
        | 'readsBelow'
        | 'spotSide'
        | 'solving'
        | 'colourList'
        | 'proofChoice'
      >
    >,
  ) => void;
}

/** What is being done by steps that are said one after the other. */
export interface Guide {
  readonly intent: string;
  readonly step: number;
  /** The bench as it was before. */
  readonly began: BenchState;
}

export type BenchStore = StoreApi<BenchState>;
