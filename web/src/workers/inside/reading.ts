import type { Colour } from '@umbo/core/colour';
import { stretchOf } from '@umbo/core/base';
import { sameValue, type Reading, type UmboDocument } from '@umbo/core/document';
import type { ReadingValues } from '@umbo/core/solve';
import type { FromEngine, PlacedAsk, Question } from '../protocol';
import { resultAt, type Viewport } from './viewport';
import { EVERYTHING, type Looked } from './looked';
import type { SideWorker } from './sideWorker';

/** Readings are measured when nothing has changed for so long; meanwhile they are what is painted. */
const MEASURE_AFTER_MS = 250;
/** What is painted is read this often at most. */
const GLIMPSE_EVERY_MS = 80;

export interface ReadingParts {
  looked: Looked;
  side: SideWorker;
  send: (message: FromEngine) => void;
  fail: (error: unknown) => void;
  question: (ask: PlacedAsk) => Promise<Question>;
}

/** Keeps readings at what they are: from the pixels of the stage while something moves, measured in full when it has come to rest. */
export class ReadingLoop {
  readonly #parts: ReadingParts;
  readonly #measured = new Map<string, { values: ReadingValues; reading: Reading }>();
  /** What the samples of a reading were on the stage when it was measured. */
  readonly #base = new Map<string, Colour>();
  /** The state that was measured last, and whether one is measured now. */
  #of: { document: UmboDocument; below: string | null } | null = null;
  #measuring = false;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #glimpsedAt = 0;
  #viewport: Viewport | null = null;

  constructor(parts: ReadingParts) {
    this.#parts = parts;
  }

  /** The edit, or what of it is looked at, has changed. */
  changed(): void {
    clearTimeout(this.#timer);
    if (this.#readings().length === 0) return;
    this.#timer = setTimeout(() => void this.#measure().catch(this.#parts.fail), this.#of ? MEASURE_AFTER_MS : 0);
  }

  /** The stage shows another picture. */
  painted(viewport: Viewport | null): void {
    this.#viewport = viewport;
    const { document, look } = this.#parts.looked;
    if (look.instead !== null || !sameValue(look.peek, EVERYTHING)) return;
    if (!viewport || document === this.#of?.document || this.#measured.size === 0 || Date.now() - this.#glimpsedAt < GLIMPSE_EVERY_MS)
      return;
    this.#glimpsedAt = Date.now();
    const colours = this.#readings().flatMap((reading): [string, Colour][] => {
      const known = this.#measured.get(reading.id);
      const base = this.#base.get(reading.id);
      const now = known?.reading === reading && known.values.after && base ? sampled(viewport, known.values.samples) : null;
      if (!now) return [];
      return [[reading.id, known!.values.after!.mean.map((v, c) => Math.min(1, Math.max(0, v + now[c]! - base![c]!))) as Colour]];
    });
    if (colours.length > 0) this.#parts.send({ type: 'glimpsed', colours });
  }

  #readings(): readonly Reading[] {
    return this.#parts.looked.document.readings ?? [];
  }

  async #measure(): Promise<void> {
    if (this.#measuring) return;
    const { looked, side, send, question } = this.#parts;
    const state = { document: looked.document, below: looked.look.layerId };
    const readings = this.#readings();
    if (readings.length === 0 || (state.document === this.#of?.document && state.below === this.#of.below)) return;
    this.#measuring = true;
    try {
      const ask = { kind: 'read', ids: readings.map(({ id }) => id), below: state.below } as const;
      let of = state.document;
      const measured = await side.ask<[string, ReadingValues][]>(
        () => {
          of = looked.document;
          return question(ask);
        },
        undefined,
        'urgent',
      );
      this.#of = { document: of, below: state.below };
      for (const [id, values] of measured) {
        const reading = readings.find((one) => one.id === id)!;
        this.#measured.set(id, { values, reading });
        const base = this.#viewport && sampled(this.#viewport, values.samples);
        if (base) this.#base.set(id, base);
        else this.#base.delete(id);
      }
      send({ type: 'readings', measured });
    } finally {
      this.#measuring = false;
    }
    if (looked.document !== this.#of?.document || looked.look.layerId !== this.#of.below) this.changed();
  }
}

/** The mean of some places of the picture on the stage; null where not all of them are there. */
function sampled(viewport: Viewport, samples: readonly number[]): Colour | null {
  const { area, scale, rendered } = viewport;
  if (!rendered || samples.length === 0) return null;
  const { toPicture } = stretchOf(scale);
  const sum: Colour = [0, 0, 0];
  for (let i = 0; i < samples.length; i += 2) {
    const x = Math.floor(samples[i]! * toPicture.x) - area.x;
    const y = Math.floor(samples[i + 1]! * toPicture.y) - area.y;
    if (x < 0 || y < 0 || x >= area.width || y >= area.height) return null;
    for (const c of [0, 1, 2] as const) sum[c] += resultAt(viewport, y * area.width + x, c);
  }
  return sum.map((v) => (v * 2) / samples.length) as Colour;
}
