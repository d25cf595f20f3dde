'use client';
import { adjustment, onLayer, type Layer, type LevelsChannel, type LevelsSettings } from '@umbo/core';
import { useState } from 'react';
import { Choice } from '@/ui/controls';
import { Slider } from '@/ui/Slider';
import { useBench, useBenchStore } from './context';
import { ToneHandles } from './ToneHandles';

const CHANNELS = [
  ['rgb', 'RGB'],
  ['r', 'Red'],
  ['g', 'Green'],
  ['b', 'Blue'],
] as const;

/** Black, middle and white of all channels or of one, on the histogram. */
export function LevelsEditor({ layer, settings }: { layer: Layer; settings: LevelsSettings }) {
  const store = useBenchStore();
  const histogram = useBench((state) => state.histogram);
  const [channel, setChannel] = useState<keyof LevelsSettings>('rgb');
  const values = settings[channel];
  const neutral = (adjustment('levels').defaults as LevelsSettings).rgb;
  const change = (next: Partial<LevelsChannel>) =>
    onLayer(layer.id, ({ what }) => {
      if (what.kind === 'levels') Object.assign(what.settings[channel], next);
    });
  const word = CHANNELS.find(([id]) => id === channel)![1];
  const preview = (next: Partial<LevelsChannel>): void => store.getState().preview(change(next));
  const commit = (next: Partial<LevelsChannel>): void => {
    const [[key, value]] = Object.entries(next) as [[string, number]];
    store.getState().commit(`${word} ${key} ${Number(value.toFixed(2))} on ${layer.name}`, change(next));
  };
  const level = (key: 'black' | 'white' | 'low' | 'high', label: string) => (
    <Slider
      key={key}
      label={label}
      value={values[key]}
      min={0}
      max={255}
      step={1}
      neutral={neutral[key]}
      onPreview={(v) => preview({ [key]: v })}
      onCommit={(v) => commit({ [key]: v })}
    />
  );
  // The place of the middle handle is what becomes half of the way from black to white.
  const span = values.white - values.black;
  const middleAt = values.black + span * Math.pow(0.5, values.middle);
  const middleFor = (at: number): number => {
    const share = Math.max(0.001, Math.min(0.93, (at - values.black) / (span || 1)));
    return Math.max(0.1, Math.min(10, Math.log(share) / Math.log(0.5)));
  };
  const [black, middle, white] = [values.black, middleAt, values.white].map((v) => (v / 255) * 100) as [number, number, number];
  return (
    <>
      <Choice label="Channel" value={channel} options={CHANNELS} onChange={setChannel} />
      <ToneHandles
        label={`${word} levels on the histogram`}
        bins={histogram && (channel === 'rgb' ? histogram.lum : histogram[channel])}
        handles={[
          { name: 'black', at: black, foot: true },
          { name: 'middle', at: middle, foot: true },
          { name: 'white', at: white, foot: true },
        ]}
        shape={null}
        onCancel={() => store.getState().cancelPreview()}
        onMove={(name, at, done) => {
          const value = Math.round((at / 100) * 255 * 10) / 10;
          const next = name === 'middle' ? { middle: middleFor(value) } : { [name]: value };
          if (done) commit(next);
          else preview(next);
        }}
      />
      {level('black', 'Black')}
      <Slider
        label="Middle"
        value={values.middle}
        min={0.1}
        max={10}
        usual={[0.2, 3]}
        step={0.01}
        neutral={1}
        onPreview={(middle_) => preview({ middle: middle_ })}
        onCommit={(middle_) => commit({ middle: middle_ })}
      />
      {level('white', 'White')}
      {level('low', 'Black to')}
      {level('high', 'White to')}
    </>
  );
}
