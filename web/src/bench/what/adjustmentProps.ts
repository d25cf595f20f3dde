import type { Layer } from '@umbo/core/document';

/** What editors of one kind of adjustment get. */
export interface AdjustmentProps<S> {
  layer: Layer;
  settings: S;
  preview(values: Partial<S>): void;
  /** @param words such as "Hue +23°" */
  commit(words: string, values: Partial<S>): void;
}
