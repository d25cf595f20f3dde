'use client';
import { memo } from 'react';
import { blendModes, onLayer, type Layer } from '@umbo/core';
import { LabelledLine, Select } from '@/ui/controls';
import { Slider } from '@/ui/Slider';
import { sameFor, useBenchStore } from './context';
import { Section } from './Section';

const MODES = blendModes.map(({ id, name }) => [id, name] as const);

/** How a layer joins what is below it. */
export const How = memo(function How({ layer }: { layer: Layer }) {
  const store = useBenchStore();
  const setOpacity = (percent: number) => onLayer(layer.id, ({ how }) => void (how.opacity = percent / 100));
  return (
    <Section
      title="How"
      note={layer.how.mode === 'normal' && layer.how.opacity === 1 ? 'replaces what is below' : 'blended with what is below'}
    >
      <LabelledLine>
        Blend
        <Select
          label="Blend mode"
          hideLabel
          value={layer.how.mode}
          options={MODES}
          onChange={(mode) =>
            store.getState().commit(
              `${MODES.find(([id]) => id === mode)![1]} on ${layer.name}`,
              onLayer(layer.id, ({ how }) => void (how.mode = mode)),
            )
          }
        />
      </LabelledLine>
      <Slider
        label="Opacity"
        value={layer.how.opacity * 100}
        min={0}
        max={100}
        step={1}
        neutral={100}
        unit="%"
        onPreview={(v) => store.getState().preview(setOpacity(v))}
        onCommit={(v) => store.getState().commit(`Opacity ${Math.round(v)} % on ${layer.name}`, setOpacity(v))}
      />
    </Section>
  );
}, sameFor('how'));
