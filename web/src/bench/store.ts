'use client';
/** The state of one bench. */
import { edit, patch, type Entry, type Patch, type Recipe, type UmboDocument } from '@umbo/core';
import type { Change, DocumentState } from '@umbo/data';
import { createStore, type StoreApi } from 'zustand';
import { request } from '@/ui/request';
import type { FromEngine, Look, MaskThumbnail, MaskView, PictureThumbnail, Triple, View } from '../workers/protocol';
import { startEngine, type Engine } from './engine';
import { fit, withinReach } from './view';
import { createKeeper, type Conflict, type Keeper, type KeepStatus } from './keeper';

export interface PhotographInfo {
  id: number;
  name: string;
  width: number;
  height: number;
  bits: number;
  profile: string;
}

export type Tool = 'move' | 'paint' | 'erase';

export interface BrushSettings {
  /** Diameter in pixels of the photograph. */
  size: number;
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
  mask: number | null;
}

export interface BenchState {
  photograph: PhotographInfo;
  /** What is shown: the kept edit, or a live preview of the change that is being made. */
  document: UmboDocument;
  /** The edit without the change that is being made. */
  committed: UmboDocument;
  history: { labels: string[]; position: number };
  layerId: string | null;
  partId: string | null;
  tool: Tool;
  brush: BrushSettings;
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
  census: Float32Array | null;
  probe: Probe | null;
  thumbnails: { masks: Map<string, MaskThumbnail | null>; original: PictureThumbnail | null; result: PictureThumbnail | null };
  /** The sequence number of the newest picture on the stage. */
  painted: number;

  /** Puts the stage's canvas into a place of the page and starts the engine. */
  attach: (place: HTMLElement) => () => void;
  resize: (width: number, height: number) => void;
  setView: (view: View, fitted?: boolean) => void;
  setLook: (look: Partial<BenchState['look']>) => void;
  setPassingView: (view: MaskView | null) => void;
  setSurround: (surround: number) => void;
  select: (layerId: string | null, partId?: string | null) => void;
  setTool: (tool: Tool) => void;
  setBrush: (brush: Partial<BrushSettings>) => void;
  /** Reads the colours under the pointer. @param stage the place on the stage, in device pixels */
  askProbe: (x: number, y: number, stage: readonly [number, number]) => void;
  /** Shows a change without making it an entry of the history. */
  preview: (recipe: Recipe) => void;
  /** Makes a change. */
  commit: (label: string, recipe: Recipe) => void;
  cancelPreview: () => void;
  /** Undo and redo: to a place in the history, 0 being the beginning. */
  go: (position: number) => Promise<void>;
  settled: () => Promise<void>;
  decide: (chosen: UmboDocument | null) => void;
  dismissNotice: () => void;
}

export type BenchStore = StoreApi<BenchState>;

/** Entries are fetched this many at a time when someone goes back further than this window knows. */
const PAGE = 50;

export function createBench(photograph: PhotographInfo, initial: DocumentState): BenchStore {
  let engine: Engine | null = null;
  let keeper: Keeper | null = null;
  let stage = { width: 0, height: 0 };
  /** The entries with their patches, as far as they are known here. */
  let entries: (Entry | null)[] = initial.labels.map(() => null);
  let travelling = false;

  return createStore<BenchState>()((set, get) => {
    const sendLook = (): void => {
      const { look, layerId, surround, passingView } = get();
      engine?.setLook({ ...look, maskView: passingView ?? look.maskView, layerId, surround });
    };
    /** Shows a document, and tells the engine the difference. */
    const show = (document: UmboDocument, patches: Patch[]): void => {
      if (patches.length > 0) engine?.patch(patches);
      set({ document });
    };
    const keepSelection = (document: UmboDocument): void => {
      const { layerId, partId } = get();
      const layer = document.layers.find(({ id }) => id === layerId);
      if (!layer) get().select(document.layers.at(-1)?.id ?? null);
      else if (partId && !layer.where.parts.some(({ id }) => id === partId)) set({ partId: layer.where.parts[0]?.id ?? null });
    };
    const remember = (entry: Entry): void => {
      const { labels, position } = get().history;
      entries = [...entries.slice(0, position), entry];
      set({ history: { labels: [...labels.slice(0, position), entry.label], position: position + 1 } });
    };

    const adopt = (state: DocumentState, ours: UmboDocument | null): void => {
      entries = state.labels.map(() => null);
      set({
        document: state.document,
        committed: state.document,
        history: { labels: state.labels, position: state.position },
        conflict: null,
      });
      engine?.setDocument(state.document);
      keepSelection(state.document);
      if (!ours) {
        set({ notice: 'This photograph was changed in another window; its newest state is shown.' });
        return;
      }
      get().commit('Joined with changes from another window', (draft) => {
        draft.layers = structuredClone(ours.layers);
      });
      set({ notice: 'This photograph was changed in another window, too; both sets of changes are joined.' });
    };
    const restore = (changes: Change[], document: UmboDocument): void => {
      for (const change of changes) {
        if (change.type === 'edit') remember(change.entry);
        else set({ history: { ...get().history, position: change.to } });
      }
      set({
        document,
        committed: document,
        notice: 'Changes that had not reached the server before were found in this browser and are kept now.',
      });
      engine?.setDocument(document);
      keepSelection(document);
    };

    const listen = (message: FromEngine): void => {
      if (message.type === 'painted') set({ painted: message.seq, loading: null, failure: null });
      else if (message.type === 'loading') set({ loading: message.share < 1 ? message.share : null });
      else if (message.type === 'census') set({ census: message.bins });
      else if (message.type === 'failed') set({ failure: message.message });
      else if (message.type === 'thumbnails')
        set({
          thumbnails: {
            masks: new Map(message.masks.map(({ id, mask }) => [id, mask])),
            original: message.original,
            result: message.result,
          },
        });
      else if (message.type === 'probed') {
        const { before, after, mask } = message;
        const probe = get().probe;
        if (probe) set({ probe: { ...probe, before, after, mask } });
      }
    };

    /** Entries `from` to `to` with their patches. */
    const known = async (from: number, to: number): Promise<Entry[]> => {
      if (entries.slice(from, to).some((entry) => entry === null)) {
        await get().settled();
        const first = Math.max(0, from - PAGE);
        const last = Math.min(entries.length, to + PAGE);
        const fetched = await request<Entry[]>('GET', `/api/photographs/${photograph.id}/entries?from=${first}&to=${last}`);
        entries = entries.map((entry, i) => entry ?? fetched[i - first] ?? null);
      }
      return entries.slice(from, to) as Entry[];
    };

    const lastLayer = initial.document.layers.at(-1);
    return {
      photograph,
      document: initial.document,
      committed: initial.document,
      history: { labels: initial.labels, position: initial.position },
      layerId: lastLayer?.id ?? null,
      partId: lastLayer?.where.parts[0]?.id ?? null,
      tool: 'move',
      brush: { size: Math.round(Math.max(photograph.width, photograph.height) / 16), hardness: 0.3, flow: 0.2, opacity: 1 },
      look: { compare: 'after', wipe: 0.5, maskView: 'contours' },
      passingView: null,
      surround: 117,
      view: { x: 0, y: 0, zoom: 0.1 },
      fitted: true,
      status: { state: 'kept' },
      conflict: null,
      notice: null,
      failure: null,
      loading: null,
      census: null,
      probe: null,
      thumbnails: { masks: new Map(), original: null, result: null },
      painted: 0,

      attach(place) {
        // A canvas can be handed to a worker once only: each engine gets its own.
        const canvas = document.createElement('canvas');
        place.append(canvas);
        engine = startEngine(canvas, photograph.id, photograph, get().document, listen);
        keeper = createKeeper(photograph.id, initial, {
          status: (status) => set({ status }),
          adopt,
          restore,
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
        get().setView(fitted ? fit(photograph, stage) : view, fitted);
      },
      setView(view, fitted = false) {
        const next = withinReach(view, photograph, stage);
        set({ view: next, fitted });
        engine?.setView(next);
      },
      setLook(look) {
        set({ look: { ...get().look, ...look } });
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
        const layer = get().document.layers.find(({ id }) => id === layerId);
        set({ layerId: layer?.id ?? null, partId: partId === undefined ? (layer?.where.parts[0]?.id ?? null) : partId });
        sendLook();
      },
      setTool: (tool) => set({ tool }),
      setBrush: (brush) => set({ brush: { ...get().brush, ...brush } }),
      askProbe(x, y, stagePoint) {
        const { before, after, mask } = get().probe ?? { before: [0, 0, 0] as const, after: [0, 0, 0] as const, mask: null };
        set({ probe: { x, y, before, after, mask } });
        engine?.probe(...stagePoint);
      },
      preview(recipe) {
        const { document, patches } = edit(get().document, recipe);
        show(document, patches);
      },
      commit(label, recipe) {
        const { document: next, patches, inverse } = edit(get().committed, recipe);
        const shown = edit(get().document, recipe);
        show(next, shown.patches);
        if (patches.length === 0) return;
        const entry: Entry = { id: crypto.randomUUID(), label, patches, inverse };
        set({ committed: next });
        remember(entry);
        keeper?.push({ type: 'edit', entry }, next);
        keepSelection(next);
      },
      cancelPreview() {
        const { committed, document } = get();
        if (committed === document) return;
        set({ document: committed });
        engine?.setDocument(committed);
      },
      async go(position) {
        const { history, document, committed } = get();
        if (travelling || document !== committed || position === history.position || position < 0 || position > history.labels.length)
          return;
        travelling = true;
        try {
          const from = history.position;
          const steps = position < from ? (await known(position, from)).reverse() : await known(from, position);
          const patches = steps.flatMap((entry) => (position < from ? entry.inverse : entry.patches));
          const next = patch(get().committed, patches);
          set({ committed: next, history: { ...get().history, position } });
          show(next, patches);
          keeper?.push({ type: 'go', to: position }, next);
          keepSelection(next);
        } catch (error) {
          set({ notice: `The history could not be read: ${(error as Error).message}` });
        } finally {
          travelling = false;
        }
      },
      settled: () => keeper?.settled() ?? Promise.resolve(),
      decide(chosen) {
        const { conflict } = get();
        if (conflict) keeper?.decide(conflict, chosen);
      },
      dismissNotice: () => set({ notice: null }),
    };
  });
}
