/** What render threads do: pure calculation from a cached level to rows of pixels. */
import { openSync, readSync, writeSync, closeSync } from 'node:fs';
import {
  createRaster,
  neededArea,
  renderRegion,
  resample,
  spreadRows,
  wholeOf,
  writeTile,
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

/** Renders full rows of the full photograph into a file. */
export interface BandTask {
  type: 'band';
  document: UmboDocument;
  full: Size;
  others: OtherLevel[];
  overview: OverviewLevel | null;
  /** The file of level 0. */
  level: string;
  band: Rect;
  bits: 8 | 16;
  space: OutputSpace;
  out: string;
  /** Where the picture's first row begins in `out`. */
  offset: number;
}

/** Renders the whole picture small. */
export interface PreviewTask {
  type: 'preview';
  document: UmboDocument;
  full: Size;
  others: OtherLevel[];
  overview: OverviewLevel | null;
  level: string;
  levelSize: Size;
  size: Size;
}

export type Task = BandTask | PreviewTask;
/** A preview's interleaved 8-bit rows; null for a band, whose rows are in the file. */
export type Answer = Uint8Array | null;

export function perform(task: Task): Answer {
  return task.type === 'band' ? renderBand(task) : renderPreview(task);
}

function readRows(path: string, size: Size, from: number, to: number): Raster {
  const raster = createRaster({ x: 0, y: from, width: size.width, height: to - from });
  const rows = new Uint16Array((to - from) * size.width * 3);
  const file = openSync(path, 'r');
  try {
    if (readSync(file, rows, 0, rows.byteLength, from * size.width * 6) !== rows.byteLength)
      throw new Error('A cached level is shorter than it should be');
  } finally {
    closeSync(file);
  }
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

function renderBand({ document, full, others, overview, level, band, bits, space, out, offset }: BandTask): null {
  const scale = { picture: full, full };
  const needed = neededArea(document, scale, band);
  const photograph = readRows(level, full, needed.y, needed.y + needed.height);
  const samples = band.width * band.height * 3;
  const rows = bits === 8 ? new Uint8Array(samples) : new Uint16Array(samples);
  renderRegion(document, scale, band, photograph, picturesOf(others, overview), (tile, pixels) =>
    writeTile(tile, pixels, space, band, rows),
  );
  const file = openSync(out, 'r+');
  try {
    writeSync(file, new Uint8Array(rows.buffer), 0, rows.byteLength, offset + (band.y * full.width * 3 * bits) / 8);
  } finally {
    closeSync(file);
  }
  return null;
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
