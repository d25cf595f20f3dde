'use client';
/** What a person can do with readings, in words for the history. */
import { cleanName, shorten, toTenth } from '@umbo/core/base';
import { labToRgb, rgbToLab, spaces, type Colour, type Lab } from '@umbo/core/colour';
import {
  everywhere,
  freeLetter,
  plainName,
  targetReading,
  TOLERANCE,
  unlink,
  type Reading,
  type ReadingTarget,
  type Recipe,
} from '@umbo/core/document';
import type { NamedLab } from '@umbo/core/format';
import { maskPartKind, type EllipsePart, type Mask, type OutlinePart } from '@umbo/core/mask';
import type { BenchState } from './benchState';

const newId = (): string => crypto.randomUUID();
const NONE: readonly Reading[] = [];

export const readingsOf = ({ committed }: Pick<BenchState, 'committed'>): readonly Reading[] => committed.readings ?? NONE;
export const findReading = (state: Pick<BenchState, 'committed'>, id: string | null): Reading | undefined =>
  readingsOf(state).find((reading) => reading.id === id);

/** A recipe on one reading; does nothing when it is gone. */
const onReading =
  (id: string, change: (reading: Reading) => void): Recipe =>
  (draft) => {
    const reading = draft.readings?.find((one) => one.id === id);
    if (reading) change(reading);
  };

/** What a new reading is of. */
type Where = { spot: NonNullable<Reading['spot']> } | { where: Mask };

function addReading(state: BenchState, where: Where, name?: string): void {
  const letter = freeLetter(readingsOf(state));
  const id = newId();
  const done = state.commit(`Reading ${letter}${name ? ` of ${name}` : ''}`, (draft) => {
    (draft.readings ??= []).push({ id, letter, name: name ?? plainName(letter), ...structuredClone(where) });
  });
  if (done) state.openReading(id);
}

export function addSpot(state: BenchState, x: number, y: number): void {
  addReading(state, { spot: { x: toTenth(x), y: toTenth(y), side: state.spotSide } });
}

export function addEllipse(state: BenchState, from: readonly [number, number], to: readonly [number, number]): void {
  const part: EllipsePart = {
    ...maskPartKind<EllipsePart>('ellipse').create(newId(), 'add', state.photograph),
    x: toTenth((from[0] + to[0]) / 2),
    y: toTenth((from[1] + to[1]) / 2),
    rx: Math.max(1, toTenth(Math.abs(to[0] - from[0]) / 2)),
    ry: Math.max(1, toTenth(Math.abs(to[1] - from[1]) / 2)),
    soft: 0,
  };
  addReading(state, { where: { ...everywhere(), parts: [part] } });
}

export function addOutline(state: BenchState, points: readonly (readonly [number, number])[]): void {
  const shape = points.flatMap(([x, y]) => [toTenth(x), toTenth(y)]);
  if (shape.length < 6) return;
  const part: OutlinePart = { ...maskPartKind<OutlinePart>('outline').create(newId(), 'add', state.photograph), shapes: [shape] };
  addReading(state, { where: { ...everywhere(), parts: [part] } });
}

/** A reading of a region: it follows the region. */
export function readRegion(state: BenchState, { id, name }: { id: string; name: string }): void {
  addReading(state, { where: { ...everywhere(), link: id } }, name);
}

/** The region that a reading is of, if it is one. */
export const regionOfReading = ({ where }: Reading): string | undefined => where?.link;

/** A reading elsewhere: by so much, in pixels of the photograph. */
export function movedBy(id: string, dx: number, dy: number): Recipe {
  return onReading(id, ({ spot, where }) => {
    if (spot) Object.assign(spot, { x: toTenth(spot.x + dx), y: toTenth(spot.y + dy) });
    for (const part of where?.parts ?? [])
      maskPartKind(part.kind).fit?.(part, { x: (v) => toTenth(v + dx), y: (v) => toTenth(v + dy), size: (v) => v });
  });
}

export function renameReading(state: BenchState, { id, letter, name }: Reading, next: string): void {
  const clean = shorten(cleanName(next), 120) || plainName(letter);
  if (clean === name) return;
  state.commit(
    `${name} named ${clean}`,
    onReading(id, (reading) => void (reading.name = clean)),
  );
}

export function removeReading(state: BenchState, { id, letter }: Reading): void {
  state.commit(`Reading ${letter} removed`, (draft) => {
    unlink(draft, (link) => link === id);
    const left = (draft.readings ?? []).filter((reading) => reading.id !== id);
    for (const reading of left) if (reading.target?.kind === 'reading' && reading.target.reading === id) delete reading.target;
    if (left.length > 0) draft.readings = left;
    else delete draft.readings;
  });
}

export function setTarget(state: BenchState, { id, letter }: Reading, target: ReadingTarget | null): void {
  const to = target?.kind === 'reading' ? findReading(state, target.reading)?.letter : target?.kind === 'neutral' ? 'grey' : target?.name;
  state.commit(
    target ? `Target of ${letter}${to ? `: ${to}` : ''}` : `${letter} has no target`,
    onReading(id, (reading) => {
      if (target) reading.target = target;
      else delete reading.target;
      // What is to become something else does not stay as it is.
      if (target) delete reading.hold;
    }),
  );
}

/** Colours become the targets of readings that have their names, or are lettered so. @returns how many */
export function setTargets(state: BenchState, colours: readonly NamedLab[]): number {
  const plain = (text: string): string => text.trim().toLowerCase();
  const pairs = readingsOf(state).flatMap(({ id, letter, name }) => {
    const colour = colours.find((one) => plain(one.name) === plain(name) || plain(one.name) === plain(letter));
    return colour ? [[id, colour] as const] : [];
  });
  if (pairs.length > 0)
    state.commit(`Targets of ${pairs.length} readings`, (draft) => {
      for (const [id, { name, lab }] of pairs)
        onReading(id, (reading) => {
          reading.target = { kind: 'colour', lab: { ...lab }, name };
          delete reading.hold;
        })(draft);
    });
  return pairs.length;
}

export function setHold(state: BenchState, { id, letter }: Reading, hold: boolean): void {
  state.commit(
    hold ? `${letter} is held` : `${letter} is not held`,
    onReading(id, (reading) => {
      if (hold) reading.hold = true;
      else delete reading.hold;
      if (hold) delete reading.target;
    }),
  );
}

export function setTolerance(state: BenchState, { id, letter }: Reading, tolerance: number): void {
  state.commit(
    `Tolerance of ${letter}: ${tolerance}`,
    onReading(id, (reading) => void (reading.tolerance = tolerance)),
  );
}

/** A side of a reading as it is now: as painted where that is newer than what was measured. */
export type Side = 'before' | 'below' | 'after';

export function colourOf({ readings }: Pick<BenchState, 'readings'>, id: string, side: Side): Colour | null {
  const known = readings.get(id);
  return (side === 'after' ? known?.glimpse : null) ?? known?.values[side]?.mean ?? null;
}

export const labOf = (state: Pick<BenchState, 'readings' | 'committed'>, id: string, side: Side): Lab | null => {
  const colour = colourOf(state, id, side);
  return colour && rgbToLab(spaces[state.committed.workingSpace], ...colour);
};

/** What a reading is to become; null where it is not known, or nothing. */
export function targetOf(state: Pick<BenchState, 'readings' | 'committed'>, reading: Reading): Lab | null {
  const { target } = reading;
  if (!target) return null;
  if (target.kind === 'colour') return target.lab;
  const before = labOf(state, reading.id, 'before');
  if (target.kind === 'reading') {
    const other = targetReading(readingsOf(state), reading);
    const lab = other ? labOf(state, other.id, 'after') : null;
    return lab && target.keepsLight ? before && { ...lab, l: before.l } : lab;
  }
  return before && { l: before.l, a: 0, b: 0 };
}

export const toleranceOf = ({ tolerance = TOLERANCE }: Reading): number => tolerance;

/** A colour to be shown, of one that may lie outside the space. */
export const shownColour = (state: Pick<BenchState, 'committed'>, lab: Lab): Colour =>
  labToRgb(spaces[state.committed.workingSpace], lab).map((v) => Math.min(1, Math.max(0, v))) as Colour;
