'use client';
import type { Control } from '@umbo/core/base';
import { colourBetween, srgb, type Colour } from '@umbo/core/colour';
import { useState } from 'react';
import { Choice } from '@/ui/controls/Choice';
import { LabelledLine } from '@/ui/controls/LabelledLine';
import { Select } from '@/ui/controls/Select';
import { Switch } from '@/ui/controls/Switch';
import { Slider } from '@/ui/controls/Slider';
import { cssOf } from '@/ui/hexOf';
import { useSpace } from '../state/context';
import { ColourFields } from '../colour/ColourFields';
import { percentWords } from './families';

interface Props<S extends object> {
  settings: S;
  defaults: S;
  /** JSON Schema of the settings: where the bounds of numbers are. */
  schema: { properties: Record<string, object> };
  controls: readonly Control<S>[];
  /** How much of what the layer acts on belongs to the hue families that the controls name, 0..1. */
  shares?: ReadonlyMap<string, number>;
  /** What becomes of a colour by other settings, for the tracks of sliders that show one. */
  becomes?: (settings: S, colour: Colour) => Colour;
  preview: (values: Partial<S>) => void;
  /** @param words such as "Hue +23°" */
  commit: (words: string, values: Partial<S>) => void;
}

/** Colours along a track. */
const STOPS = 12;

/** A family with less of a region than this counts as not there. */
export const ABSENT = 0.004;

/** The settings of an adjustment or a mask part, as its room describes them. */
export function Settings<S extends object>(props: Props<S>) {
  const { settings, controls } = props;
  const [chosen, setChosen] = useState<string | null>(null);
  const sections = [...new Set(controls.flatMap(({ section }) => (section === undefined ? [] : [section])))];
  const section = sections.includes(chosen ?? '') ? chosen! : sections[0];
  const shown = controls.filter((control) => (control.when?.(settings) ?? true) && (!control.section || control.section === section));
  return (
    <>
      {section && (
        <div style={{ margin: '2px 0 6px' }}>
          <Choice label="Tones" value={section} options={sections.map((name) => [name, name] as const)} onChange={setChosen} />
        </div>
      )}
      {shown.map((control) => (
        <Setting key={control.key} control={control} {...props} />
      ))}
    </>
  );
}

/** Whether options have no room beside each other: about 7 pixels for a letter, and 18 around each. */
const needsList = (options: readonly (readonly [string, string])[]): boolean =>
  options.reduce((sum, [, name]) => sum + 7 * name.length + 18, 0) > 205;

/** Whether a setting is on or off; one that is left out is off. */
const isSwitch = (property: object | undefined): boolean => (property as { type?: string } | undefined)?.type === 'boolean';

/** One setting. */
function Setting<S extends object>({
  control,
  settings,
  defaults,
  schema,
  shares,
  becomes,
  preview,
  commit,
}: Props<S> & { control: Control<S> }) {
  const space = useSpace();
  const { key, label, options, step = 1, unit = '', signed = false, usual, section, family } = control;
  // Edits of before a setting was there do without it.
  const value: unknown = settings[key] ?? defaults[key];
  const values = (v: unknown): Partial<S> => ({ [key]: v }) as Partial<S>;
  const full = section ? `${section}, ${label.toLowerCase()}` : label;
  if (options) {
    const choice = {
      label,
      // A word that the options do not have stands for the first of them.
      value: options.some(([id]) => id === value) ? (value as string) : options[0]![0],
      options,
      onChange: (v: string) => commit(`${label} ${options.find(([id]) => id === v)![1]}`, values(v)),
    };
    return (
      <LabelledLine>
        {label}
        {needsList(options) ? <Select hideLabel {...choice} /> : <Choice {...choice} />}
      </LabelledLine>
    );
  }
  if (isSwitch(schema.properties[key]))
    return (
      <LabelledLine>
        <span />
        <Switch value={value === true} onChange={(v) => commit(v ? label : `Not: ${label.toLowerCase()}`, values(v))}>
          {label}
        </Switch>
      </LabelledLine>
    );
  if (Array.isArray(value))
    return (
      <>
        <p style={{ margin: '4px 0 0', color: 'var(--ink2)' }}>{label}</p>
        <ColourFields
          label={label}
          colour={value as Colour}
          sampled={control.sampled === true}
          onPreview={(colour) => preview(values(colour))}
          onCommit={(colour) => commit(label, values(colour))}
        />
      </>
    );
  const { minimum, maximum } = schema.properties[key] as { minimum: number; maximum: number };
  const share = family && shares?.get(family.id);
  const words = (v: number): string =>
    `${full} ${signed && v > 0 ? '+' : ''}${String(Number(v.toFixed(2)))}${unit === '' || unit === '°' ? unit : ` ${unit}`}`;
  const [low, high] = usual ?? [minimum, maximum];
  const track =
    control.shows && becomes
      ? `linear-gradient(to right, ${Array.from({ length: STOPS + 1 }, (_, i) =>
          cssOf(becomes({ ...settings, [key]: low + ((high - low) * i) / STOPS }, colourBetween(srgb, space, [...control.shows!])), space),
        ).join(', ')})`
      : undefined;
  return (
    <Slider
      label={label}
      value={value as number}
      min={minimum}
      max={maximum}
      step={step}
      {...(usual && { usual })}
      scale={track ?? control.scale}
      note={share === undefined ? undefined : percentWords(share)}
      dim={share !== undefined && share < ABSENT}
      neutral={defaults[key] as number}
      unit={unit}
      signed={signed}
      onPreview={(v) => preview(values(v))}
      onCommit={(v) => commit(words(v), values(v))}
    />
  );
}
