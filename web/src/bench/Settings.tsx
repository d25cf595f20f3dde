'use client';
import type { Control } from '@umbo/core';
import { Choice, LabelledLine, Switch } from '@/ui/controls';
import { Slider } from '@/ui/Slider';

interface Props<S extends object> {
  settings: S;
  defaults: S;
  /** JSON Schema of the settings: where the bounds of numbers are. */
  schema: { properties: Record<string, object> };
  controls: readonly Control<S>[];
  preview: (values: Partial<S>) => void;
  /** @param words such as "Hue +23°" */
  commit: (words: string, values: Partial<S>) => void;
}

/** The settings of an adjustment or a mask part, as its room describes them. */
export function Settings<S extends object>({ settings, defaults, schema, controls, preview, commit }: Props<S>) {
  return controls
    .filter(({ when }) => when?.(settings) ?? true)
    .map(({ key, label, options, step = 1, unit = '', signed = false, usual }) => {
      const value: unknown = settings[key];
      const values = (v: unknown): Partial<S> => ({ [key]: v }) as Partial<S>;
      if (options)
        return (
          <LabelledLine key={key}>
            {label}
            <Choice
              label={label}
              // A word that the options do not have stands for the first of them.
              value={options.some(([id]) => id === value) ? (value as string) : options[0]![0]}
              options={options}
              onChange={(v) => commit(`${label} ${options.find(([id]) => id === v)![1]}`, values(v))}
            />
          </LabelledLine>
        );
      if (typeof value === 'boolean')
        return (
          <LabelledLine key={key}>
            <span />
            <Switch value={value} onChange={(v) => commit(`${label} ${v ? 'on' : 'off'}`, values(v))}>
              {label}
            </Switch>
          </LabelledLine>
        );
      const { minimum, maximum } = schema.properties[key] as { minimum: number; maximum: number };
      const words = (v: number): string => `${label} ${signed && v > 0 ? '+' : ''}${String(Number(v.toFixed(2))).replace('-', '−')}${unit}`;
      return (
        <Slider
          key={key}
          label={label}
          value={value as number}
          min={minimum}
          max={maximum}
          step={step}
          {...(usual && { usual })}
          neutral={defaults[key] as number}
          unit={unit}
          signed={signed}
          onPreview={(v) => preview(values(v))}
          onCommit={(v) => commit(words(v), values(v))}
        />
      );
    });
}
