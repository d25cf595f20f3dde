'use client';
import { adjustment, type AdjustmentContent } from '@umbo/core/adjust';
import { EIGHT_FAMILIES, SIX_FAMILIES } from '@umbo/core/colour';
import { onLayer, type Layer, type Recipe } from '@umbo/core/document';
import { MoveUpRight, RotateCcw } from 'lucide-react';
import { useMemo, type ComponentType } from 'react';
import styled from 'styled-components';
import { Button, Select } from '@/ui/controls';
import { EvenRampExtras, GradientMapExtras, HazeExtras, LutExtras, WhiteBalanceExtras } from './adjustmentExtras';
import { useBench, useBenchStore } from '../state/context';
import { CurvesEditor } from './CurvesEditor';
import { sharesOf } from '../desk/families';
import { FamiliesEditor } from './FamiliesEditor';
import { HuesEditor } from './HuesEditor';
import { LevelsEditor } from './LevelsEditor';
import type { AdjustmentProps } from './adjustmentProps';
import { Settings } from '../desk/Settings';

/** Editors for what no slider can say: beside the sliders, or in their place. */
const EXTRAS: { [K in AdjustmentContent['kind']]?: ComponentType<AdjustmentProps<never>> } = {
  colourFamilies: FamiliesEditor,
  curves: CurvesEditor,
  evenRamp: EvenRampExtras,
  gradientMap: GradientMapExtras,
  haze: HazeExtras,
  hueSaturation: HuesEditor,
  levels: LevelsEditor,
  lut3d: LutExtras,
  whiteBalance: WhiteBalanceExtras,
};
/** Kinds whose editor shows the sliders, too, each where it belongs. */
const OWN_SLIDERS: readonly string[] = ['colourFamilies', 'hueSaturation'];

const Line = styled.div`
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 30px;
  margin-top: 4px;
`;

export function AdjustmentEditor({ layer, what }: { layer: Layer; what: AdjustmentContent }) {
  const store = useBenchStore();
  const region = useBench((state) => state.region);
  const kind = adjustment(what.kind);
  const change = (values: object): Recipe => onLayer(layer.id, (draft) => void Object.assign(draft.what.settings, values));
  const props = {
    layer,
    settings: what.settings as never,
    preview: (values: object) => store.getState().preview(change(values)),
    commit: (words: string, values: object) => void store.getState().commit(`${words} on ${layer.name}`, change(values)),
  };
  const hasFamilies = kind.controls.some(({ family }) => family);
  const shares = useMemo(
    () => (hasFamilies ? sharesOf(region, layer.id, what.kind === 'blackWhite' ? SIX_FAMILIES : EIGHT_FAMILIES) : undefined),
    [hasFamilies, region, layer.id, what.kind],
  );
  const Extras = EXTRAS[what.kind];
  const isAtStart = JSON.stringify(what.settings) === JSON.stringify(kind.defaults);
  const reset = (): void =>
    void store.getState().commit(
      `${layer.name} reset`,
      onLayer(layer.id, (draft) => void (draft.what.settings = structuredClone(kind.defaults) as never)),
    );
  return (
    <>
      {!OWN_SLIDERS.includes(what.kind) && (
        <Settings
          {...props}
          defaults={kind.defaults as never}
          schema={kind.schema}
          controls={kind.controls as never}
          {...(shares && { shares })}
        />
      )}
      {Extras && <Extras {...props} />}
      {kind.pull && <Pulling qualities={kind.pull.qualities} isChosenAbove={what.kind === 'curves'} />}
      {!isAtStart && (
        <Line style={{ justifyContent: 'flex-end' }}>
          <Button onPress={reset}>
            <RotateCcw size={13} strokeWidth={1.5} aria-hidden /> Reset all of it
          </Button>
        </Line>
      )}
      {kind.controls.length === 0 && !Extras && <p style={{ color: 'var(--ink2)' }}>There is nothing to set.</p>}
    </>
  );
}

/** What dragging on the photograph changes, and the tool for it. */
function Pulling({ qualities, isChosenAbove }: { qualities: readonly (readonly [string, string])[]; isChosenAbove: boolean }) {
  const store = useBenchStore();
  const tool = useBench((state) => state.tool);
  const pull = useBench((state) => state.pull);
  const chosen = qualities.some(([id]) => id === pull) ? pull : qualities[0]![0];
  return (
    <Line>
      <Button
        aria-pressed={tool === 'pull'}
        onPress={() => store.getState().set({ tool: tool === 'pull' ? 'move' : 'pull' })}
        $primary={tool === 'pull'}
      >
        <MoveUpRight size={14} strokeWidth={1.5} aria-hidden /> Pull on the photograph
      </Button>
      {qualities.length > 1 && !isChosenAbove && (
        <Select
          label="What a pull changes"
          hideLabel
          value={chosen}
          options={qualities}
          onChange={(id) => store.getState().set({ pull: id })}
        />
      )}
    </Line>
  );
}
