'use client';
import { adjustment, CURVE_DRIVERS, type LevelsChannel, type LevelsSettings } from '@umbo/core/adjust';
import { useState } from 'react';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Select } from '@/ui/controls/Select';
import { Slider } from '@/ui/controls/Slider';
import { useKept } from '@/ui/useKept';
import type { ContentProps } from './contentProps';
import { useBenchStore } from '../state/context';
import { measureInto } from '../state/measuring';
import { useTones } from '../ranges/Hills';
import { ToneHandles } from '../ranges/ToneHandles';

const CHANNELS = [
  ['rgb', 'RGB'],
  ['r', 'Red'],
  ['g', 'Green'],
  ['b', 'Blue'],
] as const;

/** How much may lie beyond each end. */
const CLIPS = [
  ['0', 'clip nothing'],
  ['0.1', 'clip 0.1 %'],
  ['0.5', 'clip 0.5 %'],
  ['2', 'clip 2 %'],
] as const;
const Line = styled.div`
  display: flex;
  align-items: center;
  gap: 6px;
  margin-top: 6px;
`;

/** Black, middle and white of all channels or of one, on the histogram of what the mask lets in. */
export function LevelsEditor({ layer, settings, preview: show, commit: settle }: ContentProps<LevelsSettings>) {
  const store = useBenchStore();
  const [clip, setClip] = useKept<(typeof CLIPS)[number][0]>('levels-clip', '0.1');
  const [channel, setChannel] = useState<keyof LevelsSettings>('rgb');
  const { bins, under } = useTones(layer.id, CURVE_DRIVERS[channel]);
  const values = settings[channel];
  const neutral = (adjustment('levels').defaults as LevelsSettings).rgb;
  const word = CHANNELS.find(([id]) => id === channel)![1];
  const withChannel = (next: Partial<LevelsChannel>): Partial<LevelsSettings> => ({ [channel]: { ...values, ...next } });
  const preview = (next: Partial<LevelsChannel>): void => show(withChannel(next));
  const commit = (next: Partial<LevelsChannel>): void => {
    const [[key, value]] = Object.entries(next) as [[string, number]];
    settle(`${word} ${key} ${Number(value.toFixed(2))}`, withChannel(next));
  };
  const findEnds = (each: boolean): void =>
    void measureInto(
      store.getState,
      layer,
      { kind: 'ends', settings: { clip: Number(clip) / 100, each } },
      each ? 'Ends of each channel' : 'Ends of the tones',
    );
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
        bins={bins}
        by={CURVE_DRIVERS[channel]}
        under={under}
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
      <Line>
        <Button onPress={() => findEnds(false)}>Automatic ends</Button>
        <Button onPress={() => findEnds(true)}>Each channel</Button>
        <Select label="Clipped at each end" hideLabel value={clip} options={CLIPS} onChange={setClip} />
      </Line>
    </>
  );
}
