import type { MaskPart } from '@umbo/core/mask';
import type { ReactNode } from 'react';
import type { PartProps } from '../partProps';
import { BrushEditor } from './BrushEditor';
import { HueRangeEditor, strongestFreeHue } from './HueRangeEditor';
import { LikenessEditor } from './LikenessEditor';
import { LuminosityEditor } from './LuminosityEditor';
import { OutlineEditor } from './OutlineEditor';
import { PickEditor } from './PickEditor';

/** An editor for what of a mask part no slider can say. */
interface PartEditor<P extends MaskPart> {
  readonly Editor: (props: PartProps<P>) => ReactNode;
  /** With what a new part begins on this photograph. @param census of the photograph's hues @param parts those that the mask has already */
  readonly begin?: (census: Float32Array | null, parts: readonly MaskPart[]) => Partial<P>;
}

export const partEditors: { readonly [K in MaskPart['kind']]?: PartEditor<Extract<MaskPart, { kind: K }>> } = {
  hueRange: { Editor: HueRangeEditor, begin: strongestFreeHue },
  luminosity: { Editor: LuminosityEditor },
  likeness: { Editor: LikenessEditor },
  pick: { Editor: PickEditor },
  outline: { Editor: OutlineEditor },
  brush: { Editor: BrushEditor },
};
