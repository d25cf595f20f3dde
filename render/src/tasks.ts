/** What render threads do: pure calculation from a cached level to rows of pixels. */
import { openSync, readSync, writeSync, closeSync } from 'node:fs';
import {
  createRaster,
  filterRegion,
  neededArea,
  renderRegion,
  resample,
  spreadRows,
  surroundingsOf,
  wholeOf,
  writeTile,
  type LookingLayer,
  type Filtered,
  type OtherPhotograph,
  type OutputSpace,
  type Pictures,
  type Raster,
  type Rect,
  type Size,
  type UmboDocument,
} from '@umbo/core';

/** A level of another photograph that the edit shows. */
export interface OtherLevel {
  id: number;
  full: Size;
  file: string;
  size: Size;
}

/** The level of the photograph itself on which masks look at it as a whole; null where none does. */
export interface OverviewLevel {
  file: string;
  size: Size;
}

/** What is rendered, and of what. */
interface Edit {
  document: UmboDocument;
  full: Size;
  others: OtherLevel[];
  overview: OverviewLevel | null;
  /** The file of the level that is read: level 0 for full rows. */
  level: string;
}

/** Full rows of the full photograph. */
interface Rows extends Edit {
  band: Rect;
  /** What layers that look around made, one file each: three planes of 16 bits. */
  filtered: { id: string; file: string }[];
}

/** Looks around in the picture below a layer, into the layer's own file. */
export interface FilterTask extends Rows {
  type: 'filter';
  layer: LookingLayer;
  out: string;
}

/** Renders the edit into a file. */
export interface BandTask extends Rows {
  type: 'band';
  bits: 8 | 16;
  space: OutputSpace;
  out: string;
  /** Where the picture's first row begins in `out`. */
  offset: number;
}

/** Renders the whole picture small. */
export interface PreviewTask extends Edit {
  type: 'preview';
  levelSize: Size;
  size: Size;
}

export type Task = FilterTask | BandTask | PreviewTask;
/** A preview's interleaved 8-bit rows; null for tasks that write into a file. */
export type Answer = Uint8Array | null;

export function perform(task: Task): Answer {
  if (task.type === 'preview') return renderPreview(task);
  if (task.type === 'filter') filterBand(task);
  else renderBand(task);
  return null;
}

function readRows(path: string, size: Size, from: number, to: number): Raster {
  const raster = createRaster({ x: 0, y: from, width: size.width, height: to - from });
  const rows = new Uint16Array((to - from) * size.width * 3);
  withFile(path, 'r', (file) => {
    if (readSync(file, rows, 0, rows.byteLength, from * size.width * 6) !== rows.byteLength)
      throw new Error('A cached level is shorter than it should be');
  });
  spreadRows(rows, raster, 0);
  return raster;
}

let held: { file: string; photograph: OtherPhotograph } | null = null;
let heldOverview: { file: string; raster: Raster } | null = null;

/** What was read last stays in memory: the bands of a picture ask for it again and again. */
function picturesOf(others: readonly OtherLevel[], overview: OverviewLevel | null): Pictures {
  if (overview && heldOverview?.file !== overview.file) {
    heldOverview = null;
    heldOverview = { file: overview.file, raster: readRows(overview.file, overview.size, 0, overview.size.height) };
  }
  return {
    overview: overview && heldOverview!.raster,
    find(id) {
      const other = others.find((candidate) => candidate.id === id);
      if (!other) return null;
      if (held?.file !== other.file) {
        held = null;
        held = { file: other.file, photograph: { full: other.full, level: readRows(other.file, other.size, 0, other.size.height) } };
      }
      return held.photograph;
    },
  };
}

const PLANES = ['r', 'g', 'b'] as const;

/** Calls `each` with the rows of every plane that lie in an area, and where they are in a file of planes. */
function forPlaneRows({ area, ...planes }: Raster, rows: Rect, full: Size, each: (bytes: Uint8Array, at: number) => void): void {
  const from = (rows.y - area.y) * full.width;
  for (const [i, name] of PLANES.entries()) {
    const plane = planes[name].subarray(from, from + rows.height * full.width);
    each(new Uint8Array(plane.buffer, plane.byteOffset, plane.byteLength), (i * full.height + rows.y) * full.width * 2);
  }
}

function withFile(path: string, flags: 'r' | 'r+', use: (file: number) => void): void {
  const file = openSync(path, flags);
  try {
    use(file);
  } finally {
    closeSync(file);
  }
}

function writeAll(file: number, bytes: Uint8Array, at: number): void {
  if (writeSync(file, bytes, 0, bytes.byteLength, at) !== bytes.byteLength) throw Object.assign(new Error('The disk is full'), { code: 'ENOSPC' });
}

/** What layers that look around made, read row by row from their files. */
function filteredOf(files: Rows['filtered'], full: Size): Filtered {
  return {
    ids: new Set(files.map(({ id }) => id)),
    read(id, area) {
      const rows = { ...area, x: 0, width: full.width };
      const raster = createRaster(rows);
      withFile(files.find((one) => one.id === id)!.file, 'r', (file) =>
        forPlaneRows(raster, rows, full, (bytes, at) => {
          if (readSync(file, bytes, 0, bytes.byteLength, at) !== bytes.byteLength) throw new Error('A file of planes is too short');
        }),
      );
      return raster;
    },
  };
}

function filterBand({ document, layer, full, others, overview, level, band, filtered, out }: FilterTask): void {
  const scale = { picture: full, full };
  const made = filteredOf(filtered, full);
  const { below, area } = surroundingsOf(document, layer, scale, band);
  const needed = neededArea(below, scale, area, made.ids);
  const photograph = readRows(level, full, needed.y, needed.y + needed.height);
  const raster = filterRegion(document, layer, scale, band, photograph, { ...picturesOf(others, overview), filtered: made });
  withFile(out, 'r+', (file) => forPlaneRows(raster, band, full, (bytes, at) => writeAll(file, bytes, at)));
}

function renderBand({ document, full, others, overview, level, band, filtered, bits, space, out, offset }: BandTask): void {
  const scale = { picture: full, full };
  const made = filteredOf(filtered, full);
  const needed = neededArea(document, scale, band, made.ids);
  const photograph = readRows(level, full, needed.y, needed.y + needed.height);
  const samples = band.width * band.height * 3;
  const rows = bits === 8 ? new Uint8Array(samples) : new Uint16Array(samples);
  const pictures = { ...picturesOf(others, overview), filtered: made };
  renderRegion(document, scale, band, photograph, pictures, (tile, pixels) => writeTile(tile, pixels, space, band, rows));
  withFile(out, 'r+', (file) => writeAll(file, new Uint8Array(rows.buffer), offset + (band.y * full.width * 3 * bits) / 8));
}

function renderPreview({ document, full, others, overview, level, levelSize, size }: PreviewTask): Uint8Array {
  const source = readRows(level, levelSize, 0, levelSize.height);
  const whole = wholeOf(size);
  const photograph = createRaster(whole);
  resample(source, levelSize, size, whole, photograph);
  const rows = new Uint8Array(size.width * size.height * 3);
  renderRegion(document, { picture: size, full }, whole, photograph, picturesOf(others, overview), (tile, pixels) =>
    writeTile(tile, pixels, 'srgb', whole, rows),
  );
  return rows;
}
