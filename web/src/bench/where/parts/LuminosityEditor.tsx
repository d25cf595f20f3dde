'use client';
import { SIX_IDS } from '@umbo/core/colour';
import type { LuminosityPart } from '@umbo/core/mask';
import { useState } from 'react';
import { Button } from '@/ui/controls/Button';
import { Switch } from '@/ui/controls/Switch';
import { Slider } from '@/ui/controls/Slider';
import { useTones } from '../../ranges/Hills';
import { SoftRange } from '../../ranges/SoftRange';
import { useBench } from '../../state/context';
import type { PartProps } from '../partProps';
import { PartLine } from './PartLine';

export function LuminosityEditor({ layer, part, preview, commit, cancel }: PartProps<LuminosityPart>) {
  const bins = useBench(
    ({ histogram, region }) =>
      (part.result ? (region?.layerId === layer.id ? region.below.histogram : null) : histogram)?.luminosity ?? null,
  );
  const { under } = useTones(layer.id, 'luminosity');
  const isWeighted = SIX_IDS.some((family) => part[family] !== 0);
  const [open, setOpen] = useState(isWeighted);
  return (
    <>
      {part.tones === 'range' && (
        <SoftRange
          label="Tones on the histogram"
          range={part.range}
          bins={bins}
          by="luminosity"
          of={part.result ? 'below' : 'photograph'}
          under={under}
          onPreview={(range) => preview({ range })}
          onCommit={(range) => commit(`Tones ${range.map(Math.round).join('–')}`, { range })}
          onCancel={cancel}
        />
      )}
      <PartLine>
        <Switch value={open} onChange={setOpen}>
          Weigh the hues
        </Switch>
        <span style={{ flex: 1 }} />
        <Button
          isDisabled={!isWeighted}
          onPress={() => commit('All hues as light as they are', Object.fromEntries(SIX_IDS.map((family) => [family, 0])))}
        >
          As they are
        </Button>
      </PartLine>
      {open &&
        SIX_IDS.map((family) => (
          <Slider
            key={family}
            label={family[0]!.toUpperCase() + family.slice(1)}
            name={`Lightness of ${family}`}
            value={part[family]}
            min={-100}
            max={100}
            step={1}
            neutral={0}
            unit="%"
            signed
            onPreview={(v) => preview({ [family]: v })}
            onCommit={(v) => commit(`Lightness of ${family} ${Math.round(v)} %`, { [family]: v })}
          />
        ))}
    </>
  );
}
