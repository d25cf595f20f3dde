import { createRaster, halveRows, levelSize, spreadRows, wholeOf, type Raster, type Size } from '@umbo/core/base';
import { pixelsAddress, type PixelSpace } from '../../ui/addresses';
import type { Other } from '../protocol';
import { reach } from '../../ui/reach';

const BAND = 256;
const PARALLEL = 3;

/** The photograph's pyramid in shared memory; rows are fetched when they are needed first. */
export class Levels {
  readonly #photograph: Other;
  readonly #space: PixelSpace;
  /** Levels of what is here already, as the server makes them. */
  readonly #here: Uint16Array[] = [];
  readonly #levels = new Map<number, { raster: Raster; bands: Map<number, Promise<void>> }>();

  /** @param space of the edit whose picture it is part of */
  constructor(photograph: Other, space: PixelSpace) {
    this.#photograph = photograph;
    this.#space = space;
  }

  /** The raster of a level, with rows `from` to `to` in it. @param progress is told the share that has arrived */
  async rows(level: number, from: number, to: number, progress: (share: number) => void = () => undefined): Promise<Raster> {
    const size = levelSize(this.#photograph, level);
    let entry = this.#levels.get(level);
    if (!entry) this.#levels.set(level, (entry = { raster: createRaster(wholeOf(size), true), bands: new Map() }));
    const first = Math.floor(Math.max(0, from) / BAND);
    const last = Math.ceil(Math.min(size.height, to) / BAND);
    const wanted = Array.from({ length: last - first }, (_, i) => first + i);
    const { raster, bands } = entry;
    let arrived = 0;
    const queue = [...wanted];
    const lane = async (): Promise<void> => {
      for (let band = queue.shift(); band !== undefined; band = queue.shift()) {
        let job = bands.get(band);
        if (!job) {
          bands.set(band, (job = this.#fetch(level, band, size, raster)));
          job.catch(() => bands.delete(band!));
        }
        await job;
        progress(++arrived / wanted.length);
      }
    };
    await Promise.all(Array.from({ length: PARALLEL }, lane));
    return raster;
  }

  async #fetch(level: number, band: number, size: Size, raster: Raster): Promise<void> {
    const from = band * BAND;
    const to = Math.min(size.height, from + BAND);
    if (this.#photograph.grey) {
      const rows = this.#halved(level).subarray(from * size.width * 3, to * size.width * 3);
      return spreadRows(rows, raster, from);
    }
    const response = await reach(pixelsAddress(this.#photograph, this.#space, level, from, to));
    if (!response.ok) throw new Error(`The photograph's pixels could not be loaded (${response.status}).`);
    spreadRows(new Uint16Array(await response.arrayBuffer()), raster, from);
  }

  #halved(level: number): Uint16Array {
    const grey = this.#photograph.grey!;
    if (level === 0) this.#here[0] ??= asColours(grey);
    else this.#here[level] ??= halveRows(this.#halved(level - 1), levelSize(this.#photograph, level - 1).width);
    return this.#here[level]!;
  }
}

/** Greys of 8 bits as three alike of 16. */
function asColours(grey: Uint8Array): Uint16Array {
  const out = new Uint16Array(grey.length * 3);
  for (let i = 0, o = 0; i < grey.length; i++) {
    const v = grey[i]! * 257;
    out[o++] = v;
    out[o++] = v;
    out[o++] = v;
  }
  return out;
}
