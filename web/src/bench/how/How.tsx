'use client';
import { ChevronDown, ChevronUp } from 'lucide-react';
import { memo, useId } from 'react';
import { blendModes, type ComponentMix } from '@umbo/core/blend';
import { onLayer, type Layer } from '@umbo/core/document';
import styled from 'styled-components';
import { Select } from '@/ui/controls/Select';
import { Switch } from '@/ui/controls/Switch';
import { clipLayer, setBlendMode } from '../state/actions';
import { sameFor, useBench, useBenchStore } from '../state/context';
import { howSummary } from '../desk/summaries';
import { isFolded, Title } from '../desk/DeskSection';
import { ShareSlider } from '../desk/ShareSlider';
import { ToneLimitsEditor } from './ToneLimitsEditor';

const MODES = blendModes.map(({ id, name }) => [id, name] as const);
const EVERYTHING: ComponentMix = { lightness: 1, hue: 1, chroma: 1 };
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

const Foot = styled.div`
  flex: none;
  display: flex;
  flex-direction: column;
  max-height: 75%;
  border-top: 1px solid var(--line);
`;
const Details = styled.div`
  min-height: 0;
  overflow-y: auto;
  position: relative;
  padding: 2px 14px 8px;
  scrollbar-width: thin;
`;
const Main = styled.div`
  display: grid;
  grid-template-columns: 118px 1fr;
  gap: 10px;
  align-items: center;
  padding: 0 14px 9px;
`;

/** How a layer joins what is below it: at the foot of the desk, always in sight; what is wanted less often opens upwards. */
export const How = memo(function How({ layer }: { layer: Layer }) {
  const store = useBenchStore();
  const pass = layer.how.letThrough ?? EVERYTHING;
  const setPass = (key: keyof ComponentMix, share: number) =>
    onLayer(layer.id, ({ how }) => {
      const next = { ...pass, [key]: share };
      if (QUALITIES.every(([quality]) => next[quality] === 1)) delete how.letThrough;
      else if (how.letThrough) Object.assign(how.letThrough, next);
      else how.letThrough = next;
    });
  const id = useId();
  const isOpen = useBench((state) => !isFolded(state, layer, 'How'));
  const Icon = isOpen ? ChevronDown : ChevronUp;
  return (
    <Foot role="region" aria-label="How">
      <Title>
        <button aria-expanded={isOpen} aria-controls={id} onClick={() => store.getState().foldSection(layer.what.kind, 'How', isOpen)}>
          How <em>{howSummary(layer)}</em> <Icon size={13} strokeWidth={1.5} aria-hidden />
        </button>
      </Title>
      {isOpen && (
        <Details id={id}>
          <p style={{ color: 'var(--ink2)' }}>Let through</p>
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
        </Details>
      )}
      <Main>
        <Select
          label="Blend mode"
          hideLabel
          value={layer.how.mode}
          options={MODES}
          onChange={(mode) => setBlendMode(store.getState(), layer.id, mode)}
        />
        <ShareSlider
          label="Opacity"
          bare
          value={layer.how.opacity}
          words={(percent) => `Opacity ${percent} on ${layer.name}`}
          recipe={(share) => onLayer(layer.id, ({ how }) => void (how.opacity = share))}
        />
      </Main>
    </Foot>
  );
}, sameHow);

const sameRest = sameFor('how');
function sameHow(a: { layer: Layer }, b: { layer: Layer }): boolean {
  return sameRest(a, b) && a.layer.clip === b.layer.clip;
}
