'use client';
import { adjusted, adjustment, familyRange, type HueSaturationSettings, type RangeOfHues } from '@umbo/core/adjust';
import { unit } from '@umbo/core/base';
import { oklabToRgb, SIX_FAMILIES, type Colour } from '@umbo/core/colour';
import { humps, litHues, type Hump } from '@umbo/core/measure';
import { Plus, Trash2 } from 'lucide-react';
import { useMemo } from 'react';
import { IconButton } from '@/ui/controls/Button';
import { Hint } from '@/ui/controls/Hint';
import { Slider } from '@/ui/controls/Slider';
import type { ContentProps } from './contentProps';
import { Chip, Chips } from '../desk/Chips';
import { useBench, useBenchStore, useSpace } from '../state/context';
import { percentWords } from '../desk/families';
import { cssOf } from '@/ui/hexOf';
import styled from 'styled-components';
import { HueRing } from '../ranges/HueRing';
import type { Range } from '../ranges/hueHandles';
import { Settings } from '../desk/Settings';

const ALL = 'all';
const NONE: RangeOfHues[] = [];
const QUALITIES = [
  { key: 'hue', label: 'Hue', most: 180, unit: '°' },
  { key: 'saturation', label: 'Saturation', most: 100, unit: '' },
  { key: 'lightness', label: 'Lightness', most: 100, unit: '' },
] as const;
const isFamily = (name: string): boolean => SIX_FAMILIES.some(({ id }) => id === name);
const isChanged = ({ hue, saturation, lightness }: RangeOfHues): boolean => hue !== 0 || saturation !== 0 || lightness !== 0;

/** Hue, saturation and lightness of all hues, or of a range of them on the census of what the mask lets in. */
export function HuesEditor({ layer, settings, preview, commit }: ContentProps<HueSaturationSettings>) {
  const region = useBench((state) => state.region);
  const store = useBenchStore();
  const space = useSpace();
  const chosen = useBench((state) => state.settingsPart[layer.id] ?? ALL);
  const setChosen = (name: string): void => store.getState().set({ settingsPart: { ...store.getState().settingsPart, [layer.id]: name } });
  const { ranges = NONE, model, colourise } = settings;
  const census = region?.layerId === layer.id ? region.census[model] : null;
  const found = useMemo(() => (census ? humps(census, model) : []), [census, model]);
  const range = colourise ? null : rangeCalled(chosen, ranges, found, model);
  const { defaults, schema, controls } = adjustment('hueSaturation');

  const withRange = (next: RangeOfHues): Partial<HueSaturationSettings> => ({
    ranges: ranges.some(({ name }) => name === next.name) ? ranges.map((one) => (one.name === next.name ? next : one)) : [...ranges, next],
  });
  const settle = (words: string, values: Partial<HueSaturationSettings>): void => {
    // The families of the other model lie elsewhere.
    if (values.model !== undefined && values.model !== model) {
      const moved = ranges.map((one) => {
        if (!isFamily(one.name)) return one;
        const { hue, saturation, lightness } = one;
        return { ...familyRange(values.model!, one.name), hue, saturation, lightness };
      });
      commit(words, ranges.length > 0 ? { ...values, ranges: moved } : values);
    } else commit(words, values);
  };
  const addRange = (): void => {
    let n = 1;
    while (ranges.some(({ name }) => name === `Range ${n}`)) n++;
    const next: RangeOfHues = { name: `Range ${n}`, from: 20, fadeIn: 15, span: 20, fadeOut: 15, hue: 0, saturation: 0, lightness: 0 };
    commit(`${next.name} of hues`, withRange(next));
    setChosen(next.name);
  };

  return (
    <>
      {!colourise && (
        <WhichHues
          ranges={ranges}
          found={found}
          chosen={range ? chosen : ALL}
          onChoose={setChosen}
          onAdd={addRange}
          onRemove={() => {
            commit(`Without ${chosen}`, { ranges: ranges.filter(({ name }) => name !== chosen) });
            setChosen(ALL);
          }}
        />
      )}
      {range ? (
        <>
          <HueRing
            key={range.name}
            label="Hues changed"
            range={range}
            model={model}
            census={census}
            onPreview={(next: Range) => preview(withRange({ ...range, ...next }))}
            onCommit={(next: Range) => commit(`Range of ${range.name} moved`, withRange({ ...range, ...next }))}
            onMoving={(next) => store.getState().setLit(next && { of: 'below', ...litHues(model, next) })}
          />
          {QUALITIES.map(({ key, label, most, unit }) => (
            <Slider
              key={key}
              label={label}
              value={range[key]}
              min={-most}
              max={most}
              step={1}
              neutral={0}
              unit={unit}
              signed
              onPreview={(v) => preview(withRange({ ...range, [key]: v }))}
              onCommit={(v) => commit(`${label} of ${range.name} ${v > 0 ? '+' : ''}${Math.round(v)}`, withRange({ ...range, [key]: v }))}
            />
          ))}
        </>
      ) : (
        <Settings
          settings={settings}
          defaults={defaults as HueSaturationSettings}
          schema={schema}
          controls={controls}
          becomes={(other, colour) => adjusted({ kind: 'hueSaturation', settings: other }, colour, space)}
          preview={preview}
          commit={settle}
        />
      )}
    </>
  );
}

/** A range as it is kept, or as it begins: a hump of the census, or the family that a pull began on; null for all hues. */
function rangeCalled(
  name: string,
  ranges: readonly RangeOfHues[],
  found: readonly Hump[],
  model: HueSaturationSettings['model'],
): RangeOfHues | null {
  const kept = ranges.find((one) => one.name === name);
  if (kept) return kept;
  const hump = found.find((one) => one.name === name);
  if (!hump) return isFamily(name) ? familyRange(model, name) : null;
  const { from, fadeIn, span, fadeOut } = hump;
  return { name, from, fadeIn, span, fadeOut, hue: 0, saturation: 0, lightness: 0 };
}

interface WhichHuesProps {
  ranges: readonly RangeOfHues[];
  /** The hues that there are in what the mask lets in. */
  found: readonly Hump[];
  chosen: string;
  onChoose: (name: string) => void;
  onAdd: () => void;
  onRemove: () => void;
}

const Dot = styled.i`
  display: inline-block;
  width: 9px;
  height: 9px;
  margin-right: 5px;
  border-radius: 50%;
  border: 1px solid var(--edge);
`;
const middleOf = ({ from, fadeIn, span }: RangeOfHues): number => from + fadeIn + span / 2;

/** All hues, those that the photograph itself has where the mask lets it in, and ranges that were changed or added. */
function WhichHues({ ranges, found, chosen, onChoose, onAdd, onRemove }: WhichHuesProps) {
  const space = useSpace();
  const kept = ranges.filter(({ name }) => !found.some((hump) => hump.name === name));
  const begun =
    chosen !== ALL && ![...found, ...kept].some(({ name }) => name === chosen) ? [{ name: chosen, hue: null, share: null }] : [];
  const chips = [
    ...found.map(({ name, hue, share }) => ({ name, hue, share })),
    ...kept.map((range) => ({ name: range.name, hue: middleOf(range), share: null })),
    ...begun,
  ];
  const swatch = (hue: number): string => {
    const rgb = new Float64Array(3);
    oklabToRgb(space, 0.68, 0.13 * Math.cos((hue * Math.PI) / 180), 0.13 * Math.sin((hue * Math.PI) / 180), rgb);
    return cssOf([...rgb].map(unit) as Colour, space);
  };
  return (
    <Chips role="group" aria-label="Which hues">
      <Chip aria-pressed={chosen === ALL} onClick={() => onChoose(ALL)}>
        all hues
      </Chip>
      {chips.map(({ name, hue, share }) => (
        <Chip key={name} aria-label={name} aria-pressed={name === chosen} onClick={() => onChoose(name)}>
          {hue !== null && <Dot style={{ background: swatch(hue) }} aria-hidden />}
          {name}
          {share !== null && ` ${percentWords(share)}`}
          {ranges.some((one) => one.name === name && isChanged(one)) && ' •'}
        </Chip>
      ))}
      <Hint text="A range of one’s own">
        <IconButton aria-label="New range of hues" isDisabled={ranges.length >= 12} onPress={onAdd}>
          <Plus size={14} strokeWidth={1.5} />
        </IconButton>
      </Hint>
      {ranges.some(({ name }) => name === chosen) && (
        <Hint text="Without this range">
          <IconButton aria-label="Remove the range of hues" onPress={onRemove}>
            <Trash2 size={14} strokeWidth={1.5} />
          </IconButton>
        </Hint>
      )}
    </Chips>
  );
}
