import type { MaskPart } from '@umbo/core/mask';
import { Circle, Rows4, type LucideIcon } from 'lucide-react';
import type { ReactNode } from 'react';
import type { PartProps } from '../partProps';
import { BracketEditor } from './BracketEditor';
import { BrushEditor } from './BrushEditor';
import { GrownEditor } from './GrownEditor';
import { HueRangeEditor, strongestFreeHue } from './HueRangeEditor';
import { LikenessEditor } from './LikenessEditor';
import { LuminosityEditor } from './LuminosityEditor';
import { OutOfGamutEditor } from './OutOfGamutEditor';
import { OutlineEditor } from './OutlineEditor';
import { PickEditor } from './PickEditor';

/** What the bench has for a kind of mask part beside its sliders. */
interface PartEditor<P extends MaskPart> {
  /** An editor for what no slider can say. */
  readonly Editor?: (props: PartProps<P>) => ReactNode;
  /** Of the tool that draws it, where it can be drawn. */
  readonly icon?: LucideIcon;
  /** With what a new part begins on this photograph. @param census of the photograph's hues @param parts those that the mask has already */
  readonly begin?: (census: Float32Array | null, parts: readonly MaskPart[]) => Partial<P>;
}

export const partEditors: { readonly [K in MaskPart['kind']]?: PartEditor<Extract<MaskPart, { kind: K }>> } = {
  hueRange: { Editor: HueRangeEditor, begin: strongestFreeHue },
  luminosity: { Editor: LuminosityEditor },
  likeness: { Editor: LikenessEditor },
  pick: { Editor: PickEditor },
  outOfGamut: { Editor: OutOfGamutEditor },
  outline: { Editor: OutlineEditor },
  brush: { Editor: BrushEditor },
  grown: { Editor: GrownEditor },
  bracket: { Editor: BracketEditor },
  ellipse: { icon: Circle },
  gradient: { icon: Rows4 },
};
