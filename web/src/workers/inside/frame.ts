/** The part of the picture that is on the stage, at the scale of the stage, and what is known about it. */
import {
  coversAll,
  acts,
  createRaster,
  expand,
  intersect,
  isEmpty,
  maskChange,
  union,
  wholeOf,
  type Layer,
  type Mask,
  type Rect,
  type Scale,
  type Size,
} from '@umbo/core';
import type { LayerJob, SharedFrame, TileJob, View } from '../protocol';

/** Frames are larger than what is seen, so that small moves need no rendering. */
const MARGIN = 64;

export interface Frame extends SharedFrame {
  masks: Map<string, { values: Uint16Array; of: Mask }>;
  /** The layers as they are in `rgba`; null before the first rendering. */
  rendered: Layer[] | null;
  /** The layers below the picture kept in `below`; null when nothing is kept. */
  kept: Layer[] | null;
}

/** The picture's size on a stage of this zoom: never more pixels than the photograph has. */
export function pictureSize(full: Size, zoom: number): Size {
  const scale = Math.min(1, zoom);
  return { width: Math.max(1, Math.round(full.width * scale)), height: Math.max(1, Math.round(full.height * scale)) };
}

/** The part of the picture that is seen, in pixels of the picture. */
export function visibleArea(picture: Size, full: Size, view: View, stage: Size): Rect {
  const perPixel = (view.zoom * full.width) / picture.width;
  const x = Math.floor(-view.x / perPixel);
  const y = Math.floor(-view.y / perPixel);
  const seen = { x, y, width: Math.ceil((stage.width - view.x) / perPixel) - x, height: Math.ceil((stage.height - view.y) / perPixel) - y };
  return intersect(seen, wholeOf(picture));
}

/** Whether a frame still serves a view. */
export function serves(frame: Frame, picture: Size, visible: Rect, reach: number): boolean {
  if (frame.scale.picture.width !== picture.width || frame.scale.picture.height !== picture.height) return false;
  const whole = wholeOf(picture);
  return contains(frame.area, visible) && contains(frame.source.area, intersect(expand(frame.area, reach), whole));
}

const contains = (outer: Rect, inner: Rect): boolean =>
  isEmpty(inner) ||
  (inner.x >= outer.x &&
    inner.y >= outer.y &&
    inner.x + inner.width <= outer.x + outer.width &&
    inner.y + inner.height <= outer.y + outer.height);

/** Where a frame's picture lies on the stage: its top left corner, and how many of the stage's pixels one of its pixels takes. */
export function placement(frame: Frame, view: View, full: Size): { x: number; y: number; perPixel: number; exact: boolean } {
  const perPixel = (view.zoom * full.width) / frame.scale.picture.width;
  // A frame of this very zoom lies on whole device pixels: one of its pixels is one of the stage's.
  const exact = view.zoom <= 1 && Math.round(full.width * view.zoom) === frame.scale.picture.width;
  return exact ? { x: Math.round(view.x), y: Math.round(view.y), perPixel: 1, exact } : { x: view.x, y: view.y, perPixel, exact };
}

export function createFrame(scale: Scale, visible: Rect, reach: number): Frame {
  const whole = wholeOf(scale.picture);
  const area = intersect(expand(visible, MARGIN), whole);
  const n = area.width * area.height;
  const floats = (): Float32Array => new Float32Array(new SharedArrayBuffer(n * 4));
  return {
    scale,
    area,
    // Room for masks that grow a little: a feather being dragged does not begin a new frame at every step.
    source: createRaster(intersect(expand(area, Math.ceil(reach / MARGIN) * MARGIN + MARGIN), whole), true),
    rgba: new Uint8ClampedArray(new SharedArrayBuffer(n * 4)),
    below: { r: floats(), g: floats(), b: floats() },
    masks: new Map(),
    rendered: null,
    kept: null,
  };
}

/** What must be rendered so that the frame shows `layers`; null when it does already. */
export function planUpdate(
  frame: Frame,
  layers: Layer[],
  viewed: string | null,
): { job: Extract<TileJob, { type: 'render' }>; changed: Rect } | null {
  const needsMask = (layer: Layer): boolean => (acts(layer) || layer.id === viewed) && !coversAll(layer.where);
  const jobs: LayerJob[] = layers.map((layer) => {
    if (!needsMask(layer)) return { id: layer.id, mask: null, dirty: null };
    let known = frame.masks.get(layer.id);
    let dirty = frame.area;
    if (known) dirty = intersect(maskChange(known.of, layer.where, frame.scale), frame.area);
    else
      frame.masks.set(
        layer.id,
        (known = { values: new Uint16Array(new SharedArrayBuffer(frame.area.width * frame.area.height * 2)), of: layer.where }),
      );
    return { id: layer.id, mask: known.values, dirty: isEmpty(dirty) ? null : dirty };
  });
  const masksDirty = jobs.reduce((area, { dirty }) => (dirty ? union(area, dirty) : area), { x: 0, y: 0, width: 0, height: 0 });

  const before = frame.rendered;
  let first = 0;
  while (before && first < layers.length && first < before.length && !looksDifferent(before[first]!, layers[first]!)) first++;
  const same = before !== null && first === layers.length && first === before.length;
  if (same && isEmpty(masksDirty)) return null;

  // Where only the mask of one layer changed, only the pixels under the change are rendered.
  const onlyMask =
    before !== null &&
    before.length === layers.length &&
    layers.every((layer, i) => layer === before[i] || onlyWhereDiffers(before[i]!, layer));
  const rect = same || onlyMask ? masksDirty : frame.area;

  const kept =
    frame.kept && frame.kept.length <= first && frame.kept.every((layer, i) => !looksDifferent(layer, layers[i]!)) ? frame.kept.length : 0;
  if (kept === 0) frame.kept = null;
  const whole = rect === frame.area || (rect.width === frame.area.width && rect.height === frame.area.height);
  const store = first > kept && first < layers.length && before !== null;
  return {
    job: { type: 'render', layers: jobs, rect: store && !whole ? frame.area : rect, from: kept, storeAt: store ? first : -1 },
    changed: rect,
  };
}

/** Takes note of a finished update. */
export function noteUpdate(frame: Frame, layers: Layer[], job: Extract<TileJob, { type: 'render' }>): void {
  frame.rendered = layers;
  if (job.storeAt >= 0) frame.kept = layers.slice(0, job.storeAt);
  for (const [i, { mask }] of job.layers.entries()) {
    const layer = layers[i]!;
    if (mask) frame.masks.get(layer.id)!.of = layer.where;
  }
  const present = new Set(job.layers.filter(({ mask }) => mask).map(({ id }) => id));
  for (const id of frame.masks.keys()) if (!present.has(id)) frame.masks.delete(id);
}

const onlyWhereDiffers = (a: Layer, b: Layer): boolean =>
  a.id === b.id && a.on === b.on && a.what === b.what && a.how === b.how && coversAll(a.where) === coversAll(b.where);

/** A new name does not change the picture. */
const looksDifferent = (a: Layer, b: Layer): boolean => a !== b && (!onlyWhereDiffers(a, b) || a.where !== b.where);
