/** How the picture is cut from the photograph: what each control of the crop does to the edit. */
import type { Rect, Size } from '@umbo/core/base';
import { pictureSizeOf, sameValue, type Recipe, type UmboDocument } from '@umbo/core/document';
import {
  cropOf,
  cropWithin,
  isWithin,
  keepsPixels,
  largestCrop,
  levelledBy,
  noGeometry,
  outlineOnPlane,
  planeOf,
  uprightFrom,
  type Geometry,
  type Place,
} from '@umbo/core/geometry';
import type { BenchState } from './benchState';

/** A crop is no smaller than this. */
const LEAST_SIDE = 16;

export const geometryOf = ({ geometry }: Pick<UmboDocument, 'geometry'>): Geometry => geometry ?? noGeometry;

/** The crop in force. */
export const cropIn = (document: Pick<UmboDocument, 'geometry' | 'photo'>): Rect => cropOf(geometryOf(document), document.photo);
export const outlineIn = (document: Pick<UmboDocument, 'geometry' | 'photo'>): [number, number][] =>
  outlineOnPlane(geometryOf(document), document.photo);

/** Changes the geometry; one that leaves the photograph as it is is left out. */
const onGeometry =
  (change: (geometry: Geometry, photo: Size) => Geometry): Recipe =>
  (draft) => {
    const { photo } = draft;
    const before = JSON.parse(JSON.stringify(draft.geometry ?? noGeometry)) as Geometry;
    const next = change(before, { width: photo.width, height: photo.height });
    const { crop } = next;
    const plane = planeOf(next, photo);
    const isAll = crop && keepsPixels(next) && sameValue(crop, { x: 0, y: 0, ...plane });
    const tidy = isAll ? { ...next, crop: null } : next;
    if (sameValue(tidy, noGeometry)) delete draft.geometry;
    else draft.geometry = tidy;
  };

/** A crop that was within the photograph stays so; one that reached beyond it does, too. */
function follow(before: Geometry, next: Geometry, photo: Size): Geometry {
  const { crop } = before;
  if (!crop || !isWithin(outlineOnPlane(before, photo), crop)) return next;
  return { ...next, crop: cropWithin(outlineOnPlane(next, photo), crop) };
}

/** Straightens, or corrects the perspective: the crop is made no larger than there is room for. */
export const setLine = (values: Partial<Pick<Geometry, 'angle' | 'vertical' | 'horizontal' | 'skew' | 'stretch'>>): Recipe =>
  onGeometry((geometry, photo) => follow(geometry, { ...geometry, ...values }, photo));

export const setOutside = (outside: Partial<Geometry['outside']>): Recipe =>
  onGeometry((geometry) => ({ ...geometry, outside: { ...geometry.outside, ...outside } }));

export const setCrop = (crop: Rect | null): Recipe => onGeometry((geometry) => ({ ...geometry, crop }));

/** A quarter turn of what is seen. @param by 1 clockwise, -1 the other way */
export const quarterTurn = (by: 1 | -1): Recipe =>
  onGeometry((geometry, photo) => {
    const { quarters, flipped, crop } = geometry;
    const { width, height } = planeOf(geometry, photo);
    const turned = crop && {
      x: by === 1 ? height - crop.y - crop.height : crop.y,
      y: by === 1 ? crop.x : width - crop.x - crop.width,
      width: crop.height,
      height: crop.width,
    };
    return { ...geometry, quarters: (quarters + (flipped ? -by : by) + 4) % 4, crop: turned };
  });

/** Exchanges left and right, or top and bottom, of what is seen. */
export const flip = (along: 'across' | 'down'): Recipe =>
  onGeometry((geometry, photo) => {
    const { quarters, flipped, crop } = geometry;
    const { width, height } = planeOf(geometry, photo);
    if (along === 'across') return { ...geometry, flipped: !flipped, crop: crop && { ...crop, x: width - crop.x - crop.width } };
    return { ...geometry, flipped: !flipped, quarters: (quarters + 2) % 4, crop: crop && { ...crop, y: height - crop.y - crop.height } };
  });

/** A crop of a ratio: about as large as the one before, about the same middle, within the photograph. */
export const cropToRatio = (ratio: Size): Recipe =>
  onGeometry((geometry, photo) => {
    const outline = outlineOnPlane(geometry, photo);
    const before = cropOf(geometry, photo);
    // One that was as large as there was room for stays so.
    if (!geometry.crop) return { ...geometry, crop: largestCrop(outline, ratio) };
    const scale = Math.sqrt((before.width * before.height) / (ratio.width * ratio.height));
    const [width, height] = [Math.round(ratio.width * scale), Math.round(ratio.height * scale)];
    const crop = {
      x: Math.round(before.x + (before.width - width) / 2),
      y: Math.round(before.y + (before.height - height) / 2),
      width,
      height,
    };
    return { ...geometry, crop: cropWithin(outline, crop) };
  });

export const levelBy = (from: Place, to: Place): Recipe =>
  onGeometry((geometry, photo) => follow(geometry, { ...geometry, angle: rounded(levelledBy(geometry, photo, from, to)) }, photo));

const rounded = (v: number): number => Math.round(v * 100) / 100;

/** @returns null where the corners lie too steep for that */
export function uprightBy(document: UmboDocument, corners: readonly Place[]): Recipe | null {
  const made = uprightFrom(geometryOf(document), document.photo, corners);
  return made && onGeometry((geometry) => ({ ...geometry, ...made, crop: null }));
}

/** The crop's own ratios, the long side first. */
export const RATIOS = {
  '1:1': [1, 1],
  '5:4': [5, 4],
  '3:2': [3, 2],
  '4:3': [4, 3],
  '16:9': [16, 9],
} as const;
type RatioName = keyof typeof RATIOS;

/** The sides that a crop keeps to; null: to none. They lie as the crop in force does. */
export function ratioOf({ cropping, committed }: Pick<BenchState, 'cropping' | 'committed'>): Size | null {
  const { ratio, typed } = cropping;
  if (ratio === 'free') return null;
  if (ratio === 'photograph') return planeOf(geometryOf(committed), committed.photo);
  if (ratio === 'typed' || ratio.startsWith('other ')) return typed;
  const [long, short] = RATIOS[ratio as RatioName];
  const { width, height } = cropIn(committed);
  return width >= height ? { width: long, height: short } : { width: short, height: long };
}

/** The size of another photograph's picture, for a crop of its ratio. */
export async function sizeOfOther(read: (address: string) => Promise<{ edit: { document: UmboDocument } }>, id: number): Promise<Size> {
  const { edit } = await read(`/api/photographs/${id}`);
  return pictureSizeOf(edit.document);
}

/** The sides of a crop that a handle moves: left (-1) or right (1), top (-1) or bottom (1); 0 none. */
export type Grip = readonly [-1 | 0 | 1, -1 | 0 | 1];

/**
 * What a drag of a handle makes of a crop; of none of its sides: it is moved as it is.
 * @param ratio that is kept; null: none
 * @param beyond whether it may reach beyond the photograph
 */
export function draggedCrop(
  start: Rect,
  [gx, gy]: Grip,
  by: readonly [number, number],
  ratio: Size | null,
  outline: readonly (readonly [number, number])[],
  beyond: boolean,
): Rect {
  let [x, y, width, height] = [start.x, start.y, start.width, start.height];
  if (gx === 0 && gy === 0) [x, y] = [x + by[0], y + by[1]];
  else {
    width = Math.max(LEAST_SIDE, width + gx * by[0]);
    height = Math.max(LEAST_SIDE, height + gy * by[1]);
    if (ratio) {
      const share = ratio.width / ratio.height;
      // The side that was moved further decides; the other one follows.
      if (gy === 0 || (gx !== 0 && width / start.width >= height / start.height)) height = width / share;
      else width = height * share;
    }
    x = gx < 0 ? start.x + start.width - width : gx === 0 ? start.x + (start.width - width) / 2 : start.x;
    y = gy < 0 ? start.y + start.height - height : gy === 0 ? start.y + (start.height - height) / 2 : start.y;
  }
  const wanted = { x, y, width, height };
  return toWhole(beyond ? wanted : held(start, wanted, outline, ratio === null && (gx !== 0 || gy !== 0)));
}

/** As far from one crop towards another as the photograph reaches; each way by itself where the sides need not keep together. */
function held(start: Rect, wanted: Rect, outline: readonly (readonly [number, number])[], apart: boolean): Rect {
  const between = (share: number, from: Rect, to: Rect): Rect => ({
    x: from.x + (to.x - from.x) * share,
    y: from.y + (to.y - from.y) * share,
    width: from.width + (to.width - from.width) * share,
    height: from.height + (to.height - from.height) * share,
  });
  const far = (from: Rect, to: Rect): Rect => {
    if (isWithin(outline, to)) return to;
    let [low, high] = [0, 1];
    for (let i = 0; i < 24; i++) {
      const share = (low + high) / 2;
      if (isWithin(outline, between(share, from, to))) low = share;
      else high = share;
    }
    return between(low, from, to);
  };
  const isMove = wanted.width === start.width && wanted.height === start.height;
  if (!apart && !isMove) return far(start, wanted);
  const across = far(start, { ...start, x: wanted.x, width: wanted.width });
  return far(across, { ...across, y: wanted.y, height: wanted.height });
}

function toWhole({ x, y, width, height }: Rect): Rect {
  const [left, top] = [Math.round(x), Math.round(y)];
  return { x: left, y: top, width: Math.max(1, Math.round(x + width) - left), height: Math.max(1, Math.round(y + height) - top) };
}
