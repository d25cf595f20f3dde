import type { SpaceId } from '../base/space.ts';
import type { AdjustmentContent } from '../adjust/registry.ts';
import type { SourceContent } from '../content/registry.ts';
import type { ComponentMix } from '../blend/componentMix.ts';
import type { ToneLimits } from '../blend/toneLimits.ts';
import type { Mask } from '../mask/registry.ts';
import type { DocumentFields } from './fields.ts';
import type { FoundBy } from './foundBy.ts';

/** How a layer joins the picture below it. */
export interface Blending {
  /** A blend mode's id. */
  mode: string;
  /** 0..1 */
  opacity: number;
  /** Left out: everything passes. */
  letThrough?: ComponentMix;
  /** Tones of the picture below in which the layer acts; left out: all. */
  limitsBelow?: ToneLimits;
  /** Tones of the layer's own colours that act; left out: all. */
  limitsSelf?: ToneLimits;
}

/** Layers with one mask and one blending. */
export interface GroupContent {
  kind: 'group';
  settings: {
    /** Rendered on its own before it joins what is below; else its layers act on what is below the group. */
    apart: boolean;
  };
  layers: Layer[];
}

/** Alternatives of which exactly one shows. */
export interface ColourwayContent {
  kind: 'colourways';
  settings: { shown: string };
  layers: Layer[];
}

export type Content = AdjustmentContent | SourceContent | GroupContent | ColourwayContent;

export interface Layer {
  id: string;
  name: string;
  on: boolean;
  where: Mask;
  what: Content;
  how: Blending;
  /** Acts only where the layer below it acts. */
  clip?: boolean;
  note?: string;
  /** Layers of one kind with the same word here share their settings: a change of one is a change of all. */
  shared?: string;
  /** The layer of another edit, or of an earlier state, that it was pasted from: what is pasted again is recognised. */
  origin?: string;
  /** What brought it here: the carry, by its id, and which copy of its original it is, as the ids in it say. */
  carried?: { by: string; copy: number };
  /** How its settings were found. */
  foundBy?: FoundBy;
  /** The treatment that it came from, and which version of it. */
  treatment?: { id: string; version: number };
}

/** The edit of one photograph. `docs/document-format.md` describes it for people. */
export interface UmboDocument extends DocumentFields {
  format: 'umbo-edit';
  version: 2;
  /** The space of every colour in it, and in which it is rendered. */
  workingSpace: SpaceId;
  /** The photograph that the edit was made on: positions and radii are in its pixels. */
  photo: { width: number; height: number };
  /** In the order in which they act. */
  layers: Layer[];
}
