import type { AnySettings } from '@umbo/core/base';
import type { AdjustmentContent } from '@umbo/core/adjust';
import type { SourceContent } from '@umbo/core/content';
import type { ComponentType } from 'react';
import type { ContentProps } from './contentProps';
import { ChannelEditor } from './ChannelEditor';
import { CurvesEditor } from './curves/CurvesEditor';
import { EvennessEditor } from './EvennessEditor';
import { EvenRampEditor } from './EvenRampEditor';
import { FamiliesEditor } from './FamiliesEditor';
import { FillEditor } from './FillEditor';
import { FrameEditor } from './FrameEditor';
import { GradientMapEditor } from './GradientMapEditor';
import { HazeEditor } from './HazeEditor';
import { HuesEditor } from './HuesEditor';
import { JoinedEditor } from './JoinedEditor';
import { LevelsEditor } from './LevelsEditor';
import { LutEditor } from './LutEditor';
import { PaintEditor } from './PaintEditor';
import { WhiteBalanceEditor } from './WhiteBalanceEditor';

/** An editor for what no slider can say: beside the kind's sliders, or showing them, too, each where it belongs. */
export interface ContentEditor {
  readonly Editor: ComponentType<ContentProps<never>>;
  readonly showsSliders?: true;
  /** Whether what a pull on the photograph changes is chosen in the editor. */
  readonly choosesPull?: true;
}

const editors: { readonly [K in (AdjustmentContent | SourceContent)['kind']]?: ContentEditor } = {
  channel: { Editor: ChannelEditor },
  colourFamilies: { Editor: FamiliesEditor, showsSliders: true },
  curves: { Editor: CurvesEditor, choosesPull: true },
  evenness: { Editor: EvennessEditor },
  evenRamp: { Editor: EvenRampEditor, showsSliders: true },
  fill: { Editor: FillEditor },
  frame: { Editor: FrameEditor, showsSliders: true },
  gradientMap: { Editor: GradientMapEditor },
  haze: { Editor: HazeEditor },
  hueSaturation: { Editor: HuesEditor, showsSliders: true },
  joined: { Editor: JoinedEditor },
  levels: { Editor: LevelsEditor },
  lut3d: { Editor: LutEditor },
  paint: { Editor: PaintEditor, showsSliders: true },
  whiteBalance: { Editor: WhiteBalanceEditor },
};

interface AnyContentEditor extends Omit<ContentEditor, 'Editor'> {
  readonly Editor: ComponentType<ContentProps<AnySettings>>;
}

/** The editor of a kind gets settings of that kind: what they hold only the editor knows. */
export const contentEditor = (kind: string): AnyContentEditor | undefined =>
  editors[kind as keyof typeof editors] as AnyContentEditor | undefined;
