'use client';
import { memo } from 'react';
import { blendModes, type LetThrough } from '@umbo/core/blend';
import { onLayer, type Layer } from '@umbo/core/document';
import styled from 'styled-components';
import { LabelledLine } from '@/ui/controls/LabelledLine';
import { Select } from '@/ui/controls/Select';
import { Switch } from '@/ui/controls/Switch';
import { clipLayer } from '../state/actions';
import { sameFor, useBenchStore } from '../state/context';
import { Section } from '../desk/Section';
import { ShareSlider } from '../desk/ShareSlider';
import { ToneLimitsEditor } from './ToneLimitsEditor';

const MODES = blendModes.map(({ id, name }) => [id, name] as const);
const EVERYTHING: LetThrough = { lightness: 1, hue: 1, chroma: 1 };
const QUALITIES = [
  ['lightness', 'Lightness'],
  ['hue', 'Hue'],
  ['chroma', 'Chroma'],
] as const;

const Trio = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr 1fr;
  gap: 14px;
  margin: 2px 0 6px;
`;

function summary({ how }: Layer): string {
  const pass = how.letThrough;
  const kept = pass && QUALITIES.filter(([key]) => pass[key] === 0).map(([, name]) => name.toLowerCase());
  if (kept && kept.length > 0) return `keeps ${kept.join(' and ')}`;
  if (pass) return 'lets some of its change through';
  if (how.limitsBelow || how.limitsSelf) return 'in some tones';
  return how.mode === 'normal' && how.opacity === 1 ? 'replaces what is below' : 'blended with what is below';
}

/** How a layer joins what is below it. */
export const How = memo(function How({ layer }: { layer: Layer }) {
  const store = useBenchStore();
  const pass = layer.how.letThrough ?? EVERYTHING;
  const setPass = (key: keyof LetThrough, share: number) =>
    onLayer(layer.id, ({ how }) => {
      const next = { ...pass, [key]: share };
      if (QUALITIES.every(([quality]) => next[quality] === 1)) delete how.letThrough;
      else if (how.letThrough) Object.assign(how.letThrough, next);
      else how.letThrough = next;
    });
  return (
    <Section title="How" note={summary(layer)}>
      <LabelledLine>
        Blend
        <Select
          label="Blend mode"
          hideLabel
          value={layer.how.mode}
          options={MODES}
          onChange={(mode) =>
            store.getState().commit(
              `Blend ${MODES.find(([id]) => id === mode)![1]} on ${layer.name}`,
              onLayer(layer.id, ({ how }) => void (how.mode = mode)),
            )
          }
        />
      </LabelledLine>
      <ShareSlider
        label="Opacity"
        value={layer.how.opacity}
        words={(percent) => `Opacity ${percent} on ${layer.name}`}
        recipe={(share) => onLayer(layer.id, ({ how }) => void (how.opacity = share))}
      />
      <p style={{ marginTop: 4, color: 'var(--ink2)' }}>Let through</p>
      <Trio>
        {QUALITIES.map(([key, name]) => (
          <ShareSlider
            key={key}
            label={name}
            name={`${name} let through`}
            stacked
            value={pass[key]}
            words={(percent) => `${name} let through ${percent} on ${layer.name}`}
            recipe={(share) => setPass(key, share)}
          />
        ))}
      </Trio>
      <ToneLimitsEditor layer={layer} />
      <Switch value={layer.clip === true} onChange={() => clipLayer(store.getState(), layer.id)}>
        Clip to the layer below
      </Switch>
    </Section>
  );
}, sameHow);

const sameRest = sameFor('how');
function sameHow(a: { layer: Layer }, b: { layer: Layer }): boolean {
  return sameRest(a, b) && a.layer.clip === b.layer.clip;
}
