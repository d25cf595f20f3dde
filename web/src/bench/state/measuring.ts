'use client';
/** Measurements, and what is made of them in the edit. */
import { insertLayers, onLayer, type Layer } from '@umbo/core/document';
import { measurement, type Found, type MeasurementKind, type Task } from '@umbo/core/measure';
import { placeNew } from './actions';
import type { BenchState } from './benchState';

/**
 * Measures what a layer's mask lets in, and writes what was found into the layer as one entry of the history.
 * @param empty what to say, instead, where nothing was found
 */
export async function measureInto<K extends MeasurementKind>(
  now: () => BenchState,
  layer: Layer,
  task: Task<K>,
  words: string,
  empty?: { is: (found: Found<K>) => boolean; words: string },
): Promise<void> {
  try {
    const found = await now().measure(task, layer.id);
    if (empty?.is(found)) now().set({ notice: empty.words });
    else
      now().commit(
        `${words} on ${layer.name}`,
        onLayer(layer.id, (draft) => {
          measurement(task.kind).apply!(found, task.settings, draft);
          // What was asked for with settings of its own is not found anew by itself.
          if (Object.keys(task.settings).length === 0) draft.foundBy = { kind: 'measurement', measurement: task.kind };
        }),
      );
  } catch (error) {
    now().set({ notice: (error as Error).message });
  }
}

/** Adds the layers that do what a measurement of the result finds, above the selected one. */
export async function addMeasured(now: () => BenchState, kind: MeasurementKind, words: string): Promise<void> {
  try {
    const found = await now().measure({ kind, settings: {} } as Task<typeof kind>, null);
    addFound(now(), kind, found, words);
  } catch (error) {
    now().set({ notice: (error as Error).message });
  }
}

/** Adds the layers that do what a measurement has found. */
export function addFound<K extends MeasurementKind>(state: BenchState, kind: K, found: Found<K>, words: string, place = placeNew): void {
  const layers = measurement(kind).layers!(found, () => crypto.randomUUID());
  if (state.commit(words, place(state, layers))) state.select(layers.at(-1)!.id);
}

/** The same above all others: for what was found in their result. */
export const addOnTop = <K extends MeasurementKind>(state: BenchState, kind: K, found: Found<K>, words: string): void =>
  addFound(state, kind, found, words, ({ committed }, layers) => insertLayers(layers, committed.layers.at(-1)?.id ?? null));
