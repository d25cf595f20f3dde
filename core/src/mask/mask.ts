/** From a mask's description to its pixels. */
import { stretchArea, stretchOf } from '../base/stretch.ts';
import { contains, expand, intersect, isEmpty, union, wholeOf, type Rect, type Scale } from '../base/geometry.ts';
import { isPictureNeed, OVERVIEW, SOURCE, type Need } from '../base/need.ts';
import type { FindPicture, Pictures } from '../base/pictures.ts';
import { createPlanes, quantise, readRaster, type Planes, type Raster } from '../base/planes.ts';
import { spaceOf } from '../colour/spaces.ts';
import { oklabOf } from './likeness.ts';
import type { Combine, InnerMask, MaskView, OklabPlanes } from './part.ts';
import { refineKind, type RefineStep } from './refineRegistry.ts';
import { innerMask, maskPartKind, type Mask, type MaskPart } from './registry.ts';

const FULL = 65535;

/** Each with a loop of its own, which the engine that runs it can then compile as one piece. */
const joinCovers: Record<Combine, (total: Float32Array, cover: Float32Array) => void> = {
  add(total, cover) {
    for (let i = 0; i < total.length; i++) total[i] = Math.min(1, total[i]! + cover[i]!);
  },
  cut(total, cover) {
    for (let i = 0; i < total.length; i++) total[i] = Math.max(0, total[i]! - cover[i]!);
  },
  common(total, cover) {
    for (let i = 0; i < total.length; i++) total[i] = total[i]! * cover[i]!;
  },
};

/** A part's own cover with its strength: what is kept common by half leaves half of what it would take away. */
function weaken(part: MaskPart, cover: Float32Array): void {
  const { strength = 1, combine } = part;
  if (strength === 1) return;
  if (combine === 'common') for (let i = 0; i < cover.length; i++) cover[i] = 1 - strength * (1 - cover[i]!);
  else for (let i = 0; i < cover.length; i++) cover[i] = cover[i]! * strength;
}

const refining = (mask: Mask): RefineStep[] => mask.refine.filter((step) => step.off !== true);
/** The masks within a mask's parts. */
const inners = (mask: Mask): Mask[] => acting(mask).flatMap((part) => innerMask(part) ?? []);

const acting = (mask: Mask): MaskPart[] =>
  mask.parts.filter((part) => part.on && !(maskPartKind(part.kind).open && isEmptyMask(innerMask(part)!)));

const isEmptyMask = (mask: Mask): boolean => mask.link === undefined && acting(mask).length === 0;

/** Whether the mask lets everything through, everywhere. */
export function coversAll(mask: Mask): boolean {
  return acting(mask).length === 0 && !mask.invert;
}

/** How many pixels of the picture around a region a mask needs to know. */
export function maskReach(mask: Mask, scale: Scale): number {
  const steps = refining(mask).reduce((sum, step) => sum + refineKind(step.kind).reach(step, stretchOf(scale).factor), 0);
  return steps + Math.max(0, ...inners(mask).map((inner) => maskReach(inner, scale)));
}

/** What a part needs by itself; the masks within it have needs of their own. */
export const partNeeds = (part: MaskPart): readonly Need[] => maskPartKind(part.kind).needs?.(part) ?? [];

/** What the acting parts of a mask need, and of the masks within it. */
export const maskNeeds = (mask: Mask): Need[] => [...acting(mask).flatMap(partNeeds), ...inners(mask).flatMap(maskNeeds)];

const isBelow = (need: Need): boolean => need.kind === 'backdrop';
const isRendered = (need: Need): boolean => !isPictureNeed(need);

/** Whether the mask looks at what layers make: the picture below its layer, or what that shows. */
export const readsLayers = (mask: Mask): boolean => maskNeeds(mask).some(isRendered);
/** Whether it looks at what its own layer shows. */
export const readsOwn = (mask: Mask): boolean => maskNeeds(mask).includes(SOURCE);

/**
 * The mask of `region`.
 * @param photograph the photograph at this scale; it must cover the region and {@link maskReach} around it, within the picture
 * @param pictures with what {@link maskNeeds} names
 * @returns region.width * region.height values, 0 (outside) to 65535 (inside)
 * @example
 * const size = { width: 2, height: 1 };
 * const photograph = createRaster(wholeOf(size));
 * photograph.r[1] = photograph.g[1] = photograph.b[1] = 65535;
 * const lights = maskPartKind('luminosity').create('l', 'add', size);
 * const mask = { ...everywhere(), parts: [lights] };
 * renderMask(mask, { picture: size, full: size }, wholeOf(size), photograph, noPictures); // → [0, 65535]
 */
export function renderMask(mask: Mask, scale: Scale, region: Rect, photograph: Raster, pictures: Pictures): Uint16Array {
  const size = region.width * region.height;
  const parts = acting(mask);
  if (parts.length === 0) return new Uint16Array(size).fill(finish(mask, FULL));

  const area = intersect(expand(region, maskReach(mask, scale)), wholeOf(scale.picture));
  const inner = (within: InnerMask): Uint16Array => renderMask(within as Mask, scale, area, photograph, pictures);
  const view: MaskView = { ...viewOfPhotograph(scale, area, photograph, pictures.find), own: pictures.source ?? null, inner };
  const { backdrop } = pictures;
  const viewBelow: MaskView = backdrop
    ? { ...view, ...pixelsSeen(scale, area, () => backdrop.pixels(area)), overview: backdrop.overview }
    : view;
  const total = new Float32Array(area.width * area.height);
  const cover = parts.length > 1 ? new Float32Array(total.length) : total;
  for (const [n, part] of parts.entries()) {
    // What the first part joins is nothing if it adds, everything if it cuts or keeps common: its own cover, or what is left of it.
    const own = n === 0 ? total : cover;
    const kind = maskPartKind(part.kind);
    kind.cover(part, partNeeds(part).some(isBelow) ? viewBelow : view, own);
    if (part.invert) for (let i = 0; i < own.length; i++) own[i] = 1 - own[i]!;
    weaken(part, own);
    if (n === 0 && part.combine === 'cut') for (let i = 0; i < own.length; i++) own[i] = 1 - own[i]!;
    if (n > 0) joinCovers[part.combine](total, cover);
  }

  const plane = new Uint16Array(total.length);
  for (let i = 0; i < total.length; i++) plane[i] = quantise(total[i]!, FULL);
  for (const step of refining(mask)) refineKind(step.kind).apply(step, stretchOf(scale).factor, plane, view);

  const out = new Uint16Array(size);
  for (let y = 0; y < region.height; y++) {
    const from = (region.y - area.y + y) * area.width + region.x - area.x;
    out.set(plane.subarray(from, from + region.width), y * region.width);
  }
  if (mask.invert || mask.strength < 1) for (let i = 0; i < size; i++) out[i] = finish(mask, out[i]!);
  return out;
}

/** The pixels of an area as they are, and in OKLab; each found when it is asked for, and once. */
function pixelsSeen(scale: Scale, area: Rect, read: () => Planes): Pick<MaskView, 'photograph' | 'oklab'> {
  let planes: Planes | undefined;
  let lab: OklabPlanes | undefined;
  const photograph = (): Planes => (planes ??= read());
  return { photograph, oklab: () => (lab ??= oklabOf(spaceOf(scale), photograph(), area.width * area.height)) };
}

/**
 * What there is to look at of the photograph in an area.
 * @param photograph the photograph at this scale; it must cover the area
 */
export function viewOfPhotograph(scale: Scale, area: Rect, photograph: Raster, find: FindPicture): Omit<MaskView, 'inner' | 'own'> {
  const space = spaceOf(scale);
  return {
    picture: scale.picture,
    full: scale.full,
    ...(scale.framing && { framing: scale.framing }),
    space,
    region: area,
    ...pixelsSeen(scale, area, () => readArea(photograph, area)),
    oklabOf: (wanted) =>
      contains(photograph.area, wanted) ? oklabOf(space, readArea(photograph, wanted), wanted.width * wanted.height) : null,
    overview() {
      const found = find(OVERVIEW);
      if (!found) throw new RangeError('This needs the overview of the photograph');
      return found.level;
    },
    find,
  };
}

function readArea(raster: Raster, area: Rect): Planes {
  const planes = createPlanes(area.width * area.height);
  readRaster(raster, area, planes);
  return planes;
}

/** Invert, then strength: `1 - s * (1 - m)`. */
function finish(mask: Mask, value: number): number {
  const m = mask.invert ? FULL - value : value;
  return (FULL - mask.strength * (FULL - m) + 0.5) | 0;
}

const PART_FIELDS = ['kind', 'id', 'on', 'invert', 'combine', 'strength'] as const;

/**
 * Where the pixels of two masks can differ, in pixels of the picture in work; empty when nowhere.
 */
export function maskChange(before: Mask, after: Mask, scale: Scale): Rect {
  const whole = wholeOf(scale.picture);
  const nowhere = { x: 0, y: 0, width: 0, height: 0 };
  const area = changedIn(before, after);
  if (!area) return whole;
  if (isEmpty(area)) return nowhere;
  return intersect(expand(stretchArea(stretchOf(scale).toPicture, area), maskReach(after, scale) + 1), whole);
}

/** Where the parts of two masks differ, in pixels of the full photograph; null where it may be anywhere. */
function changedIn(before: Mask, after: Mask): Rect | null {
  let area: Rect = { x: 0, y: 0, width: 0, height: 0 };
  if (before === after) return area;
  const sameRest =
    before.invert === after.invert &&
    before.strength === after.strength &&
    before.parts.length === after.parts.length &&
    JSON.stringify(before.refine) === JSON.stringify(after.refine) &&
    acting(before).length === acting(after).length;
  if (!sameRest) return null;
  for (const [i, b] of after.parts.entries()) {
    const a = before.parts[i]!;
    if (a === b) continue;
    if (PART_FIELDS.some((field) => a[field] !== b[field])) return null;
    const [innerA, innerB] = [innerMask(a), innerMask(b)];
    if ((innerA === undefined) !== (innerB === undefined)) return null;
    const changes = [maskPartKind(b.kind).changedArea(a, b), innerA && innerB ? changedIn(innerA, innerB) : area];
    for (const changed of changes) {
      if (!changed) return null;
      area = union(area, changed);
    }
  }
  return area;
}
