'use client';
import { CHANNELS, channels, channelWords, modelName, SIX_IDS } from '@umbo/core/colour';
import { showsOwn } from '@umbo/core/content';
import { isLayer } from '@umbo/core/document';
import type { LuminosityPart } from '@umbo/core/mask';
import { useState } from 'react';
import { Button } from '@/ui/controls/Button';
import { Switch } from '@/ui/controls/Switch';
import { LabelledLine } from '@/ui/controls/LabelledLine';
import { Select } from '@/ui/controls/Select';
import { Slider } from '@/ui/controls/Slider';
import { useTones } from '../../ranges/Hills';
import { SoftRange } from '../../ranges/SoftRange';
import { useBench } from '../../state/context';
import type { PartProps } from '../partProps';
import { PartLine } from './PartLine';

const LUMINOSITY = 'luminosity';
const CHOICES = [
  [LUMINOSITY, 'Luminosity'] as const,
  ...channels.map(({ model, channel }) => {
    const name = CHANNELS[model].find(([letter]) => letter === channel)![1];
    return [`${model} ${channel}`, `${modelName(model)}: ${name}`] as const;
  }),
];

export function LuminosityEditor({ layer, part, preview, commit, cancel }: PartProps<LuminosityPart>) {
  const bins = useBench(({ histogram, region }) =>
    part.channel || part.own
      ? null
      : ((part.result ? (region?.layerId === layer.id ? region.below.histogram : null) : histogram)?.luminosity ?? null),
  );
  const { under } = useTones(layer.id, 'luminosity');
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
      <LabelledLine>
        Of
        <Select
          label="Of"
          hideLabel
          value={part.channel ? `${part.channel.model} ${part.channel.channel}` : LUMINOSITY}
          options={CHOICES}
          onChange={(id) => {
            const channel = channels.find((one) => `${one.model} ${one.channel}` === id);
            commit(channel ? `Tones of ${channelWords(channel)}` : 'Tones of the luminosity', { channel });
          }}
        />
      </LabelledLine>
      {isLayer(layer) && showsOwn(layer.what) && (
        <Switch
          value={part.own === true}
          onChange={(own) => commit(own ? 'Tones of what the layer shows' : 'Tones of the photograph', { own: own || undefined })}
        >
          Of what the layer shows
        </Switch>
      )}
      {!part.channel && <Hues part={part} preview={preview} commit={commit} />}
    </>
  );
}

/** How much lighter or darker each family of hues counts. */
function Hues({ part, preview, commit }: Pick<PartProps<LuminosityPart>, 'part' | 'preview' | 'commit'>) {
  const isWeighted = SIX_IDS.some((family) => part[family] !== 0);
  const [open, setOpen] = useState(isWeighted);
  return (
    <>
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
