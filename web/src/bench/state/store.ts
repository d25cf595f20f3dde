'use client';
/** The state of one bench. */
import type { Rect } from '@umbo/core/base';
import type { Colour } from '@umbo/core/colour';
import { eachLayer, findLayer, type Entry, type Recipe, type Side, type UmboDocument } from '@umbo/core/document';
import type { Mask } from '@umbo/core/mask';
import type { Histogram, MaskHealth } from '@umbo/core/measure';
import type { DocumentState, VersionSummary } from '@umbo/data';
import { createStore, type StoreApi } from 'zustand';
import { request } from '@/ui/request';
import type {
  Ask,
  FromEngine,
  Look,
  MaskThumbnail,
  MaskView,
  PictureThumbnail,
  RegionMeasure,
  Solutions,
  SolveTask,
  Triple,
  View,
} from '../../workers/protocol';
import { startEngine, type Engine } from './engine';
import { fit, withinReach } from './view';
import { keepInBrowser } from '../keeping/browser';
import { createEditing, type EditState } from '../keeping/editing';
import type { Conflict, Followed, Keeper, KeepStatus } from '../keeping/keeper';

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

export type Tool = 'pull' | 'move' | 'paint' | 'erase' | 'sample' | 'catch' | 'leave' | 'outline' | 'region';

/** Tools that belong to a mask part or a layer: they are put away when another one is chosen. */
const PART_TOOLS: readonly Tool[] = ['catch', 'leave', 'outline', 'pull'];

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
export interface ShootInfo {
  id: number;
  name: string;
  photographs: Sibling[];
  /** Masks that were imported. */
  masks: Sibling[];
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

export interface BenchState extends EditState {
  /** The id of the database that the photograph is in. */
  database: string;
  photograph: PhotographInfo;
  shoot: ShootInfo;
  layerId: string | null;
  /** All selected layers; the one worked on is among them. */
  selection: readonly string[];
  /** The mask part that is worked on; null when it is the layer's own strokes. */
  partId: string | null;
  tool: Tool;
  sampleSize: SampleSize;
  /** The colour sampled last. */
  sample: Colour | null;
  /** The colour of the next stroke of a paint layer. */
  paintColour: Colour;
  /** The gradient stop that is worked on, counted from the first. */
  stop: number;
  /** Photographs that lie open beside the one in work; null while their place is closed. */
  references: readonly number[] | null;
  /** Groups of which only the card is shown, unless a selected layer is in them. */
  folded: readonly string[];
  /** Whether the kinds of a new layer are offered. */
  offering: boolean;
  versions: readonly VersionSummary[];
  /** The version that the picture is compared with. */
  versionId: number | null;
  /** Pictures of a colourway set's alternatives, beside each other. */
  alternatives: { setId: string; wanted: number; pictures: readonly { id: string; picture: PictureThumbnail }[] } | null;
  brush: BrushSettings;
  /** What was found when a mask was looked over, and the mask as it was then; null while it is not asked for. */
  health: { layerId: string; of: Mask; found: MaskHealth | null } | null;
  look: Omit<Look, 'layerId' | 'surround'>;
  /** A mask view that stands in while a range is dragged. */
  passingView: MaskView | null;
  surround: number;
  view: View;
  /** Whether the view follows the size of the stage. */
  fitted: boolean;
  status: KeepStatus;
  conflict: Conflict | null;
  notice: string | null;
  failure: string | null;
  loading: number | null;
  /** How far the answer to a question is that takes longer; null while there is none. */
  asking: number | null;
  /** Of the whole photograph. */
  census: Float32Array | null;
  histogram: Histogram | null;
  /** Of what the mask of the selected layer lets in of the picture below it. */
  region: RegionMeasure | null;
  /** What a pull on the photograph changes: one of the qualities that the adjustment in work names. */
  pull: string;
  probe: Probe | null;
  thumbnails: { masks: Map<string, MaskThumbnail | null>; original: PictureThumbnail | null; result: PictureThumbnail | null };
  /** The sequence number of the newest picture on the stage. */
  painted: number;

  /** Puts the stage's canvas into a place of the page and starts the engine. */
  attach: (place: HTMLElement) => () => void;
  resize: (width: number, height: number) => void;
  setView: (view: View, fitted?: boolean) => void;
  /** Shows all of the photograph. */
  fitView: () => void;
  setLook: (look: Partial<BenchState['look']>) => void;
  setPassingView: (view: MaskView | null) => void;
  setSurround: (surround: number) => void;
  select: (layerId: string | null, partId?: string | null) => void;
  selectAll: (ids: readonly string[]) => void;
  set: (
    values: Partial<
      Pick<BenchState, 'tool' | 'sampleSize' | 'sample' | 'paintColour' | 'stop' | 'references' | 'folded' | 'offering' | 'notice' | 'pull'>
    >,
  ) => void;
  setBrush: (brush: Partial<BrushSettings>) => void;
  /** Reads the colours under the pointer. @param stage the place on the stage, in device pixels */
  askProbe: (x: number, y: number, stage: readonly [number, number]) => void;
  /** Reads the mean colour of an area of the photograph, as it is below a layer. */
  askSample: (area: Rect, below: string | null) => Promise<Colour>;
  /** Asks for what only a whole picture can tell; see {@link SolveTask}. */
  solve: <K extends SolveTask['kind']>(task: Extract<SolveTask, { kind: K }>, layerId: string | null) => Promise<Solutions[K]>;
  /** Compares the picture with a version; loads it. */
  compareWith: (versionId: number) => Promise<void>;
  refreshVersions: () => Promise<void>;
  /** Looks over the mask of a layer; null puts the findings away. @param side of what is too small to be meant, in pixels of the photograph */
  checkMask: (layerId: string | null, side: number) => void;
  /** A mask was imported into the shoot. */
  addMaskPicture: (mask: Sibling) => void;
  /** Has all alternatives of a set shown beside each other; null ends it. */
  showAlternatives: (setId: string | null) => void;
  /** Shows a change without making it an entry of the history. */
  preview: (recipe: Recipe) => void;
  /** Makes a change. @returns false when the edit would not be sound; then nothing is changed, and a notice says why */
  commit: (label: string, recipe: Recipe) => boolean;
  cancelPreview: () => void;
  /** Undo and redo: to a place in the history, 0 being the beginning. */
  go: (position: number) => Promise<void>;
  settled: () => Promise<void>;
  decide: (side: Side) => void;
}

export type BenchStore = StoreApi<BenchState>;

const WHY: Record<Followed['why'], string> = {
  newer: 'This photograph was changed in another window; its newest state is shown.',
  joined: 'This photograph was changed in another window, too; both sets of changes are joined.',
  decided: 'Both versions are in the history.',
  restored: 'Changes that had not reached the server before were found in this browser and are kept now.',
};

export function createBench(database: string, photograph: PhotographInfo, shoot: ShootInfo, initial: DocumentState): BenchStore {
  let engine: Engine | null = null;
  let keeper: Keeper | null = null;
  let stage = { width: 0, height: 0 };

  return createStore<BenchState>()((set, get) => {
    const sendLook = (): void => {
      const { look, layerId, surround, passingView } = get();
      engine?.setLook({ ...look, maskView: passingView ?? look.maskView, layerId, surround });
    };
    const keepSelection = (document: UmboDocument): void => {
      const { layerId, partId, selection, look } = get();
      const ids = new Set(Array.from(eachLayer(document.layers), ({ id }) => id));
      const gone = (id: string | null): boolean => id !== null && id !== 'photograph' && !ids.has(id);
      if (gone(look.peek.solo) || gone(look.peek.upTo)) get().setLook({ peek: { solo: null, upTo: null } });
      if (look.against.kind === 'layer' && gone(look.against.id)) get().setLook({ against: { kind: 'photograph' } });
      const layer = findLayer(document, layerId);
      if (!layer) get().select(document.layers.at(-1)?.id ?? null);
      else {
        if (selection.some(gone)) set({ selection: selection.filter((id) => !gone(id)) });
        if (partId && !layer.where.parts.some(({ id }) => id === partId)) set({ partId: layer.where.parts[0]?.id ?? null });
      }
    };
    /** What the edit has become: selections of what is gone end. */
    const moved = <T>(result: T): T => {
      keepSelection(get().committed);
      return result;
    };

    const ask = async <T>(question: Ask): Promise<T> => {
      if (!engine) throw new Error('The bench is closed.');
      return engine.ask<T>(question);
    };

    const listen = (message: FromEngine): void => {
      if (message.type === 'painted') set({ painted: message.seq, loading: null, failure: null });
      else if (message.type === 'loading') set({ loading: message.share < 1 ? message.share : null });
      else if (message.type === 'measured') set({ census: message.census, histogram: message.histogram });
      else if (message.type === 'region') set({ region: message.region });
      else if (message.type === 'asking') set({ asking: message.share < 1 ? message.share : null });
      else if (message.type === 'alternatives') {
        const { alternatives } = get();
        if (alternatives?.setId === message.setId)
          set({ alternatives: { setId: message.setId, wanted: message.wanted, pictures: message.pictures } });
      } else if (message.type === 'failed') set({ failure: message.message });
      else if (message.type === 'thumbnails')
        set({
          thumbnails: {
            masks: new Map([...get().thumbnails.masks, ...message.masks.map(({ id, mask }) => [id, mask] as const)]),
            original: message.original,
            result: message.result,
          },
        });
      else if (message.type === 'probed') {
        const { before, after, below, mask, around } = message;
        const probe = get().probe;
        if (probe) set({ probe: { ...probe, before, after, below, mask, around } });
      }
    };

    const lastLayer = initial.document.layers.at(-1);
    const state: BenchState = {
      database,
      photograph,
      shoot,
      document: initial.document,
      committed: initial.document,
      history: { labels: initial.labels, position: initial.position },
      layerId: lastLayer?.id ?? null,
      selection: lastLayer ? [lastLayer.id] : [],
      partId: lastLayer?.where.parts[0]?.id ?? null,
      tool: 'move',
      sampleSize: '5',
      sample: null,
      paintColour: [0.72, 0.5, 0.42],
      stop: 0,
      references: null,
      folded: [],
      offering: false,
      versions: [],
      versionId: null,
      alternatives: null,
      health: null,
      brush: { alike: 0, size: Math.round(Math.max(photograph.width, photograph.height) / 16), hardness: 0.3, flow: 0.2, opacity: 1 },
      look: { compare: 'after', against: { kind: 'photograph' }, peek: { solo: null, upTo: null }, wipe: 0.5, maskView: 'contours' },
      passingView: null,
      surround: 117,
      view: { x: 0, y: 0, zoom: 0.1 },
      fitted: true,
      status: { state: 'kept' },
      conflict: null,
      notice: null,
      failure: null,
      loading: null,
      asking: null,
      census: null,
      histogram: null,
      region: null,
      pull: '',
      probe: null,
      thumbnails: { masks: new Map(), original: null, result: null },
      painted: 0,

      attach(place) {
        // A canvas can be handed to a worker once only: each engine gets its own.
        const canvas = document.createElement('canvas');
        place.append(canvas);
        engine = startEngine(
          canvas,
          { id: photograph.id, sha256: photograph.sha256, width: photograph.width, height: photograph.height },
          [...shoot.photographs, ...shoot.masks].map(({ id, sha256, width, height }) => ({ id, sha256, width, height })),
          get().document,
          listen,
        );
        keeper = keepInBrowser({ database, photographId: photograph.id }, initial, {
          status: (status) => set({ status }),
          follow: (followed) => {
            editing.follow(followed);
            keepSelection(followed.document);
            set({ notice: WHY[followed.why] });
          },
          conflict: (conflict) => set({ conflict }),
        });
        sendLook();
        return () => {
          keeper?.close();
          engine?.close();
          engine = keeper = null;
          canvas.remove();
        };
      },
      resize(width, height) {
        stage = { width, height };
        engine?.setSize(stage);
        const { fitted, view } = get();
        if (fitted) get().fitView();
        else get().setView(view);
      },
      setView(view, fitted = false) {
        const next = withinReach(view, photograph, stage);
        set({ view: next, fitted });
        engine?.setView(next);
      },
      fitView() {
        get().setView(fit(photograph, stage, get().look.compare === 'beside' ? 2 : 1), true);
      },
      setLook(look) {
        const before = get().look.compare;
        set({ look: { ...get().look, ...look } });
        // Beside each other, each picture has half of the stage.
        if (get().fitted && before !== get().look.compare) get().fitView();
        sendLook();
      },
      setPassingView(passingView) {
        if (passingView === get().passingView) return;
        set({ passingView });
        sendLook();
      },
      setSurround(surround) {
        set({ surround });
        sendLook();
      },
      select(layerId, partId) {
        const layer = findLayer(get().document, layerId);
        const id = layer?.id ?? null;
        // The strokes of a paint layer come before the parts of its mask.
        const first = layer?.what.kind === 'paint' ? null : (layer?.where.parts[0]?.id ?? null);
        set({ layerId: id, selection: id === null ? [] : [id], partId: partId === undefined ? first : partId, stop: 0 });
        if (PART_TOOLS.includes(get().tool)) set({ tool: 'move' });
        if (id === null && get().tool !== 'sample') set({ tool: 'move' });
        sendLook();
      },
      selectAll(ids) {
        const added = ids.find((id) => !get().selection.includes(id));
        const layerId = added ?? (ids.includes(get().layerId ?? '') ? get().layerId : ids.at(-1));
        if (!layerId) return;
        if (layerId !== get().layerId) get().select(layerId);
        set({ selection: ids });
      },
      set: (values) => set(values),
      setBrush: (brush) => set({ brush: { ...get().brush, ...brush } }),
      askProbe(x, y, stagePoint) {
        const known = get().probe ?? { before: [0, 0, 0] as const, after: [0, 0, 0] as const, below: null, mask: null, around: null };
        set({ probe: { ...known, x, y } });
        engine?.probe(...stagePoint, get().tool === 'sample');
      },
      askSample: (area, below) => ask({ kind: 'sample', area, below }),
      solve: (task, layerId) => ask({ kind: 'solve', task, layerId }),
      async compareWith(versionId) {
        try {
          const { document: version } = await request<{ document: UmboDocument }>('GET', `/api/versions/${versionId}`);
          engine?.setVersion(version);
          set({ versionId });
          const { compare } = get().look;
          get().setLook({ against: { kind: 'version' }, compare: compare === 'after' ? 'wipe' : compare });
        } catch (error) {
          set({ notice: (error as Error).message });
        }
      },
      async refreshVersions() {
        try {
          set({ versions: await request<VersionSummary[]>('GET', `/api/photographs/${photograph.id}/versions`) });
        } catch (error) {
          set({ notice: `The versions could not be read: ${(error as Error).message}` });
        }
      },
      addMaskPicture(mask) {
        const now = get().shoot;
        set({ shoot: { ...now, masks: [...now.masks, mask] } });
        engine?.addOther(mask);
      },
      checkMask(layerId, side) {
        const layer = findLayer(get().document, layerId);
        set({ health: layer ? { layerId: layer.id, of: layer.where, found: null } : null });
        if (!layer) return;
        ask<MaskHealth>({ kind: 'health', layerId: layer.id, side }).then(
          (found) => {
            const { health } = get();
            if (health?.layerId === layer.id && health.of === layer.where) set({ health: { ...health, found } });
          },
          (error: Error) => set({ health: null, notice: `The mask was not looked over: ${error.message}` }),
        );
      },
      showAlternatives(setId) {
        set({ alternatives: setId === null ? null : { setId, wanted: 1, pictures: [] } });
        engine?.alternatives(setId);
      },
      preview: (recipe) => editing.preview(recipe),
      commit: (label, recipe) => moved(editing.commit(label, recipe)),
      cancelPreview: () => editing.cancelPreview(),
      go: async (position) => moved(await editing.go(position)),
      settled: () => keeper?.settled() ?? Promise.resolve(),
      decide: (side) => keeper?.decide(side),
    };
    const editing = createEditing({
      get: () => get() ?? state,
      set,
      show: (patches) => engine?.patch(patches),
      push: (step, document) => keeper?.push(step, document),
      async fetchEntries(from, to) {
        await get().settled();
        const query = `from=${from}&to=${to}&revision=${keeper?.revision()}`;
        return request<Entry[]>('GET', `/api/photographs/${photograph.id}/entries?${query}`);
      },
      say: (notice) => set({ notice }),
      newId: () => crypto.randomUUID(),
    });
    return state;
  });
}
