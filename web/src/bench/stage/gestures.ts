import { toTenth, type Rect } from '@umbo/core/base';
import { findLayer, findMaskOwner, type Recipe } from '@umbo/core/document';
import type { Stroke } from '@umbo/core/mask';
import { takesFromBelow } from '../state/actions';
import type { BenchStore } from '../state/benchState';
import { applySample, sampleArea } from '../state/samples';
import { strokeRecipe, strokesAreSeeds, strokeTarget } from '../state/strokes';
import { seedSize } from './SeedStrokes';

type Place = [number, number];
/** What is read of a pointer. */
export interface PointerAt {
  readonly clientX: number;
  readonly clientY: number;
  readonly pointerType: string;
  readonly pressure: number;
}

/** What a pointer does on the stage, from its press on. */
export interface Gesture {
  /** @param points all places since the last call, the newest last */
  move: (points: readonly PointerAt[]) => void;
  /** When the pointer is let go. */
  end: (at: PointerAt) => void;
  /** When it is broken off: nothing is kept. */
  cancel: () => void;
  /** Whether the ring of the brush stays where it was. */
  readonly holdsRing?: boolean;
}

/** Where gestures happen, and what they show of themselves. */
export interface Ground {
  readonly store: BenchStore;
  /** A place of the photograph, in its pixels. */
  photoPoint: (at: PointerAt) => Place;
  /** The area that a sample is taken of; null: none. */
  showSampled: (area: Rect | null) => void;
  /** A stroke that something grows from; null: none. */
  showSeed: (stroke: Stroke | null) => void;
}

/** Points nearer than this on the screen add nothing to a stroke. */
const STEP = 0.7;
/** Numbers that one stroke may hold; a longer one goes on as another. */
const STROKE_NUMBERS = 60_000;

const nothing = (): void => undefined;

/** Moves the picture on the stage. */
export function panGesture({ store }: Ground, from: PointerAt): Gesture {
  const { view: before } = store.getState();
  return {
    move(points) {
      const { clientX, clientY } = points.at(-1)!;
      const { view, setView } = store.getState();
      setView({
        ...view,
        x: before.x + (clientX - from.clientX) * devicePixelRatio,
        y: before.y + (clientY - from.clientY) * devicePixelRatio,
      });
    },
    end: nothing,
    cancel: nothing,
  };
}

/** Across: how large the brush is; up and down: how hard. */
export function brushGesture({ store }: Ground, from: PointerAt): Gesture {
  const { brush } = store.getState();
  return {
    move(points) {
      const { clientX, clientY } = points.at(-1)!;
      const size = Math.max(1, brush.size * Math.exp((clientX - from.clientX) / 150));
      const hardness = brush.hardness - (clientY - from.clientY) / 200;
      store.getState().setBrush({ size: Math.min(1000, toTenth(size)), hardness: Math.max(0, Math.min(1, hardness)) });
    },
    end: nothing,
    cancel: nothing,
    holdsRing: true,
  };
}

/** Takes the colour of a place, or of an area that is dragged out. */
export function sampleGesture({ store, photoPoint, showSampled }: Ground, first: PointerAt): Gesture {
  const from = photoPoint(first);
  const areaTo = (to: Place): Rect => sampleArea(store.getState().sampleSize, from, to, store.getState().photograph);
  showSampled(areaTo(from));
  return {
    move: (points) => showSampled(areaTo(photoPoint(points.at(-1)!))),
    end(at) {
      showSampled(null);
      takeSample(store, areaTo(photoPoint(at)));
    },
    cancel: () => showSampled(null),
  };
}

function takeSample(store: BenchStore, area: Rect): void {
  if (area.width < 1 || area.height < 1) return;
  const { committed, layerId, askSample } = store.getState();
  const layer = findLayer(committed, layerId);
  const below = layer && takesFromBelow(layer.what) ? layer.id : null;
  askSample(area, below).then(
    (colour) => applySample(store.getState(), colour, true),
    (error: Error) => store.getState().set({ notice: error.message }),
  );
}

interface StrokeInWork {
  readonly label: string;
  readonly points: number[];
  readonly recipe: (points: number[]) => Recipe;
  readonly show: (points: number[]) => void;
  last: PointerAt;
}

/** Paints into a mask, or draws what something grows from. */
export function strokeGesture(ground: Ground, first: PointerAt): Gesture | null {
  const { store, photoPoint, showSeed } = ground;
  let stroke = beginStroke(ground, first);
  if (!stroke) return null;
  const add = (at: PointerAt): void => {
    if (!stroke || Math.hypot(at.clientX - stroke.last.clientX, at.clientY - stroke.last.clientY) < STEP) return;
    if (stroke.points.length + 3 > STROKE_NUMBERS) {
      store.getState().commit(stroke.label, stroke.recipe(stroke.points));
      stroke = beginStroke(ground, at);
      return;
    }
    stroke.last = at;
    const [x, y] = photoPoint(at);
    stroke.points.push(toTenth(x), toTenth(y), pressure(at));
  };
  return {
    move(points) {
      points.forEach(add);
      stroke?.show([...stroke.points]);
    },
    end() {
      if (stroke) store.getState().commit(stroke.label, stroke.recipe(stroke.points));
      showSeed(null);
    },
    cancel() {
      store.getState().cancelPreview();
      showSeed(null);
    },
  };
}

function beginStroke({ store, photoPoint, showSeed }: Ground, at: PointerAt): StrokeInWork | null {
  const state = store.getState();
  const owner = findMaskOwner(state.committed, state.layerId);
  if (!owner) return null;
  const erase = state.tool === 'erase';
  const target = strokeTarget(owner, state.partId, erase, state.joins, (id) => findMaskOwner(state.committed, id));
  const [x, y] = photoPoint(at);
  const seeds = strokesAreSeeds(state);
  const { alike, ...shape } = seeds ? { ...state.brush, size: seedSize(state.view) } : state.brush;
  const style = { id: crypto.randomUUID(), ...shape, erase };
  const recipe = (points: number[]): Recipe => strokeRecipe(target, { ...style, points }, state.paintColour, alike);
  const points = [toTenth(x), toTenth(y), pressure(at)];
  // What grows from a stroke is found when it has ended; until then the stroke itself is seen.
  const show = seeds
    ? (drawn: number[]) => showSeed({ ...style, points: drawn })
    : (drawn: number[]) => store.getState().preview(recipe(drawn));
  const words = seeds ? (erase ? 'Stroke outside' : 'Stroke inside') : erase ? 'Erase' : 'Paint';
  if (target.isNew) state.select(owner.id, target.partId);
  // A brush of its own is begun by one stroke; the next ones go on in it.
  state.set({ joins: null });
  show([...points]); // a copy: what the document holds is frozen
  return { label: `${words} on ${target.layer.name}`, points, recipe, show, last: at };
}

/** A mouse has no pressure of its own; browsers report a half for it. */
const pressure = ({ pointerType, pressure: told }: PointerAt): number => (pointerType === 'pen' ? Math.round(told * 100) / 100 : 1);
