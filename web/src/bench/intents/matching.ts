'use client';
/** What intents do to the photograph: layers that act on what is like a place that was pressed on, or on a region that was found. */
import { rgbToOklab, spaces, type Colour, type Lab } from '@umbo/core/colour';
import { everywhere, plainName, type Aim, type Reading } from '@umbo/core/document';
import { maskPartKind, type LikenessPart, type Mask } from '@umbo/core/mask';
import type { BenchState } from '../state/benchState';
import { colourOf, readingsOf, setTarget } from '../state/readings';
import { match, MATCHING } from '../state/solving';
import type { Now } from './intent';

/** The readings that were pinned since then and have been read, in the order in which they were. */
export const pinnedSince = (now: BenchState, began: BenchState): Reading[] => {
  const before = new Set(readingsOf(began).map(({ id }) => id));
  return readingsOf(now).filter(({ id }) => !before.has(id) && colourOf(now, id, 'before') !== null);
};

/** What stands for an area: its mean, and what lies half-way from there to its darkest and lightest. */
function coloursOf(state: BenchState, { id, spot }: Reading): Colour[] {
  const { mean, darkest, lightest } = state.readings.get(id)!.values.before!;
  const halfway = (end: Colour): Colour => mean.map((v, c) => (v + end[c]!) / 2) as Colour;
  return spot?.side === 1 ? [mean] : [mean, halfway(darkest), halfway(lightest)];
}

/** How much lightness counts for what is like a colour, in percent: a cast lies on light and shade alike. */
const LIGHTNESS = 20;
/** How far likeness reaches, as the mask part counts it, where nothing is to be told apart; and at least. */
const [REACH, LEAST] = [9, 4];
/** The share of the way to what is not meant that counts as like. */
const SHARE = 0.6;

/** The mask of what is like a reading, rather than like another one. */
function likeMask(state: BenchState, like: Reading, unlike: Reading | null): Mask {
  const kind = maskPartKind<LikenessPart>('likeness');
  const space = spaces[state.committed.workingSpace];
  const part = kind.create(crypto.randomUUID(), 'add', state.photograph);
  const take = (reading: Reading, away: boolean): void =>
    coloursOf(state, reading).forEach((colour) => kind.take!(part, { space, colour, x: 0, y: 0 }, away));
  if (unlike) take(unlike, true);
  take(like, false);
  let reach = REACH;
  if (unlike) {
    const lab = new Float64Array(6);
    [like, unlike].forEach(({ id }, i) => rgbToOklab(space, ...colourOf(state, id, 'before')!, lab, 3 * i));
    const [l, a, b] = [lab[0]! - lab[3]!, lab[1]! - lab[4]!, lab[2]! - lab[5]!];
    reach = Math.max(LEAST, SHARE * 100 * Math.hypot((l * LIGHTNESS) / 100, 2 * a, 2 * b));
  }
  return { ...everywhere(), parts: [{ ...part, tolerance: reach, softness: reach, lightness: LIGHTNESS }] };
}

const [BY_HUE] = MATCHING;

const called = ({ letter, name }: Reading): string => (name === plainName(letter) ? letter : name);

/** What comes next is done by the brush, and by the layer's sliders: they get the room. */
const inHand = (now: Now): void => {
  now().openReading(null);
  now().set({ tool: 'paint' });
};

/** Brings what is like one reading to the hue and chroma of another one. Its light stays: two places seldom have the same. */
export function agree(now: Now, off: Reading, right: Reading): void {
  const where = likeMask(now(), off, right);
  setTarget(now(), off, { kind: 'reading', reading: right.id, keepsLight: true });
  void match(now, { ...BY_HUE!, name: `${called(off)} as ${called(right)}`, where }, [off.id]);
  inHand(now);
}

/** Brings what is like a reading, or everything, to a colour. @param name what it is called */
export function bringTo(now: Now, reading: Reading, lab: Lab, name: string, everything = false): void {
  const where = everything ? everywhere() : likeMask(now(), reading, null);
  setTarget(now(), reading, { kind: 'colour', lab, name });
  void match(now, { ...BY_HUE!, name: `${called(reading)} to ${name}`, where }, [reading.id]);
  inHand(now);
}

export const NEUTRAL: Aim = { kind: 'neutral' };
