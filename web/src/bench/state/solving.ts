'use client';
/** Settings that bring readings to their targets: asked of the engine, and written as one step. */
import {
  contentKind,
  edit,
  everywhere,
  findLayer,
  onLayer,
  TOLERANCE,
  type Aim,
  type Content,
  type Layer,
  type FoundBySolver,
  type Reading,
  type Turned,
} from '@umbo/core/document';
import { shorten } from '@umbo/core/base';
import type { Mask } from '@umbo/core/mask';
import { spaces, type Colour } from '@umbo/core/colour';
import { differenceWords } from '@umbo/core/measure';
import { farthest, type Solved } from '@umbo/core/solve';
import { kindName, madeLayer, placeNew, type LayerKind } from './actions';
import { hiddenBecause } from './hidden';
import { castOf } from './cast';
import { labOf, readingsOf, regionOfReading } from './readings';
import type { SolveTask } from '../../workers/protocol';
import type { BenchState } from './benchState';

/** A new layer that readings are brought to their targets by. */
export interface Way {
  readonly id: string;
  readonly words: string;
  readonly kind: LayerKind;
  /** The mode that it blends in; left out: as its kind was left. */
  readonly mode?: string;
  /** Share of the picture, 0..1, that it may newly clip: it is not stronger than that. */
  readonly clips?: number;
  /** Its mask and what it is called; left out: the region that all readings are of, if they are of one. */
  readonly where?: Mask;
  readonly name?: string;
}

/** By what it is done: a new layer, the settings of the selected one, or how strong that is. */
export type By = Way | { readonly selected: Turned };

/** Whether the settings of a layer can be solved for. */
export const isSolvable = (layer: Layer): boolean => contentKind(layer.what)?.dials !== undefined;

const plainWay = (kind: LayerKind): Way => ({ id: kind, kind, words: kindName({ kind } as Content) });

/** What is offered as new layers, in the order of what is tried first. */
export const MATCHING: readonly Way[] = [
  ...(['hueSaturation', 'colourBalance', 'whiteBalance', 'curves', 'levels', 'colourFamilies', 'threeWayTint', 'exposure'] as const).map(
    plainWay,
  ),
  { id: 'colouring', kind: 'fill', mode: 'color', words: 'Fill, for hue and chroma' },
];
export const NEUTRALISING: readonly Way[] = [
  ...(['whiteBalance', 'colourBalance', 'curves', 'levels', 'threeWayTint'] as const).map(plainWay),
  // White divides by nothing: the search goes on from there only as far as it must.
  { id: 'dividing', kind: 'fill', mode: 'divide', words: 'Dividing fill' },
  ...[0.1, 0.5].map((percent) => ({
    id: `dividing ${percent}`,
    kind: 'fill' as const,
    mode: 'divide',
    words: `Dividing fill, clipping ${percent} % at most`,
    clips: percent / 100,
  })),
];

/** What a reading is to become by its target; null without one. */
export function aimOf({ target, hold }: Reading): Aim | null {
  if (hold) return { kind: 'hold' };
  if (!target) return null;
  return target.kind === 'reading'
    ? { kind: 'reading', reading: target.reading, ...(target.keepsLight && { keepsLight: true }) }
    : target.kind === 'colour'
      ? { kind: 'colour', lab: target.lab }
      : { kind: 'neutral' };
}

/** A new layer to solve for; of a region, where all that is to change is one. */
function layerFor(state: BenchState, { kind, mode, words, where, name: called }: Way, matched: readonly Reading[]): Layer {
  const layer = madeLayer(state, kind);
  const content = contentKind(layer.what);
  content?.solvable?.(layer.what.settings);
  if (mode !== undefined) {
    content?.takeColour?.(layer.what.settings, WHITE, 0, spaces[state.committed.workingSpace], false);
    layer.name = words;
    layer.how = { ...layer.how, mode };
  }
  if (where) return { ...layer, where, name: shorten(called ?? layer.name, 120) };
  const regions = new Set(matched.map(regionOfReading));
  const [region] = regions;
  if (regions.size !== 1 || region === undefined) return layer;
  const name = shorten(`${words} on ${matched[0]!.name}`, 120);
  return { ...layer, name, where: { ...everywhere(), link: region } };
}
const WHITE: Colour = [1, 1, 1];

/** How much of a cast is taken out; all of it makes some things, such as teeth, what they never were. */
export const SHARES = [
  [1, 'All of the cast'],
  [0.75, 'Three quarters'],
  [0.5, 'Half'],
  [0.25, 'A quarter'],
] as const;

/** Takes out so much of a reading's cast, against its target or against grey, with what is opposite to it; as light as it is. */
export function opposite(now: () => BenchState, { id, letter }: Reading, share: number): void {
  const [cast, is] = [castOf(now(), id), labOf(now(), id, 'after')];
  if (!cast || !is) return now().set({ notice: `${letter} has not been read yet.` });
  const lab = { l: is.l, a: is.a - share * cast.a, b: is.b - share * cast.b };
  void match(now, plainWay('colourBalance'), [id], new Map([[id, { kind: 'colour', lab }]]));
}

const listed = (words: readonly string[]): string =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;

/** CIEDE2000 by which a reading that is to stay can move without a word. */
const STAYS = 1;

const number = (v: number): string => v.toFixed(1);

/**
 * Brings readings to their targets, while those that are held stay; as one step of the history, with what was reached.
 * @param ids the readings; left out: all that have a target
 */
export async function match(
  now: () => BenchState,
  by: By,
  ids?: readonly string[],
  aims: ReadonlyMap<string, Aim> = new Map(),
): Promise<void> {
  const state = now();
  if (state.solving !== null) return;
  const readings = readingsOf(state);
  const asked = readings.filter(({ id, hold }) => !hold && (ids ? ids.includes(id) : true));
  const wanted = [...asked, ...readings.filter(({ hold }) => hold)].flatMap((reading) => {
    const aim = aims.get(reading.id) ?? aimOf(reading);
    return aim ? [{ id: reading.id, aim }] : [];
  });
  const matched = asked.filter(({ id }) => wanted.some((one) => one.id === id));
  const letters = listed(matched.map(({ letter }) => letter));
  if (matched.length === 0) return state.set({ notice: 'Give a reading a target first.' });
  const selected = findLayer(state.committed, state.layerId);
  const isNew = 'kind' in by;
  const hidden = selected && !isNew ? hiddenBecause(state.committed, selected.id) : null;
  if (!isNew && !selected) return state.set({ notice: 'Select the layer whose settings are to be found.' });
  if (hidden !== null) return state.set({ notice: `It would not show: ${hidden}.` });
  const layer = isNew ? layerFor(state, by, matched) : selected!;
  const put = isNew ? edit(state.committed, placeNew(state, [layer])).patches : null;
  const turned: Turned = isNew ? 'settings' : by.selected;
  state.set({ solving: `Matching ${letters}…` });
  try {
    const before = now().committed;
    const limit = isNew && by.clips !== undefined ? { clips: by.clips } : {};
    const { layer: found, reached } = await state.solve({ layer, put, turned, wanted, ...limit });
    if (now().solving === null) return;
    if (now().committed !== before) return now().set({ notice: 'The edit was changed meanwhile: nothing was matched.' });
    const neutral = wanted.every(({ aim }) => aim.kind === 'neutral' || aim.kind === 'hold');
    const means = turned === 'opacity' ? `the opacity of ${layer.name}` : (isNew ? by.words : kindName(layer.what)).toLowerCase();
    // What was once opposite to a cast is nothing to be found again.
    const asColour = [...aims.values()].some(({ kind }) => kind === 'colour');
    const solvedFor: FoundBySolver = { kind: 'solver', turned, readings: wanted, ...limit };
    const foundFor: Pick<Layer, 'foundBy'> = asColour ? {} : { foundBy: { ...solvedFor, off: farthest(solvedFor, reached) } };
    const words = `${letters} ${neutral ? 'neutralised' : 'matched'} by ${means}`;
    const done = now().commit(
      words,
      isNew
        ? placeNew(state, [{ ...found, ...foundFor }])
        : onLayer(layer.id, (draft) => {
            const { what, how } = found;
            Object.assign(draft, structuredClone({ what, how, ...foundFor }));
          }),
    );
    if (!done) return;
    if (isNew) now().select(found.id);
    now().set({ notice: `${inWords(readings, wanted, reached)}.` });
  } catch (error) {
    if (now().solving !== null) now().set({ notice: `Nothing was matched: ${(error as Error).message}` });
  } finally {
    now().set({ solving: null });
  }
}

/** Finds the settings of the selected layer anew for what they were found for. */
export function solveAgain(now: () => BenchState, { turned, readings }: FoundBySolver): void {
  const moving = readings.filter(({ aim }) => aim.kind !== 'hold').map(({ id }) => id);
  void match(now, { selected: turned }, moving, new Map(readings.map(({ id, aim }) => [id, aim])));
}

/** The layer's settings are numbers like any others. */
export const numbersOnly = (state: BenchState, { id, name }: Layer): void =>
  void state.commit(
    `${name}: numbers only`,
    onLayer(id, (layer) => void delete layer.foundBy),
  );

/** What became of readings, as numbers: of those that were to change, and how far those that were to stay have moved. */
function inWords(readings: readonly Reading[], wanted: SolveTask['wanted'], reached: Solved['reached']): string {
  const lines = reached.map(({ id, before, after, was, is, aim: to }) => {
    const { letter, tolerance = TOLERANCE } = readings.find((one) => one.id === id)!;
    const aim = wanted.find((one) => one.id === id)?.aim;
    if (!aim || aim.kind === 'hold')
      return after < STAYS ? '' : `${letter} has moved by ${number(after)}: it lies under the same layer, which could have a mask`;
    if (aim.kind === 'neutral') {
      const light = is.l - was.l;
      const shift = Math.abs(light) < STAYS ? '' : `, ${number(Math.abs(light))} ${light > 0 ? 'lighter' : 'darker'}`;
      return `${letter}: cast ${number(Math.hypot(was.a, was.b))} → ${number(Math.hypot(is.a, is.b))}${shift}`;
    }
    return `${letter}: ${number(before)} → ${number(after)}${after > tolerance ? `, out of reach so: still ${differenceWords(to, is)}` : ''}`;
  });
  return lines.filter((line) => line !== '').join('; ');
}

/** Ends the wait for what is being solved; nothing is changed. */
export const stopSolving = (state: BenchState): void => state.set({ solving: null });
