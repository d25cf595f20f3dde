'use client';
import { adjustment, type SettingsOf } from '@umbo/core/adjust';
import { EIGHT_FAMILIES, FAMILY_HUES } from '@umbo/core/colour';
import { useMemo, useState } from 'react';
import styled from 'styled-components';
import { Slider } from '@/ui/controls/Slider';
import type { ContentProps } from './contentProps';
import { useBench } from '../state/context';
import { percentWords, sharesOf } from '../desk/families';
import { ABSENT } from '../desk/Settings';

type Families = SettingsOf<'colourFamilies'>;
type Key = keyof Families;

const Table = styled.div`
  display: grid;
  grid-template-columns: 86px 1fr 1fr 1fr;
  column-gap: 8px;
  align-items: center;
  > span {
    color: var(--ink2);
    text-align: center;
  }
`;
const Name = styled.button`
  display: flex;
  align-items: center;
  gap: 6px;
  min-width: 0;
  height: 22px;
  padding: 0 4px;
  border: 1px solid transparent;
  border-radius: var(--radius);
  background: none;
  text-align: left;
  white-space: nowrap;
  cursor: default;
  &:hover {
    border-color: var(--edge);
  }
  &[aria-pressed='true'] {
    background: var(--ink);
    color: var(--on-ink);
  }
  &[data-absent='true']:not([aria-pressed='true']) {
    color: var(--ink2);
    i {
      opacity: 0.45;
    }
  }
  i {
    width: 10px;
    height: 10px;
    flex: none;
    border-radius: 2px;
  }
`;

const QUALITIES = ['Hue', 'Saturation', 'Lightness'] as const;
type Quality = (typeof QUALITIES)[number];

/** Eight families in a row each, and one that sets all of them, or all but those that are pressed. */
export function FamiliesEditor({ layer, settings, preview, commit }: ContentProps<Families>) {
  const region = useBench((state) => state.region);
  const shares = useMemo(() => sharesOf(region, layer.id, EIGHT_FAMILIES), [region, layer.id]);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const keyOf = (family: string, quality: Quality): Key =>
    adjustment('colourFamilies').controls.find((control) => control.family?.id === family && control.label === quality)!.key as Key;
  const set = EIGHT_FAMILIES.filter(({ id }) => !left.has(id));
  const all = (quality: Quality, v: number): Partial<Families> => Object.fromEntries(set.map(({ id }) => [keyOf(id, quality), v]));
  const words = (v: number): string => `${v > 0 ? '+' : ''}${Math.round(v)}`;
  const toggle = (id: string): void => {
    const next = new Set(left);
    if (!next.delete(id)) next.add(id);
    setLeft(next);
  };
  const leftNames = EIGHT_FAMILIES.filter(({ id }) => left.has(id)).map(({ name }) => name.toLowerCase());
  const slider = (name: string, quality: Quality, value: number, dim: boolean, values: (v: number) => Partial<Families>) => (
    <Slider
      key={quality}
      label={quality}
      name={`${name}, ${quality.toLowerCase()}`}
      tight
      dim={dim}
      value={value}
      min={-100}
      max={100}
      step={1}
      neutral={0}
      signed
      onPreview={(v) => preview(values(v))}
      onCommit={(v) => commit(`${quality} of ${name.toLowerCase()} ${words(v)}`, values(v))}
    />
  );
  const allName = leftNames.length === 0 ? 'All families' : `All but ${leftNames.join(', ')}`;
  return (
    <Table role="group" aria-label="Colour families">
      <span />
      <span>Hue</span>
      <span>Saturation</span>
      <span>Lightness</span>
      <b style={{ fontWeight: 600 }}>{leftNames.length === 0 ? 'All' : 'All others'}</b>
      {QUALITIES.map((quality) => {
        const values = set.map(({ id }) => settings[keyOf(id, quality)]);
        const mean = values.reduce((sum, v) => sum + v, 0) / Math.max(1, values.length);
        return slider(allName, quality, Math.round(mean), false, (v) => all(quality, v));
      })}
      {EIGHT_FAMILIES.map(({ id, name }) => {
        const share = shares.get(id);
        const absent = share !== undefined && share < ABSENT;
        return [
          <Name
            key={id}
            aria-pressed={left.has(id)}
            data-absent={absent}
            title={`${share === undefined ? '' : absent ? 'Hardly any here. ' : `${percentWords(share)} of the colour here. `}Press to leave it as it is when all are set.`}
            onClick={() => toggle(id)}
          >
            <i style={{ background: `oklch(0.68 0.14 ${FAMILY_HUES.oklch[id]})` }} aria-hidden />
            {name}
          </Name>,
          ...QUALITIES.map((quality) => {
            const key = keyOf(id, quality);
            return <div key={`${id} ${quality}`}>{slider(name, quality, settings[key], absent, (v) => ({ [key]: v }))}</div>;
          }),
        ];
      })}
    </Table>
  );
}
