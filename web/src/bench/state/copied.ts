import type { UmboDocument } from '@umbo/core/document';

/** How much of its photograph each mask covers, 0..1, by the id of its owner. */
export type Shares = Readonly<Record<string, number>>;

/** What is neutral in a photograph, as white balance has it. */
export interface Light {
  readonly kelvin: number;
  readonly tint: number;
}

/** Layers as they are kept until they are pasted. */
export interface Copied {
  readonly document: UmboDocument;
  /** The SHA-256 of the photograph that they were on. */
  readonly of: string;
  readonly shares: Shares;
  /** The light of that photograph; left out: not known. */
  readonly light?: Light;
}

/** A mask that came along. */
export interface CarriedMask {
  readonly id: string;
  /** Share of the photograph, 0..1: there (null: not known), and here. */
  readonly before: number | null;
  readonly now: number;
}
