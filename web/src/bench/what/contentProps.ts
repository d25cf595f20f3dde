import type { Layer } from '@umbo/core/document';

/** What editors of one kind of content get. */
export interface ContentProps<S> {
  layer: Layer;
  settings: S;
  preview(values: Partial<S>): void;
  /** @param words such as "Hue +23°" */
  commit(words: string, values: Partial<S>): void;
}
