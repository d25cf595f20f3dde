/** WebAssembly SIMD twins of core's slowest pixel functions. Core's own are the definition; these are tested against them. */
import type {} from './assembly.d.ts';
import type { Acceleration, ColourSpace, Lattice, Planes } from '@umbo/core/base';
import { OKLAB } from '@umbo/core/colour';
import {
  LUTS,
  PLANE_B,
  PLANE_G,
  PLANE_OUT,
  PLANE_PIXELS,
  PLANE_R,
  TABLE_1,
  TABLE_2,
  TABLE_3,
  TABLE_CONES,
  TABLE_DECODE,
  TABLE_ENCODE,
  TABLE_HUE,
  TABLE_OKLAB,
} from '../assembly/layout.ts';
import { turner } from './turner.ts';
import { wasmBase64 } from './wasm.gen.ts';

const PLANES = [PLANE_R, PLANE_G, PLANE_B] as const;
const TABLES = [TABLE_1, TABLE_2, TABLE_3] as const;
/** Tables of colours are kept up to this; then all are let go. One of 65 points takes 4.4 MB. */
const LUT_BYTES = 12 << 20;
const PAGE = 65536;

interface Exports {
  memory: WebAssembly.Memory;
  readOklab: () => void;
  readCones: () => void;
  turn: (n: number, ca: number, cb: number, keep: number, lift: number, decodeScale: number, encodeScale: number) => void;
  toLab: (n: number, decodeScale: number) => void;
  fromLab: (n: number, encodeScale: number) => void;
  rotateHues: (n: number, certain: number, decodeScale: number, encodeScale: number) => void;
  gainChroma: (n: number, ...numbers: number[]) => void;
  moveNear: (n: number, ...numbers: number[]) => void;
  shiftTones: (n: number, steps: number, decodeScale: number, encodeScale: number) => void;
  throughLut: (n: number, table: number, size: number, ...numbers: number[]) => void;
  inLight: (n: number, ...numbers: number[]) => void;
  through: (n: number, steps: number) => void;
  warpSpan: (n: number, ...numbers: number[]) => void;
  hueRange: (n: number, low: number, rise: number, decodeScale: number) => void;
}

/** Kernels with a memory of their own: one set per thread. */
export function createKernels(): Acceleration {
  const bytes = Uint8Array.from(atob(wasmBase64), (c) => c.charCodeAt(0));
  const module = new WebAssembly.Module(bytes);
  const begin = (): Exports => new WebAssembly.Instance(module).exports as unknown as Exports;
  const wasm = begin();
  const { memory } = wasm;
  let floats = new Float32Array(memory.buffer);
  floats.set([...OKLAB.fromRoots, ...OKLAB.toRoots], TABLE_OKLAB / 4);
  wasm.readOklab();
  let current: ColourSpace | null = null;
  /** Brings the tables and matrices of a space here. @returns what the module multiplies with to look a value up */
  const enter = (space: ColourSpace): ColourSpace['tables'] => {
    const { tables } = space;
    if (space === current) return tables;
    current = space;
    floats.set(tables.decode, TABLE_DECODE / 4);
    floats.set(tables.encode, TABLE_ENCODE / 4);
    floats.set([...space.toCones.flat(), ...space.fromCones.flat()], TABLE_CONES / 4);
    wasm.readCones();
    return tables;
  };

  /** Works through `n` pixels, a memory's worth at a time; what is left over of four is padded with black. */
  const inPieces = (pixels: Planes, n: number, work: (from: number, count: number) => void): void => {
    const sources = [pixels.r, pixels.g, pixels.b];
    for (let from = 0; from < n; from += PLANE_PIXELS) {
      const count = Math.min(PLANE_PIXELS, n - from);
      for (const [i, plane] of sources.entries()) {
        floats.set(plane.subarray(from, from + count), PLANES[i]! / 4);
        floats.fill(0, PLANES[i]! / 4 + count, PLANES[i]! / 4 + Math.min(PLANE_PIXELS, count + 3));
      }
      work(from, count);
    }
  };
  const inPlace = (pixels: Planes, n: number, work: (count: number) => void): void =>
    inPieces(pixels, n, (from, count) => {
      work(whole(count));
      for (const [i, plane] of [pixels.r, pixels.g, pixels.b].entries())
        plane.set(floats.subarray(PLANES[i]! / 4, PLANES[i]! / 4 + count), from);
    });
  const luts = new Map<Lattice, number>();
  let lutsEnd = LUTS;
  /** Where a table of colours lies: brought here once, red, green, blue and a gap for each colour. */
  const placeOf = (lut: Lattice): number => {
    const known = luts.get(lut);
    if (known !== undefined) return known;
    const colours = lut.values.length / 3;
    if (lutsEnd + colours * 16 > LUTS + LUT_BYTES) {
      luts.clear();
      lutsEnd = LUTS;
    }
    const at = lutsEnd;
    lutsEnd += colours * 16;
    const missing = lutsEnd - memory.buffer.byteLength;
    if (missing > 0) {
      memory.grow(Math.ceil(missing / PAGE));
      floats = new Float32Array(memory.buffer);
    }
    for (let i = 0; i < colours; i++) for (let c = 0; c < 3; c++) floats[at / 4 + i * 4 + c] = lut.values[i * 3 + c]!;
    luts.set(lut, at);
    return at;
  };
  const whole = (count: number): number => Math.ceil(count / 4) * 4;

  return {
    openTurn: turner(begin),
    rotateOklab(space, pixels, n, ca, cb, keep, lift) {
      const { decodeScale, encodeScale } = enter(space);
      inPlace(pixels, n, (count) => wasm.turn(count, ca, cb, keep, lift, decodeScale, encodeScale));
    },
    toOklab(space, pixels, n) {
      const { decodeScale } = enter(space);
      inPlace(pixels, n, (count) => wasm.toLab(count, decodeScale));
    },
    fromOklab(space, pixels, n) {
      const { encodeScale } = enter(space);
      inPlace(pixels, n, (count) => wasm.fromLab(count, encodeScale));
    },
    rotateHues(space, pixels, n, { ca, cb, lift }, certain) {
      const { decodeScale, encodeScale } = enter(space);
      for (const [i, table] of [ca, cb, lift].entries()) floats.set(table, TABLES[i]! / 4);
      inPlace(pixels, n, (count) => wasm.rotateHues(count, certain, decodeScale, encodeScale));
    },
    gainChroma(space, pixels, n, all, weak, strong) {
      const { decodeScale, encodeScale } = enter(space);
      inPlace(pixels, n, (count) => wasm.gainChroma(count, all, weak, strong, decodeScale, encodeScale));
    },
    moveNear(space, pixels, n, from, by, outer, fade) {
      const { decodeScale, encodeScale } = enter(space);
      inPlace(pixels, n, (count) =>
        wasm.moveNear(count, from[0]!, from[1]!, from[2]!, by[0]!, by[1]!, by[2]!, outer, 1 / fade, decodeScale, encodeScale),
      );
    },
    shiftTones(space, pixels, n, { l, a, b }) {
      const { decodeScale, encodeScale } = enter(space);
      for (const [i, table] of [l, a, b].entries()) floats.set(table, TABLES[i]! / 4);
      inPlace(pixels, n, (count) => wasm.shiftTones(count, l.length - 1, decodeScale, encodeScale));
    },
    throughLut(pixels, n, lut) {
      const at = placeOf(lut);
      const [sx, sy, sz] = [0, 1, 2].map((c) => (lut.size - 1) / (lut.max[c]! - lut.min[c]!)) as [number, number, number];
      inPlace(pixels, n, (count) => wasm.throughLut(count, at, lut.size, ...lut.min, sx, sy, sz));
    },
    inLight(space, pixels, n, [a, b, c], offset) {
      const { decodeScale, encodeScale } = enter(space);
      inPlace(pixels, n, (count) => wasm.inLight(count, ...a, ...b, ...c, offset, decodeScale, encodeScale));
    },
    between(from, to, pixels, n, [a, b, c]) {
      const { encode, encodeScale } = to.tables;
      const { decodeScale } = enter(from);
      floats.set(encode, TABLE_ENCODE / 4);
      current = null; // the tables are now of two spaces
      inPlace(pixels, n, (count) => wasm.inLight(count, ...a, ...b, ...c, 0, decodeScale, encodeScale));
    },
    throughTable(plane, n, table, steps) {
      floats.set(table, TABLES[0] / 4);
      for (let from = 0; from < n; from += PLANE_PIXELS) {
        const count = Math.min(PLANE_PIXELS, n - from);
        floats.set(plane.subarray(from, from + count), PLANES[0] / 4);
        wasm.through(whole(count), steps);
        plane.set(floats.subarray(PLANES[0] / 4, PLANES[0] / 4 + count), from);
      }
    },
    coverHues(space, pixels, n, table, low, rise, out) {
      const { decodeScale } = enter(space);
      floats.set(table, TABLE_HUE / 4);
      inPieces(pixels, n, (from, count) => {
        wasm.hueRange(whole(count), low, rise, decodeScale);
        out.set(floats.subarray(PLANE_OUT / 4, PLANE_OUT / 4 + count), from);
      });
    },
  };
}
