/** How the bench was left, in this browser: what is no part of the edit. */
import { adjustments } from '@umbo/core/adjust';
import { blendModes } from '@umbo/core/blend';
import type { Colour } from '@umbo/core/colour';
import { SPOT_SIDES, type Spot } from '@umbo/core/document';
import type { BenchState, BenchStore, Notation, Reference } from '../state/benchState';

type Values = Partial<BenchState>;

/** What is kept, under which name, and what of a kept value is still sound. */
interface Memory {
  readonly key: (state: BenchState) => string;
  readonly take: (state: BenchState) => Values;
  readonly sound: (kept: Record<string, unknown>, state: BenchState) => Values;
}

const isNumber = (value: unknown): value is number => typeof value === 'number' && Number.isFinite(value);
const isObject = (value: unknown): value is Record<string, unknown> => typeof value === 'object' && value !== null && !Array.isArray(value);
/** Of an object only what has the same type as in a sound one. */
const like = <T extends object>(sound: T, kept: unknown): T =>
  isObject(kept)
    ? (Object.fromEntries(Object.entries(sound).map(([key, value]) => [key, typeof kept[key] === typeof value ? kept[key] : value])) as T)
    : sound;

const NOTATION_IDS: readonly Notation[] = ['rgb', 'percent', 'hsl', 'lab', 'lch', 'oklch', 'hex'];

const isColour = (value: unknown): value is Colour =>
  Array.isArray(value) && value.length === 3 && value.every((v) => isNumber(v) && v >= 0 && v <= 1);
const isShare = (value: unknown): boolean => isNumber(value) && value >= 0 && value <= 1;
/** Points from the left to the right, as a curve has them. */
const isCurve = (value: unknown): boolean =>
  Array.isArray(value) &&
  value.length >= 2 &&
  value.length <= 32 &&
  value.every((point, i) => Array.isArray(point) && point.length === 2 && point.every(isShare) && (i === 0 || point[0] > value[i - 1][0]));
/** A reference that can be opened again: a photograph. */
function isOpened(value: unknown): value is Reference {
  if (!isObject(value) || value.kind !== 'photograph' || !isObject(value.photograph)) return false;
  const { photograph } = value;
  return (
    ['id', 'width', 'height'].every((key) => isNumber(photograph[key])) &&
    ['sha256', 'name'].every((key) => typeof photograph[key] === 'string')
  );
}
/** The values of an object that have a type. */
const only = (kept: unknown, type: 'string' | 'boolean'): object =>
  isObject(kept) ? Object.fromEntries(Object.entries(kept).filter(([, value]) => typeof value === type)) : {};

const MEMORIES: readonly Memory[] = [
  {
    // Of one photograph.
    key: ({ database, photograph }) => `umbo-desk-${database}-${photograph.id}`,
    take: ({ dismissed, folded, references, settingsPart }) => ({
      dismissed,
      folded,
      references: references?.filter(({ kind }) => kind === 'photograph') ?? null,
      settingsPart,
    }),
    sound({ dismissed, folded, references, settingsPart }) {
      return {
        dismissed: Array.isArray(dismissed) ? dismissed.filter((key) => typeof key === 'string') : [],
        folded: Array.isArray(folded) ? folded.filter((id) => typeof id === 'string') : [],
        references: Array.isArray(references) ? references.filter(isOpened) : null,
        settingsPart: only(settingsPart, 'string') as BenchState['settingsPart'],
      };
    },
  },
  {
    // Of all photographs: how the window is arranged, and the tools as they were set last.
    key: () => 'umbo-bench',
    take: ({
      notation,
      readsBelow,
      spotSide,
      panels,
      folds,
      listed,
      brush,
      sampleSize,
      pull,
      modes,
      recentKinds,
      recentColours,
      ownCurves,
    }) => ({
      notation,
      readsBelow,
      spotSide,
      panels,
      folds,
      listed,
      brush,
      sampleSize,
      pull,
      modes,
      recentKinds,
      recentColours,
      ownCurves,
    }),
    sound(
      { notation, readsBelow, spotSide, panels, folds, listed, brush, sampleSize, pull, modes, recentKinds, recentColours, ownCurves },
      state,
    ) {
      const { size, alike, hardness, flow, opacity } = like(state.brush, brush);
      const share = (value: number): number => Math.max(0, Math.min(1, value));
      return {
        panels: like(state.panels, panels),
        folds: only(folds, 'boolean') as BenchState['folds'],
        brush: {
          size: isNumber(size) ? Math.max(1, Math.min(1000, size)) : state.brush.size,
          alike: Math.max(0, Math.min(40, alike)),
          hardness: share(hardness),
          flow: share(flow),
          opacity: share(opacity),
        },
        ...(sampleSize === '1' || sampleSize === '5' || sampleSize === '31' || sampleSize === 'area' ? { sampleSize } : {}),
        ...(listed === 'history' || listed === 'versions' || listed === 'regions' || listed === 'spread' ? { listed } : {}),
        ...(NOTATION_IDS.some((id) => id === notation) && { notation: notation as Notation }),
        readsBelow: readsBelow === true,
        ...(SPOT_SIDES.some((side) => side === spotSide) && { spotSide: spotSide as Spot['side'] }),
        ...(typeof pull === 'string' && { pull }),
        modes: Object.fromEntries(
          Object.entries(only(modes, 'string') as BenchState['modes']).filter(([, mode]) => blendModes.some(({ id }) => id === mode)),
        ),
        ownCurves: isObject(ownCurves)
          ? (Object.fromEntries(Object.entries(ownCurves).filter(([, points]) => isCurve(points))) as BenchState['ownCurves'])
          : {},
        recentColours: Array.isArray(recentColours) ? recentColours.filter(isColour).slice(0, 8) : [],
        recentKinds: Array.isArray(recentKinds) ? recentKinds.filter((kind) => adjustments.some((one) => one.kind === kind)) : [],
      };
    },
  },
];

function kept(key: string): Record<string, unknown> {
  try {
    const value: unknown = JSON.parse(localStorage.getItem(key) ?? '{}');
    return isObject(value) ? value : {};
  } catch {
    return {};
  }
}

/** Brings the bench back as it was left, and keeps what changes. @returns what ends that */
export function rememberDesk({ getState, subscribe }: BenchStore): () => void {
  for (const { key, sound } of MEMORIES) {
    const found = kept(key(getState()));
    if (Object.keys(found).length > 0) getState().set(sound(found, getState()));
  }
  return subscribe((state, before) => {
    for (const { key, take } of MEMORIES) {
      const [now, then] = [take(state), take(before)] as Record<string, unknown>[];
      if (Object.keys(now!).some((name) => now![name] !== then![name])) localStorage.setItem(key(state), JSON.stringify(now));
    }
  });
}
