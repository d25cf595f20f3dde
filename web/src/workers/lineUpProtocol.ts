import type { Rect } from '@umbo/core/base';
import type { Role, UmboDocument } from '@umbo/core/document';
import type { Other } from './protocol';

export interface LinedUp extends Other {
  document: UmboDocument;
}

/** A part of a photograph at a scale. */
export interface LineUpCell {
  id: number;
  /** Pixels of the screen for one of the photograph. */
  scale: number;
  /** In pixels of the photograph at that scale. */
  area: Rect;
}

/** Where something is on a photograph, in shares of its sides, and how large, as a share of its longer side. */
export interface Anchor {
  x: number;
  y: number;
  size: number;
}

export type ToLineUp =
  | { type: 'open'; photographs: LinedUp[]; others: Other[] }
  /** Has all cells painted; what was asked for before is not wanted any more. */
  | { type: 'show'; round: number; cells: LineUpCell[]; before: boolean }
  | { type: 'find'; role: Role };
export type FromLineUp =
  | { type: 'picture'; round: number; cell: LineUpCell; before: boolean; picture: ImageBitmap }
  | { type: 'anchors'; role: Role; anchors: (readonly [number, Anchor])[] }
  | { type: 'failed'; id: number; message: string };
