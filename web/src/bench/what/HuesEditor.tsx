'use client';
import { adjusted, adjustment, familyRange, type HueSaturationSettings, type RangeOfHues } from '@umbo/core/adjust';
import { SIX_FAMILIES } from '@umbo/core/colour';
import { litHues } from '@umbo/core/measure';
import { Plus, Trash2 } from 'lucide-react';
import { useMemo } from 'react';
import { IconButton } from '@/ui/controls/Button';
import { Hint } from '@/ui/controls/Hint';
import { Slider } from '@/ui/controls/Slider';
import type { ContentProps } from './contentProps';
import { Chip, Chips } from '../desk/Chips';
import { useBench, useBenchStore, useSpace } from '../state/context';
import { percentWords, sharesOf } from '../desk/families';
import { HueRing } from '../ranges/HueRing';
import type { Range } from '../ranges/hueHandles';
import { ABSENT, Settings } from '../desk/Settings';

const ALL = 'all';
const NONE: RangeOfHues[] = [];
const QUALITIES = [
  { key: 'hue', label: 'Hue', most: 180, unit: '°' },
  { key: 'saturation', label: 'Saturation', most: 100, unit: '' },
  { key: 'lightness', label: 'Lightness', most: 100, unit: '' },
] as const;
const nameOf = (name: string): string => SIX_FAMILIES.find(({ id }) => id === name)?.name ?? name;
const isChanged = ({ hue, saturation, lightness }: RangeOfHues): boolean => hue !== 0 || saturation !== 0 || lightness !== 0;

/** Hue, saturation and lightness of all hues, or of a range of them on the census of what the mask lets in. */
export function HuesEditor({ layer, settings, preview, commit }: ContentProps<HueSaturationSettings>) {
  const region = useBench((state) => state.region);
  const store = useBenchStore();
  const space = useSpace();
  const chosen = useBench((state) => state.settingsPart[layer.id] ?? ALL);
  const setChosen = (name: string): void => store.getState().set({ settingsPart: { ...store.getState().settingsPart, [layer.id]: name } });
  const { ranges = NONE, model, colourise } = settings;
  const own = ranges.filter(({ name }) => !SIX_FAMILIES.some(({ id }) => id === name));
  const isThere = SIX_FAMILIES.some(({ id }) => id === chosen) || own.some(({ name }) => name === chosen);
  const range = isThere && !colourise ? (ranges.find(({ name }) => name === chosen) ?? familyRange(model, chosen)) : null;
  const { defaults, schema, controls } = adjustment('hueSaturation');

  const withRange = (next: RangeOfHues): Partial<HueSaturationSettings> => ({
    ranges: ranges.some(({ name }) => name === next.name) ? ranges.map((one) => (one.name === next.name ? next : one)) : [...ranges, next],
  });
  const settle = (words: string, values: Partial<HueSaturationSettings>): void => {
    // The families of the other model lie elsewhere.
    if (values.model !== undefined && values.model !== model) {
      const moved = ranges.map((one) => {
        if (!SIX_FAMILIES.some(({ id }) => id === one.name)) return one;
        const { hue, saturation, lightness } = one;
        return { ...familyRange(values.model!, one.name), hue, saturation, lightness };
      });
      commit(words, ranges.length > 0 ? { ...values, ranges: moved } : values);
    } else commit(words, values);
  };
  const addRange = (): void => {
    let n = own.length + 1;
    while (own.some(({ name }) => name === `Range ${n}`)) n++;
    const next: RangeOfHues = { name: `Range ${n}`, from: 20, fadeIn: 15, span: 20, fadeOut: 15, hue: 0, saturation: 0, lightness: 0 };
    commit(`${next.name} of hues`, withRange(next));
    setChosen(next.name);
  };

  return (
    <>
      {!colourise && (
        <WhichHues
          layerId={layer.id}
          ranges={ranges}
          own={own.map(({ name }) => name)}
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
            census={region?.layerId === layer.id ? region.census[model] : null}
            onPreview={(next: Range) => preview(withRange({ ...range, ...next }))}
            onCommit={(next: Range) => commit(`${nameOf(range.name)} moved`, withRange({ ...range, ...next }))}
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
              onCommit={(v) =>
                commit(
                  `${label} of ${nameOf(range.name).toLowerCase()} ${v > 0 ? '+' : ''}${Math.round(v)}`,
                  withRange({ ...range, [key]: v }),
                )
              }
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

interface WhichHuesProps {
  layerId: string;
  ranges: readonly RangeOfHues[];
  /** The names of ranges of one's own. */
  own: readonly string[];
  chosen: string;
  onChoose: (name: string) => void;
  onAdd: () => void;
  onRemove: () => void;
}

/** All hues, one of the six families, or a range of one's own. */
function WhichHues({ layerId, ranges, own, chosen, onChoose, onAdd, onRemove }: WhichHuesProps) {
  const region = useBench((state) => state.region);
  const shares = useMemo(() => sharesOf(region, layerId, SIX_FAMILIES), [region, layerId]);
  return (
    <Chips role="group" aria-label="Which hues">
      {[{ id: ALL, name: 'All' }, ...SIX_FAMILIES, ...own.map((name) => ({ id: name, name }))].map(({ id, name }) => {
        const share = shares.get(id);
        return (
          <Chip
            key={id}
            aria-pressed={id === chosen}
            title={share === undefined ? undefined : `${percentWords(share)} of the colour that the mask lets in`}
            data-absent={share !== undefined && share < ABSENT}
            onClick={() => onChoose(id)}
          >
            {name}
            {ranges.some((one) => one.name === id && isChanged(one)) && ' •'}
          </Chip>
        );
      })}
      <Hint text="A range of one’s own">
        <IconButton aria-label="New range of hues" isDisabled={ranges.length >= 12} onPress={onAdd}>
          <Plus size={14} strokeWidth={1.5} />
        </IconButton>
      </Hint>
      {own.includes(chosen) && (
        <Hint text="Without this range">
          <IconButton aria-label="Remove the range of hues" onPress={onRemove}>
            <Trash2 size={14} strokeWidth={1.5} />
          </IconButton>
        </Hint>
      )}
    </Chips>
  );
}
