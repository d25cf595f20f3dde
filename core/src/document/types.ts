import type { AdjustmentContent } from '../adjust/registry.ts';
import type { RefineStep } from '../mask/refine.ts';
import type { MaskPart } from '../mask/registry.ts';

/** Where a layer acts. No parts: everywhere. */
export interface Mask {
  parts: MaskPart[];
  /** Refining steps in order. */
  refine: RefineStep[];
  /** 0..1; less than 1 lets some of the layer act everywhere. */
  strength: number;
  invert: boolean;
}

/** How a layer joins the picture below it. */
export interface Blending {
  /** A blend mode's id. */
  mode: string;
  /** 0..1 */
  opacity: number;
}

export interface Layer {
  id: string;
  name: string;
  on: boolean;
  where: Mask;
  what: AdjustmentContent;
  how: Blending;
}

/** The edit of one photograph. `docs/document-format.md` describes it for people. */
export interface UmboDocument {
  format: 'umbo-edit';
  version: 1;
  workingSpace: 'srgb';
  /** The photograph that the edit was made on: positions and radii are in its pixels. */
  photo: { width: number; height: number };
  /** In the order in which they act. */
  layers: Layer[];
}
