'use client';
import { adjustment, type SettingsOf } from '@umbo/core/adjust';
import { EIGHT_FAMILIES, FAMILY_HUES } from '@umbo/core/colour';
import { useMemo } from 'react';
import styled from 'styled-components';
import { Slider } from '@/ui/controls/Slider';
import type { ContentProps } from './contentProps';
import { useBench } from '../state/context';
import { percentWords, sharesOf } from '../desk/families';
import { ABSENT } from '../desk/Settings';

type Families = SettingsOf<'colourFamilies'>;

const Family = styled.div`
  padding: 5px 0 2px;
  border-top: 1px solid var(--line);
  &:first-child {
    border-top: 0;
  }
  &[data-absent='true'] {
    color: var(--ink2);
    p i {
      opacity: 0.45;
    }
  }
  p {
    display: flex;
    align-items: center;
    gap: 6px;
    margin: 0;
  }
  p i {
    width: 11px;
    height: 11px;
    border-radius: 2px;
  }
  small {
    margin-left: auto;
    color: var(--ink2);
    font-size: 11px;
  }
  > div {
    display: grid;
    grid-template-columns: 1fr 1fr 1fr;
    gap: 14px;
  }
`;

/** Eight families, each with its hue, saturation and lightness, and with its share of what the mask lets in. */
export function FamiliesEditor({ layer, settings, preview, commit }: ContentProps<Families>) {
  const region = useBench((state) => state.region);
  const shares = useMemo(() => sharesOf(region, layer.id, EIGHT_FAMILIES), [region, layer.id]);
  const { controls } = adjustment('colourFamilies');
  return (
    <div role="group" aria-label="Colour families">
      {EIGHT_FAMILIES.map(({ id, name }) => {
        const share = shares.get(id);
        return (
          <Family key={id} data-absent={share !== undefined && share < ABSENT}>
            <p>
              <i style={{ background: `oklch(0.68 0.14 ${FAMILY_HUES.oklch[id]})` }} />
              {name}
              {share !== undefined && <small>{share < ABSENT ? 'hardly any here' : `${percentWords(share)} of the colour here`}</small>}
            </p>
            <div>
              {controls
                .filter(({ family }) => family?.id === id)
                .map(({ key, label }) => (
                  <Slider
                    key={key}
                    label={label === 'Saturation' ? 'Satur.' : label === 'Lightness' ? 'Light' : label}
                    name={`${name}, ${label.toLowerCase()}`}
                    stacked
                    dim={share !== undefined && share < ABSENT}
                    value={settings[key as keyof Families]}
                    min={-100}
                    max={100}
                    step={1}
                    neutral={0}
                    signed
                    onPreview={(v) => preview({ [key]: v })}
                    onCommit={(v) => commit(`${label} of ${name.toLowerCase()} ${v > 0 ? '+' : ''}${Math.round(v)}`, { [key]: v })}
                  />
                ))}
            </div>
          </Family>
        );
      })}
    </div>
  );
}
