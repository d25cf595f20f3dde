'use client';
import type { SettingsOf } from '@umbo/core/adjust';
import { NEUTRAL_KELVIN } from '@umbo/core/colour';
import { Choice } from '@/ui/controls/Choice';
import { LabelledLine } from '@/ui/controls/LabelledLine';
import { Slider } from '@/ui/controls/Slider';
import { useKept } from '@/ui/useKept';
import type { ContentProps } from './contentProps';
import { Line, Quiet, SampleButton } from './editorParts';

const SCALES = [
  ['kelvin', 'Kelvin'],
  ['mired', 'Mired'],
] as const;

export function WhiteBalanceEditor({ settings, preview, commit }: ContentProps<SettingsOf<'whiteBalance'>>) {
  const [scale, setScale] = useKept<'kelvin' | 'mired'>('temperature-scale', 'kelvin');
  const inMired = scale === 'mired';
  // Equal steps look about equal in mired; in kelvin they are what people know.
  const shown = (kelvin: number): number => (inMired ? 1e6 / kelvin : kelvin);
  const temperature = (v: number): { kelvin: number } => ({ kelvin: Math.max(2000, Math.min(25000, inMired ? 1e6 / v : v)) });
  return (
    <>
      <LabelledLine>
        Scale
        <Choice label="Scale of the temperature" value={scale} options={SCALES} onChange={setScale} />
      </LabelledLine>
      <Slider
        key={scale}
        label="Temperature"
        value={shown(settings.kelvin)}
        min={inMired ? 40 : 2000}
        max={inMired ? 500 : 25000}
        usual={inMired ? [80, 400] : [2500, 12000]}
        step={inMired ? 1 : 50}
        neutral={shown(NEUTRAL_KELVIN)}
        unit={inMired ? '' : 'K'}
        onPreview={(v) => preview(temperature(v))}
        onCommit={(v) => commit(`Temperature ${Math.round(v)} ${inMired ? 'mired' : 'K'}`, temperature(v))}
      />
      <Slider
        label="Tint"
        value={settings.tint}
        min={-150}
        max={150}
        step={1}
        neutral={0}
        signed
        onPreview={(tint) => preview({ tint })}
        onCommit={(tint) => commit(`Tint ${Math.round(tint)}`, { tint })}
      />
      <Quiet>The light that the photograph was taken in. A neutral grey in it tells.</Quiet>
      <Line>
        <SampleButton>Sample something neutral</SampleButton>
      </Line>
    </>
  );
}
