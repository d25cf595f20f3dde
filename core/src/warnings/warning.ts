import type { WarningView } from './view.ts';

/** Something that may have gone too far: said quietly, with its number. */
export interface Warning {
  /** What it is about: the kind, and which layer, region or channel. The same warning has the same key. */
  readonly key: string;
  /** A sentence with its number. */
  readonly words: string;
  /** The larger, the farther it has gone. */
  readonly amount: number;
  /** The layer or the region to be looked at; null: the picture, where its clipped pixels are outlined. */
  readonly at: string | null;
  /** The layer that does it; null where that has to be found out. */
  readonly layerId: string | null;
}

/** One kind of warning. */
export interface WarningKind {
  readonly kind: string;
  readonly find: (view: WarningView) => Warning[];
}
