/** Bringing what is out of a gamut into it: how much saturation and lightness it has to give. */
import { hueSaturation, type HueSaturationSettings } from '../adjust/hueSaturation.ts';
import { unit } from '../base/number.ts';
import { createPlanes, type Planes } from '../base/planes.ts';
import { heldIn } from '../colour/betweenSpaces.ts';
import { deltaE2000 } from '../colour/deltaE.ts';
import { beyondGamut, type Gamut } from '../colour/gamut.ts';
import { rgbToLab } from '../colour/lab.ts';
import { rgbToOklch } from '../colour/oklab.ts';
import { spaceOf, spaces } from '../colour/spaces.ts';
import { adjustmentLayer, groupLayer } from '../document/defaults.ts';
import type { Content } from '../document/types.ts';
import { coverBeyond, outOfGamut } from '../mask/parts/outOfGamut.ts';
import type { Measured, Measurement } from './measurement.ts';

interface Wanted {
  readonly gamut: Gamut;
  /** How far out, as ΔE00, counts as out. */
  readonly from: number;
}

export interface IntoGamut {
  readonly gamut: Gamut;
  /** How far out the mask covers fully; null where nothing is out. */
  readonly full: number | null;
  /** Percent, as the hue and saturation adjustment takes them. */
  readonly saturation: number;
  readonly lightness: number;
  /** How many layers one above the other do it: the farther a half covered colour moves at once, the more its hue turns. */
  readonly steps: number;
  /** Shares of the pixels that are out, before and after. */
  readonly before: number;
  readonly after: number;
}

/** Cells along each side of the cube in which colours are gathered; from each the one that is farthest out stands for all. */
const CELLS = 24;
/** How far hues may turn, and the OKLCh chroma from which a colour has one. */
const MOST_TURN = 2;
const HAS_HUE = 0.03;
/** The share up to which nothing counts as out: single pixels. */
const NONE = 0.0005;
/** A little further than just inside: pixels between those that were looked at may be farther out. */
const WITHIN = 0.8;
const NAME = 'Into gamut';
const MOST_STEPS = 5;
const FULLS = [1.5, 3, 6, 12] as const;
const LIGHTNESSES = [0, -3, 3, -7, 7, -12, 12] as const;
const HALVINGS = 6;

interface Outside {
  readonly colours: Planes;
  readonly counts: readonly number[];
  /** How far out each is. */
  readonly beyond: Float32Array;
}

function gather({ picture, weight, scale }: Measured, gamut: Gamut): Outside & { total: number } {
  const n = picture.r.length;
  const planes = createPlanes(n);
  for (const plane of ['r', 'g', 'b'] as const) for (let i = 0; i < n; i++) planes[plane][i] = picture[plane][i]! / 65535;
  const beyond = beyondOf(gamut, scale, planes, n);
  const cells = new Map<number, { at: number; count: number }>();
  let total = 0;
  for (let i = 0; i < n; i++) {
    const w = weight ? weight[i]! / 65535 : 1;
    total += w;
    if (w < 0.01 || coverBeyond(1, beyond[i]!) === 0) continue;
    const index = (['r', 'g', 'b'] as const).reduce((sum, plane) => sum * CELLS + Math.min(CELLS - 1, (planes[plane][i]! * CELLS) | 0), 0);
    const cell = cells.get(index);
    if (!cell) cells.set(index, { at: i, count: w });
    else {
      cell.count += w;
      if (beyond[i]! > beyond[cell.at]!) cell.at = i;
    }
  }
  const kept = [...cells.values()];
  const pick = (plane: Float32Array): Float32Array => Float32Array.from(kept, ({ at }) => plane[at]!);
  const colours = { r: pick(planes.r), g: pick(planes.g), b: pick(planes.b) };
  return { colours, counts: kept.map(({ count }) => count), beyond: pick(beyond), total };
}

function beyondOf(gamut: Gamut, scale: Measured['scale'], pixels: Planes, n: number): Float32Array {
  const { r, g, b } = heldIn(spaces[gamut.space], spaceOf(scale), pixels, n);
  const beyond = beyondGamut(gamut);
  return new Float32Array(n).map((_, i) => beyond(r[i]!, g[i]!, b[i]!));
}

type Change = Pick<IntoGamut, 'saturation' | 'lightness' | 'steps'> & { readonly full: number };
const settingsFor = ({ saturation, lightness }: Change): HueSaturationSettings => ({
  ...hueSaturation.defaults,
  saturation,
  lightness,
});

/** What a change makes of the colours outside, as layers with the mask would; and how far out they are then. */
function changed(gamut: Gamut, { colours, beyond: first }: Outside, change: Change, scale: Measured['scale']) {
  const n = first.length;
  let [after, beyond] = [colours, first];
  for (let step = 0; step < change.steps; step++) {
    const next = { r: after.r.slice(), g: after.g.slice(), b: after.b.slice() };
    hueSaturation.apply!(settingsFor(change), next, n, { scale, space: spaceOf(scale), tile: { x: 0, y: 0, width: n, height: 1 } });
    for (const plane of ['r', 'g', 'b'] as const)
      for (let i = 0; i < n; i++) {
        const was = after[plane][i]!;
        next[plane][i] = unit(was + (next[plane][i]! - was) * coverBeyond(change.full, beyond[i]!));
      }
    [after, beyond] = [next, beyondOf(gamut, scale, next, n)];
  }
  return { after, beyond };
}

/** How far a change moves the colours in the mean, in ΔE00; and whether it turns a hue too far. */
function costOf(outside: Outside, after: Planes, scale: Measured['scale']): { moved: number; turns: boolean } {
  const space = spaceOf(scale);
  const { colours, counts } = outside;
  let [moved, sum, turns] = [0, 0, false];
  for (const [i, count] of counts.entries()) {
    const before = [colours.r[i]!, colours.g[i]!, colours.b[i]!] as const;
    const now = [after.r[i]!, after.g[i]!, after.b[i]!] as const;
    moved += count * deltaE2000(rgbToLab(space, ...before), rgbToLab(space, ...now));
    sum += count;
    const [was, is] = [rgbToOklch(space, ...before), rgbToOklch(space, ...now)];
    const turn = Math.abs(((is.h - was.h + 540) % 360) - 180);
    if (was.c > HAS_HUE && is.c > HAS_HUE && turn > MOST_TURN) turns = true;
  }
  return { moved: moved / sum, turns };
}

/** The least change after which nothing is out, in as few steps as there can be; where there is none, the one after which least is. */
function solve({ gamut, from }: Wanted, of: Measured): IntoGamut {
  const outside = gather(of, gamut);
  const out = (beyond: ArrayLike<number>, limit: number): number =>
    outside.counts.reduce((sum, count, i) => sum + (beyond[i]! > limit ? count : 0), 0) / Math.max(1, outside.total);
  const before = out(outside.beyond, from);
  const nothing: IntoGamut = { gamut, full: null, saturation: 0, lightness: 0, steps: 0, before, after: before };
  if (before < NONE) return { ...nothing, before: 0 };
  const leftBy = (change: Change): { after: Planes; left: number } => {
    const { after, beyond } = changed(gamut, outside, change, of.scale);
    return { after, left: out(beyond, from * WITHIN) };
  };
  let best: { change: Change; left: number; moved: number } | null = null;
  for (let steps = 1; steps <= MOST_STEPS && best?.left !== 0; steps++)
    for (const full of FULLS)
      for (const lightness of LIGHTNESSES) {
        const saturation = leastSaturation((tried) => leftBy({ full, lightness, saturation: tried, steps }).left === 0);
        const change = { full, lightness, saturation, steps };
        const { after, left } = leftBy(change);
        if (best && left > best.left) continue;
        const { moved, turns } = costOf(outside, after, of.scale);
        if (!turns && (!best || left < best.left || moved < best.moved)) best = { change, left, moved };
      }
  return best && best.left < before ? { gamut, ...best.change, before, after: best.left } : nothing;
}

/** The least that saturation has to give, in percent, so that it is enough; all of it, where that is not. */
function leastSaturation(isEnough: (saturation: number) => boolean): number {
  let [enough, tooLittle] = [-100, 0];
  if (isEnough(enough))
    for (let i = 0; i < HALVINGS; i++) {
      const middle = (enough + tooLittle) / 2;
      if (isEnough(middle)) enough = middle;
      else tooLittle = middle;
    }
  return Math.floor(enough * 10) / 10;
}

/** A layer over everything that takes from what is out of a gamut as much as it has to give; its hues stay within two degrees. */
export const intoGamut: Measurement<'intoGamut', Wanted, IntoGamut> = {
  kind: 'intoGamut',
  needs: 'picture',
  measure: solve,
  layers: ({ gamut, full, saturation, lightness, steps }, newId) => {
    if (full === null) return [];
    const layers = Array.from({ length: steps }, () => {
      const layer = adjustmentLayer(newId(), hueSaturation.kind, NAME);
      Object.assign(layer.what.settings, { saturation, lightness });
      layer.where.parts = [{ ...outOfGamut.create(newId(), 'add', { width: 0, height: 0 }), gamut, full }];
      return layer;
    });
    const group = groupLayer(newId(), NAME);
    return steps === 1 ? layers : [{ ...group, what: { ...group.what, layers } as Content }];
  },
};
