/** What render threads do: pure calculation from a cached level to rows of pixels. */
import { openSync, readSync, writeSync, closeSync } from 'node:fs';
import {
  createRaster,
  isEmpty,
  keyOf,
  levelSize,
  overviewLevel,
  resample,
  spreadRows,
  wholeOf,
  type Filtered,
  type Framing,
  type LoadedPicture,
  type PictureNeed,
  type Pictures,
  type Raster,
  type Rect,
  type Samples,
  type Size,
  type SpaceId,
} from '@umbo/core/base';
import { factsOf, sampleAnew, type CarryFacts } from '@umbo/core/carry';
import { scaleOf, type UmboDocument } from '@umbo/core/document';
import { noteReading, PixelsGone } from '@umbo/files/lease';
import type { ReadingFact } from '@umbo/data';
import { readingFacts } from './readings.ts';
import { pictureSamples, sizeAt } from '@umbo/core/geometry';
import { regionColours, type RegionColour } from '@umbo/core/warnings';
import { findAnew, readingPlace, type Places, type ReadingPlace } from '@umbo/core/solve';
import { filterRegion, neededArea, renderRegion, filterInput, writeTile, type FilterLayer } from '@umbo/core/render';
import { spaces, srgb } from '@umbo/core/colour';

/** A file with what an edit needs: all of a level of a photograph. */
export interface PictureFile {
  /** Of the need. */
  key: string;
  full: Size;
  file: string;
  size: Size;
}

/** What is rendered, and of what. */
interface Edit {
  document: UmboDocument;
  full: Size;
  pictures: PictureFile[];
  /** The file of the level that is read: level 0 for full rows. */
  level: string;
}

/** Part of the full photograph. */
interface Part extends Edit {
  part: Rect;
  /** What layers that look around made, one file each: three planes of 16 bits. */
  filtered: { id: string; file: string }[];
}

/** Looks around in the picture below a layer, into the layer's own file. */
export interface FilterTask extends Part {
  type: 'filter';
  layer: FilterLayer;
  out: string;
}

/** Renders the edit into a file. */
export interface PartTask extends Part {
  type: 'part';
  bits: 8 | 16;
  space: SpaceId;
  dither?: boolean;
  out: string;
  /** Where the picture's first row begins in `out`. */
  offset: number;
}

/** Renders the whole picture small. */
export interface PreviewTask extends Edit {
  type: 'preview';
  levelSize: Size;
  /** Of all of the photograph. */
  size: Size;
}

/** Measures the readings. */
export interface ReadingsTask extends Omit<Edit, 'level'> {
  type: 'readings';
  /** The files of all levels. */
  levels: string[];
}

/** Looks at all of the photograph, small. */
export interface OverviewTask extends Edit {
  type: 'overview';
  look: 'facts' | 'sample anew' | 'regions';
  levelSize: Size;
  /** Of masks: those to measure, or those that take colours anew. */
  owners: readonly string[];
}

/** Finds settings of layers anew. */
export interface AnewTask extends Omit<Edit, 'level'> {
  type: 'anew';
  /** The files of all levels. */
  levels: string[];
  layers: readonly string[];
}
/** The edit with what was found, and what became of what it was found for. */
export type FoundAnew = ReturnType<typeof findAnew>;

export type Task = FilterTask | PartTask | PreviewTask | ReadingsTask | OverviewTask | AnewTask;
/** A preview's interleaved 8-bit rows; what readings are; what an edit does, or an edit; null for tasks that write into a file. */
export type Answer = Uint8Array | ReadingFact[] | CarryFacts | UmboDocument | RegionColour[] | FoundAnew | null;

export function perform(task: Task): Answer {
  if (task.type === 'preview') return renderPreview(task);
  if (task.type === 'readings') {
    const { document, full, pictures, levels } = task;
    return readingFacts(document, full, picturesOf(pictures), (level, size, area) => readLevel(levels[level]!, size, area));
  }
  if (task.type === 'overview') return lookOver(task);
  if (task.type === 'anew') return findSettings(task);
  if (task.type === 'filter') filterPart(task);
  else renderPart(task);
  return null;
}

/** Calls `each` for the stretches of a part that lie together in a file of rows: where they begin, counted in pixels, and their length. */
function eachStretch(part: Rect, width: number, each: (at: number, pixels: number, index: number) => void): void {
  if (part.width === width) return each(part.y * width, part.height * width, 0);
  for (let y = 0; y < part.height; y++) each((part.y + y) * width + part.x, part.width, y * part.width);
}

/** Of a level, which is interleaved. */
function readLevel(path: string, { width }: Size, area: Rect): Raster {
  const raster = createRaster(area);
  const pixels = new Uint16Array(area.width * area.height * 3);
  noteReading(path);
  withFile(path, 'r', (file) =>
    eachStretch(area, width, (at, length, index) => {
      const bytes = new Uint8Array(pixels.buffer, index * 6, length * 6);
      if (readSync(file, bytes, 0, bytes.length, at * 6) !== bytes.length) throw new Error('A cached level is shorter than it should be');
    }),
  );
  spreadRows(pixels, raster, 0);
  return raster;
}

const held = new Map<PictureNeed['kind'], { file: string; picture: LoadedPicture }>();

/** Of each kind of need, what was read last stays in memory: the bands of a picture ask for it again and again. */
const picturesOf = (files: readonly PictureFile[]): Pictures => ({
  find(need) {
    const wanted = files.find(({ key }) => key === keyOf(need));
    if (!wanted) return null;
    const { file, full, size } = wanted;
    const known = held.get(need.kind);
    if (known?.file === file) return known.picture;
    held.delete(need.kind); // before the next is read: both together may be too much
    const picture = { full, level: readLevel(file, size, wholeOf(size)) };
    held.set(need.kind, { file, picture });
    return picture;
  },
});

const PLANES = ['r', 'g', 'b'] as const;

/** Calls `each` with the stretches of every plane of an area, and where they are in a file of planes. */
function forPlanes({ area, ...planes }: Raster, part: Rect, full: Size, each: (bytes: Uint8Array, at: number) => void): void {
  for (const [i, name] of PLANES.entries())
    for (let y = 0; y < part.height; y++) {
      const from = (part.y - area.y + y) * area.width + part.x - area.x;
      const plane = planes[name].subarray(from, from + part.width);
      const at = ((i * full.height + part.y + y) * full.width + part.x) * 2;
      each(new Uint8Array(plane.buffer, plane.byteOffset, plane.byteLength), at);
    }
}

function withFile(path: string, flags: 'r' | 'r+', use: (file: number) => void): void {
  let file: number;
  try {
    file = openSync(path, flags);
  } catch (error) {
    throw (error as NodeJS.ErrnoException).code === 'ENOENT' ? new PixelsGone() : error;
  }
  try {
    use(file);
  } finally {
    closeSync(file);
  }
}

function writeAll(file: number, bytes: Uint8Array, at: number): void {
  if (writeSync(file, bytes, 0, bytes.byteLength, at) !== bytes.byteLength)
    throw Object.assign(new Error('The disk is full'), { code: 'ENOSPC' });
}

/** What layers that look around made, read row by row from their files. */
function filteredOf(files: Part['filtered'], full: Size): Filtered {
  return {
    ids: new Set(files.map(({ id }) => id)),
    read(id, area) {
      const raster = createRaster(area);
      withFile(files.find((one) => one.id === id)!.file, 'r', (file) =>
        forPlanes(raster, area, full, (bytes, at) => {
          if (readSync(file, bytes, 0, bytes.byteLength, at) !== bytes.byteLength) throw new Error('A file of planes is too short');
        }),
      );
      return raster;
    },
  };
}

function filterPart({ document, layer, full, pictures, level, part, filtered, out }: FilterTask): void {
  const scale = scaleOf(document, full);
  const made = filteredOf(filtered, full);
  const { below, area } = filterInput(document, layer, scale, part);
  const photograph = readLevel(level, full, neededArea(below, scale, area, made.ids));
  const raster = filterRegion(document, layer, scale, part, photograph, { ...picturesOf(pictures), filtered: made });
  withFile(out, 'r+', (file) => forPlanes(raster, part, full, (bytes, at) => writeAll(file, bytes, at)));
}

function renderPart({ document, full, pictures, level, part, filtered, bits, space, dither, out, offset }: PartTask): void {
  const scale = scaleOf(document, full);
  const fromTo = [spaces[document.workingSpace], spaces[space]] as const;
  const made = filteredOf(filtered, full);
  const known = { ...picturesOf(pictures), filtered: made };
  const rows = (area: Rect): Samples => {
    const length = area.width * area.height * 3;
    return { area, channels: 3, values: bits === 8 ? new Uint8Array(length) : new Uint16Array(length) };
  };
  const render = (area: Rect): Samples => {
    const photograph = readLevel(level, full, neededArea(document, scale, area, made.ids));
    const samples = rows(area);
    renderRegion(document, scale, area, photograph, known, (tile, rendered) =>
      writeTile(tile, rendered, fromTo, area, samples.values, dither),
    );
    return samples;
  };
  const { values: pixels } = pictureSamples(scale, part, render, () => canvasIn(fromTo, scale.framing!, rows(ONE)));
  const each = (3 * bits) / 8;
  withFile(out, 'r+', (file) =>
    eachStretch(part, sizeAt(scale).width, (at, length, index) =>
      writeAll(file, new Uint8Array(pixels.buffer, index * each, length * each), offset + at * each),
    ),
  );
}

const ONE: Rect = { x: 0, y: 0, width: 1, height: 1 };

/** The colour around the photograph as a file holds it. @param into a pixel of the file */
function canvasIn(fromTo: Parameters<typeof writeTile>[2], { outside }: Framing, { values }: Samples): number[] {
  const [r, g, b] = outside.colour.map((v) => Float32Array.of(v)) as [Float32Array, Float32Array, Float32Array];
  writeTile(ONE, { r, g, b }, fromTo, ONE, values);
  return [...values];
}

function lookOver({ look, document, pictures, level, levelSize, owners }: OverviewTask): CarryFacts | UmboDocument | RegionColour[] {
  const photograph = readLevel(level, levelSize, wholeOf(levelSize));
  if (look === 'regions') return regionColours(document, scaleOf(document, levelSize), photograph, picturesOf(pictures));
  return (look === 'facts' ? factsOf : sampleAnew)(document, scaleOf(document, levelSize), photograph, picturesOf(pictures), owners);
}

function findSettings({ document, full, pictures, levels, layers }: AnewTask): FoundAnew {
  const known = picturesOf(pictures);
  const placeAt = (shown: UmboDocument, level: number, area: Rect): ReadingPlace => {
    const size = levelSize(full, level);
    const scale = scaleOf(shown, size);
    return { scale, area, photograph: readLevel(levels[level]!, size, neededArea(shown, scale, area)), pictures: known };
  };
  const places: Places = {
    reading(shown, reading) {
      const { level, area } = readingPlace(reading, full);
      return isEmpty(area) ? null : placeAt(shown, level, area);
    },
    whole(shown) {
      const level = overviewLevel(full);
      return placeAt(shown, level, wholeOf(levelSize(full, level)));
    },
  };
  return findAnew(document, layers, places, () => undefined);
}

function renderPreview({ document, pictures, level, levelSize, size }: PreviewTask): Uint8Array {
  const source = readLevel(level, levelSize, wholeOf(levelSize));
  const whole = wholeOf(size);
  const photograph = createRaster(whole);
  resample(source, levelSize, size, whole, photograph);
  const scale = scaleOf(document, size);
  const fromTo = [spaces[document.workingSpace], srgb] as const;
  const render = (area: Rect): Samples => {
    const values = new Uint8Array(area.width * area.height * 3);
    renderRegion(document, scale, area, photograph, picturesOf(pictures), (tile, pixels) => writeTile(tile, pixels, fromTo, area, values));
    return { area, channels: 3, values };
  };
  return pictureSamples(scale, wholeOf(sizeAt(scale)), render).values as Uint8Array;
}
