import type { CarriedMask, Light } from '@umbo/core/carry';
import type { UmboDocument } from '@umbo/core/document';

/** How much of its photograph each mask covers, 0..1, by the id of its owner. */
export type Shares = Readonly<Record<string, number>>;

/** Layers as they are kept until they are pasted. */
export interface Copied {
  readonly document: UmboDocument;
  /** The SHA-256 of the photograph that they were on. */
  readonly of: string;
  readonly shares: Shares;
  /** The light of that photograph; left out: not known. */
  readonly light?: Light;
}

/** A mask that came along: how much it covers there and here. */
export type CarriedShares = Pick<CarriedMask, 'id' | 'before' | 'now'>;

/** What became of the masks that came along. */
export interface CameAlong {
  readonly masks: readonly CarriedShares[];
  readonly words: readonly string[];
  /** Where all photographs that it was carried to are told; left out: it was pasted. */
  readonly report?: {
    readonly id: string;
    /** The next photograph on which there is something to look at. */ readonly next: number | null;
  };
}
