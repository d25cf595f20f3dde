/** Draws frames on the stage. */
import {
  contains,
  expand,
  intersect,
  isEmpty,
  project,
  wholeOf,
  type ColourSpace,
  type Framing,
  type Rect,
  type Scale,
  type Size,
} from '@umbo/core/base';
import { deltaE2000, rgbToLab, spaces, type Lab } from '@umbo/core/colour';
import type { UmboDocument } from '@umbo/core/document';
import { framingAt, isAffine, photographArea, pictureSamples, sizeAt, type FramingAt } from '@umbo/core/geometry';
import { newlyClipped } from '@umbo/core/measure';
import { besideShift, FARTHEST, type Look, type PictureThumbnail, type Proof, type View } from '../protocol';
import { maskContours, type ContourLine } from './contours';
import { rgbaOf, showing } from './display';
import { placement, resultAt, seenOfPicture, type Viewport } from './viewport';
import { litPixels } from './lighting';

/** Light lines on a dark rim are seen on any picture. */
const RIM = 'rgba(0, 0, 0, 0.55)';
const LINE = '#ffffff';

export class Painter {
  readonly #canvas: OffscreenCanvas;
  readonly #display: PredefinedColorSpace;
  readonly #stage: OffscreenCanvasRenderingContext2D;
  #proof: Proof | null = null;
  #against: Look['against']['kind'] = 'photograph';
  #after = new OffscreenCanvas(1, 1);
  #before: OffscreenCanvas | null = null;
  #viewport: Viewport | null = null;
  /** How often the picture after was changed. */
  #changes = 0;
  #turned = new WeakMap<OffscreenCanvas, Turned>();
  #lines: (ContourLine & { isMain: boolean })[] = [];
  #overview: OffscreenCanvas | null = null;

  /** @param display the space of what is shown: every canvas is in it, because going from one to another is slow */
  constructor(canvas: OffscreenCanvas, display: PredefinedColorSpace) {
    this.#display = display;
    this.#canvas = canvas;
    this.#stage = canvas.getContext('2d', { alpha: false, colorSpace: display })!;
  }

  #image(size: Size): ImageData {
    return new ImageData(size.width, size.height, { colorSpace: this.#display });
  }

  #put(image: ImageData, canvas = new OffscreenCanvas(image.width, image.height), x = 0, y = 0): OffscreenCanvas {
    canvas.getContext('2d', { colorSpace: this.#display })!.putImageData(image, x, y);
    return canvas;
  }

  resize(size: Size): void {
    this.#canvas.width = size.width;
    this.#canvas.height = size.height;
  }

  /** What everything is shown through. */
  setProof(proof: Proof | null): void {
    this.#proof = proof;
  }

  /** A small picture of the whole that stands in where the viewport does not reach. */
  setOverview({ width, height, rgba }: PictureThumbnail): void {
    this.#overview = new OffscreenCanvas(width, height);
    this.#overview.getContext('2d')!.putImageData(new ImageData(rgba, width, height), 0, 0);
  }

  /** Takes over the pixels of a viewport. @param changed the part that is new; all of it for a new viewport */
  update(viewport: Viewport, changed: Rect, look: Look, document: UmboDocument): void {
    const { area } = viewport;
    this.#differences = null;
    this.#changes++;
    // The picture without its proof changes with it.
    if (this.#against === 'unproofed') this.#before = null;
    if (viewport !== this.#viewport) {
      this.#viewport = viewport;
      this.#before = null;
      this.#lines = [];
      this.#after = new OffscreenCanvas(area.width, area.height);
      changed = area;
    }
    const image = this.#image(changed);
    const lit = look.lit && litPixels(viewport, document, look.layerId, look.lit);
    const mask = look.layerId ? viewport.masks.get(look.layerId)?.values : undefined;
    if (lit) spotlight(viewport, lit, changed, image.data);
    else if (mask && look.maskView === 'plain') plain(viewport, mask, changed, image.data);
    else if (mask && look.maskView === 'dimmed') dimmed(viewport, mask, changed, image.data);
    else if (mask && look.maskView === 'spotlight') spotlight(viewport, mask, changed, image.data);
    else copy(viewport, changed, image.data);
    if (look.clipped) markClipped(viewport, changed, image.data);
    this.#put(image, this.#after, changed.x - area.x, changed.y - area.y);
  }

  /** Finds the contour lines of the mask that is looked at; slow enough to be done after the picture is on the stage. */
  updateContours(look: Look, { framing }: View): void {
    const viewport = this.#viewport;
    const mask = look.maskView === 'contours' && look.layerId && !look.lit ? viewport?.masks.get(look.layerId)?.values : undefined;
    const toPicture = framing && viewport && framingAt(viewport.scale, framing).toPicture;
    const place = toPicture ? (x: number, y: number) => project(toPicture, x, y) : (x: number, y: number): [number, number] => [x, y];
    this.#lines = mask ? maskContours(mask, viewport!.area, place).map((line) => ({ ...line, isMain: line.level === 0.5 })) : [];
    const from = look.proof?.warnFrom;
    if (viewport?.beyond && from !== undefined && from !== null) {
      const levels = [1, 2, 4].map((times) => (times * from) / FARTHEST).filter((level) => level < 1);
      const around = maskContours(viewport.beyond, viewport.area, place, levels, levels[0]);
      this.#lines.push(...around.map((line) => ({ ...line, isMain: line.level === levels[0] })));
    }
  }

  /** @returns whether what is on the stage is a draft: it is exact once it is drawn at leisure */
  draw(view: View, look: Look, full: Size, atLeisure = false): boolean {
    const { framing } = view;
    const stage = this.#stage;
    if (look.against.kind !== this.#against) {
      this.#against = look.against.kind;
      this.#before = null;
    }
    const { width, height } = this.#canvas;
    stage.setTransform(1, 0, 0, 1, 0, 0);
    stage.fillStyle = `rgb(${look.surround} ${look.surround} ${look.surround})`;
    stage.fillRect(0, 0, width, height);
    const viewport = this.#viewport;
    const whole =
      viewport && viewport.area.width === viewport.scale.picture.width && viewport.area.height === viewport.scale.picture.height;
    const size = framing?.size ?? full;
    // The small picture is of the crop: while that is being chosen, more is seen.
    if (this.#overview && !whole && !view.choosing) {
      stage.imageSmoothingEnabled = true;
      stage.drawImage(this.#overview, view.x, view.y, size.width * view.zoom, size.height * view.zoom);
    }
    if (!viewport) return false;
    const { x, y, perPixel } = placement(viewport, view, full);
    const shownScale: Scale = { ...viewport.scale, framing };
    const shown = framing ? seenOfPicture(shownScale, view, { width, height }) : viewport.area;
    if (isEmpty(shown)) return false;
    let isDraft = false;
    const put = (picture: OffscreenCanvas, shift = 0): void => {
      const turned = framing && this.#turn(picture, shownScale, framing, shown, !atLeisure);
      if (framing && !turned) {
        isDraft = true;
        // In perspective there is no such draft: the small picture of the whole is seen until it is there.
        if (isAffine(framing.toPhotograph))
          drawTurned(stage, picture, viewport.area, framingAt(viewport.scale, framing), { x: x + shift, y, perPixel });
        return;
      }
      const { canvas, area } = turned ?? { canvas: picture, area: viewport.area };
      stage.drawImage(canvas, x + shift + area.x * perPixel, y + area.y * perPixel, area.width * perPixel, area.height * perPixel);
    };
    stage.imageSmoothingEnabled = perPixel !== 1 && !(view.zoom >= 2 && viewport.scale.picture.width === full.width);
    const compare = look.compare === 'blink' ? look.blink : look.compare;
    if (compare === 'after' || compare === 'wipe') put(this.#after);
    else if (compare === 'difference') put(this.#difference(viewport, look.difference));
    const clipped = (from: number, to: number, picture: OffscreenCanvas, shift: number): void => {
      stage.save();
      stage.beginPath();
      stage.rect(from, 0, to - from, height);
      stage.clip();
      put(picture, shift);
      stage.restore();
    };
    if (compare === 'before') put(this.#beforeOf(viewport));
    else if (compare === 'wipe') clipped(0, Math.round(width * look.wipe), this.#beforeOf(viewport), 0);
    else if (compare === 'beside') {
      const shift = besideShift(width);
      if (!whole) {
        // Where the viewport does not reach, the small picture of the whole would lie in the wrong place.
        stage.fillRect(0, 0, width, height);
      }
      clipped(0, width >> 1, this.#beforeOf(viewport), -shift);
      clipped(width >> 1, width, this.#after, shift);
    }
    if (look.compare === 'after') this.#drawLines(x, y, perPixel, sizeAt(shownScale));
    return isDraft;
  }

  /**
   * A picture as it is cut from the photograph; kept until it is another.
   * @param quickly give none rather than take long
   */
  #turn(picture: OffscreenCanvas, scale: Scale, framing: Framing, shown: Rect, quickly: boolean): Turned | null {
    const known = this.#turned.get(picture);
    const isFresh =
      known?.scale === this.#viewport!.scale && known.framing === framing && (picture !== this.#after || known.changes === this.#changes);
    if (known && isFresh && contains(known.area, shown)) return known;
    const viewportArea = this.#viewport!.area;
    const wide = intersect(expand(shown, AROUND), wholeOf(sizeAt(scale)));
    const area = contains(viewportArea, photographArea(scale, wide)) ? wide : shown;
    // Before all of it is there, what is there is shown.
    if (!contains(viewportArea, photographArea(scale, area))) return known && isFresh ? known : null;
    if (quickly && known && !framing.keepsPixels && isAffine(framing.toPhotograph)) return null;
    const { data } = picture.getContext('2d')!.getImageData(0, 0, viewportArea.width, viewportArea.height);
    const made = pictureSamples(scale, area, () => ({ area: viewportArea, channels: 4, values: data }));
    const image = new ImageData(made.values as Uint8ClampedArray<ArrayBuffer>, area.width, area.height, { colorSpace: this.#display });
    const canvas = this.#put(image);
    const turned = { canvas, area, scale: this.#viewport!.scale, framing, changes: this.#changes };
    this.#turned.set(picture, turned);
    return turned;
  }

  #drawLines(x: number, y: number, perPixel: number, { width, height }: Size): void {
    const stage = this.#stage;
    stage.save();
    stage.setTransform(perPixel, 0, 0, perPixel, x, y);
    stage.beginPath();
    stage.rect(0, 0, width, height);
    stage.clip();
    for (const { isMain, path } of this.#lines) {
      stage.setLineDash(isMain ? [] : [5 / perPixel, 4 / perPixel]);
      for (const [style, width] of [
        [RIM, 2.6],
        [LINE, isMain ? 1.4 : 0.9],
      ] as const) {
        stage.strokeStyle = style;
        stage.lineWidth = width / perPixel;
        stage.stroke(path);
      }
    }
    stage.restore();
  }

  /** What the picture is compared with is another now. */
  forgetBefore(): void {
    this.#before = null;
  }

  #differences: { of: Look['difference']; before: OffscreenCanvas; canvas: OffscreenCanvas } | null = null;

  /** How far each pixel differs, as a grey; kept until either picture is another. */
  #difference(viewport: Viewport, of: Look['difference']): OffscreenCanvas {
    const before = this.#beforeOf(viewport);
    if (this.#differences?.of === of && this.#differences.before === before) return this.#differences.canvas;
    const { area, rgba } = viewport;
    const other = before.getContext('2d')!.getImageData(0, 0, area.width, area.height).data;
    const image = this.#image(area);
    if (of === 'deltaE') showDeltaE(rgba, other, image, spaces[this.#display]);
    else showChannels(rgba, other, image.data);
    const canvas = this.#put(image);
    this.#differences = { of, before, canvas };
    return canvas;
  }

  #beforeOf(viewport: Viewport): OffscreenCanvas {
    if (this.#before) return this.#before;
    const { area, source } = viewport;
    const image = this.#image(area);
    if (viewport.beforeOf) {
      image.data.set(viewport.before);
      return (this.#before = this.#put(image));
    }
    const bare = this.#against === 'unproofed' && viewport.result;
    const shown = bare ? rgbaOf(bare, area, showing(viewport, null)) : rgbaOf(source, area, showing(viewport, this.#proof));
    image.data.set(shown);
    return (this.#before = this.#put(image));
  }
}

/** A picture cut from the photograph. */
interface Turned {
  readonly canvas: OffscreenCanvas;
  /** The area of the picture that is in it. */
  readonly area: Rect;
  readonly scale: Scale;
  readonly framing: Framing;
  readonly changes: number;
}

/** Pixels around what is seen of a picture, so that small moves need no turning. */
const AROUND = 48;

/** A draft: the canvas's own interpolation, by a projection that lines stay parallel in. */
function drawTurned(
  stage: OffscreenCanvasRenderingContext2D,
  picture: OffscreenCanvas,
  area: Rect,
  { size, toPicture: [a, b] }: FramingAt,
  { x, y, perPixel }: { x: number; y: number; perPixel: number },
): void {
  stage.save();
  stage.beginPath();
  stage.rect(x, y, size.width * perPixel, size.height * perPixel);
  stage.clip();
  stage.transform(perPixel, 0, 0, perPixel, x, y);
  stage.transform(a[0], b[0], a[1], b[1], a[2], b[2]);
  stage.imageSmoothingEnabled = true;
  stage.drawImage(picture, area.x, area.y);
  stage.restore();
}

/** The channel that differs most, four times as strong. */
function showChannels(rgba: Uint8ClampedArray, other: Uint8ClampedArray, out: Uint8ClampedArray): void {
  for (let i = 0; i < other.length; i += 4) {
    const most = Math.max(Math.abs(rgba[i]! - other[i]!), Math.abs(rgba[i + 1]! - other[i + 1]!), Math.abs(rgba[i + 2]! - other[i + 2]!));
    out[i] = out[i + 1] = out[i + 2] = most * 4; // the array clamps
    out[i + 3] = 255;
  }
}

/** CIEDE2000 that is shown as white, and pixels of a square of which one is reckoned: it is no cheap formula. */
const [WHITE_AT, SQUARE] = [10, 2];

function showDeltaE(rgba: Uint8ClampedArray, other: Uint8ClampedArray, { width, height, data }: ImageData, space: ColourSpace): void {
  const labAt = (pixels: Uint8ClampedArray, i: number): Lab =>
    rgbToLab(space, pixels[i]! / 255, pixels[i + 1]! / 255, pixels[i + 2]! / 255);
  for (let y = 0; y < height; y += SQUARE)
    for (let x = 0; x < width; x += SQUARE) {
      const i = (y * width + x) * 4;
      const isSame = rgba[i] === other[i] && rgba[i + 1] === other[i + 1] && rgba[i + 2] === other[i + 2];
      const grey = isSame ? 0 : Math.min(255, (deltaE2000(labAt(other, i), labAt(rgba, i)) / WHITE_AT) * 255);
      for (let j = y; j < Math.min(height, y + SQUARE); j++)
        for (let k = x; k < Math.min(width, x + SQUARE); k++) {
          const o = (j * width + k) * 4;
          data[o] = data[o + 1] = data[o + 2] = grey;
          data[o + 3] = 255;
        }
    }
}

/** Calls `row` with the start of each row of `part`: in the viewport's pixels, and in the output's. */
function eachRow({ area }: Viewport, part: Rect, row: (from: number, to: number) => void): void {
  for (let y = 0; y < part.height; y++) row((part.y - area.y + y) * area.width + part.x - area.x, y * part.width);
}

function copy(viewport: Viewport, part: Rect, out: Uint8ClampedArray): void {
  eachRow(viewport, part, (from, to) => out.set(viewport.rgba.subarray(from * 4, (from + part.width) * 4), to * 4));
}

/** Pixels that have come to an end at which they were not in the photograph, as stripes that are seen on any picture. */
function markClipped(viewport: Viewport, part: Rect, out: Uint8ClampedArray): void {
  const { source } = viewport;
  for (let y = 0; y < part.height; y++) {
    const from = (part.y - viewport.area.y + y) * viewport.area.width + part.x - viewport.area.x;
    const before = (part.y - source.area.y + y) * source.area.width + part.x - source.area.x;
    for (let x = 0; x < part.width; x++) {
      const [i, k] = [from + x, before + x];
      const some =
        newlyClipped(source.r[k]! / 65535, resultAt(viewport, i, 0)) ||
        newlyClipped(source.g[k]! / 65535, resultAt(viewport, i, 1)) ||
        newlyClipped(source.b[k]! / 65535, resultAt(viewport, i, 2));
      if (some) out.fill(((x + y + part.x + part.y) >> 2) & 1 ? 255 : 0, (y * part.width + x) * 4, (y * part.width + x) * 4 + 3);
    }
  }
}

function plain(viewport: Viewport, mask: Uint16Array, part: Rect, out: Uint8ClampedArray): void {
  eachRow(viewport, part, (from, to) => {
    for (let x = 0; x < part.width; x++) {
      const o = (to + x) * 4;
      out[o] = out[o + 1] = out[o + 2] = (mask[from + x]! + 128) >> 8;
      out[o + 3] = 255;
    }
  });
}

/** The mask in white over a dimmed photograph. */
function dimmed(viewport: Viewport, mask: Uint16Array, part: Rect, out: Uint8ClampedArray): void {
  const { rgba } = viewport;
  eachRow(viewport, part, (from, to) => {
    for (let x = 0; x < part.width; x++) {
      const i = (from + x) * 4;
      const o = (to + x) * 4;
      const m = mask[from + x]! / 65535;
      for (let c = 0; c < 3; c++) out[o + c] = rgba[i + c]! * 0.35 * (1 - m) + 235 * m; // the array rounds
      out[o + 3] = 255;
    }
  });
}

/** Pixels between those by which the inside of a mask is judged. */
const EVERY = 7;

/** Whether what a mask lets in is light: then the rest is darkened, else lightened. */
function isLightInside({ rgba }: Viewport, mask: Uint16Array): boolean {
  let [sum, weight] = [0, 0];
  for (let i = 0; i < mask.length; i += EVERY) {
    weight += mask[i]!;
    sum += mask[i]! * (0.3 * rgba[i * 4]! + 0.59 * rgba[i * 4 + 1]! + 0.11 * rgba[i * 4 + 2]!);
  }
  return sum >= 96 * weight;
}

/** What the mask lets in stays as it is; the rest turns to grey of little contrast, darker or lighter than the inside: seen in monochrome, too. */
function spotlight(viewport: Viewport, mask: Uint16Array, part: Rect, out: Uint8ClampedArray): void {
  const { rgba } = viewport;
  const base = isLightInside(viewport, mask) ? 16 : 138;
  eachRow(viewport, part, (from, to) => {
    for (let x = 0; x < part.width; x++) {
      const i = (from + x) * 4;
      const o = (to + x) * 4;
      const m = mask[from + x]! / 65535;
      const grey = base + 0.4 * (0.3 * rgba[i]! + 0.59 * rgba[i + 1]! + 0.11 * rgba[i + 2]!);
      for (let c = 0; c < 3; c++) out[o + c] = grey + (rgba[i + c]! - grey) * m; // the array rounds
      out[o + 3] = 255;
    }
  });
}
