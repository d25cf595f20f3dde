import { PHASES, type Acceleration, type Kernel, type Rect, type Samples } from '@umbo/core/base';
import { LUTS, TABLE_DECODE } from '../assembly/layout.ts';

const PAGE = 65536;
/** A memory that has grown beyond this is let go. */
const KEPT = 64 << 20;
/** Samples of a pixel in the module's memory. */
const SAMPLES = 4;

interface Turning {
  memory: WebAssembly.Memory;
  warpSpan: (n: number, ...numbers: number[]) => void;
}

/** A photograph's samples need a memory of their own: it grows with them. */
export function turner(begin: () => Turning): Acceleration['openTurn'] {
  let kept: Turning | null = null;
  return (source, whole, [a, b, c], most) => {
    const { area, channels, values } = source;
    const wasm = kept ?? begin();
    let end = LUTS;
    let words = new Uint16Array(wasm.memory.buffer);
    /** Room for so many bytes. */
    const take = (bytes: number): number => {
      const at = end;
      end += Math.ceil(bytes / 16) * 16;
      const missing = end - wasm.memory.buffer.byteLength;
      if (missing > 0) {
        wasm.memory.grow(Math.ceil(missing / PAGE));
        words = new Uint16Array(wasm.memory.buffer);
      }
      return at;
    };
    const pixels = area.width * area.height;
    const from = take(pixels * SAMPLES * 2);
    if (channels === SAMPLES) words.set(values, from / 2);
    else for (let i = 0, o = from / 2, s = 0; i < pixels; i++, o += SAMPLES) for (let k = 0; k < channels; k++) words[o + k] = values[s++]!;
    new Float64Array(wasm.memory.buffer).set([...a, ...b, ...c], TABLE_DECODE / 8);
    kept = wasm.memory.buffer.byteLength > KEPT ? null : wasm;
    const weights = new Map<Kernel, number>();
    const placeOf = (kernel: Kernel): number => {
      let at = weights.get(kernel);
      if (at === undefined) {
        weights.set(kernel, (at = take(kernel.weights.byteLength)));
        new Float32Array(wasm.memory.buffer).set(kernel.weights, at / 4);
      }
      return at;
    };
    const [right, bottom] = lastOf(area, whole);
    let row = { at: 0, length: 0 };
    return (x, y, n, across, down, out, o) => {
      const kernels = [placeOf(across), across.count, placeOf(down), down.count] as const;
      if (n > row.length) row = { at: take(n * SAMPLES * 2), length: n };
      wasm.warpSpan(n, x + 0.5, y + 0.5, from, area.x, area.y, right, bottom, PHASES, ...kernels, most, row.at);
      const made = row.at / 2;
      if (channels === SAMPLES) out.set(words.subarray(made, made + n * SAMPLES), o);
      else for (let i = 0, s = made; i < n; i++, s += SAMPLES) for (let k = 0; k < channels; k++) out[o++] = words[s + k]!;
    };
  };
}

const lastOf = (area: Samples['area'], whole: Rect): [number, number] => [
  Math.min(whole.width, area.x + area.width) - 1,
  Math.min(whole.height, area.y + area.height) - 1,
];
