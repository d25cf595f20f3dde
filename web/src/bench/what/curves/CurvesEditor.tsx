'use client';
import { CURVE_CHANNELS, type CurveChannel, type CurvePoint, type SettingsOf } from '@umbo/core/adjust';
import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import styled from 'styled-components';
import { Button, IconButton } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Hint } from '@/ui/controls/Hint';
import { Slider } from '@/ui/controls/Slider';
import { useBench, useBenchStore } from '../../state/context';
import type { ContentProps } from '../contentProps';
import { CurveField, pointWords } from './CurveField';
import { movedPoint, withoutPoint } from './curvePoints';
import { CurveStarts } from './CurveStarts';

type Curves = SettingsOf<'curves'>;

const Line = styled.div`
  display: flex;
  gap: 6px;
  align-items: center;
  justify-content: flex-end;
`;

const STRAIGHT: CurvePoint[] = [
  [0, 0],
  [1, 1],
];

/** A curve of all channels, of one, or of a quality of colour, with the point in work as numbers. */
export function CurvesEditor({ layer, settings, preview, commit }: ContentProps<Curves>) {
  const store = useBenchStore();
  const pull = useBench((state) => state.pull);
  const [at, setAt] = useState(0);
  const channel: CurveChannel = CURVE_CHANNELS.some(([id]) => id === pull) ? (pull as CurveChannel) : 'rgb';
  const points = settings[channel].length >= 2 ? settings[channel] : STRAIGHT;
  const chosen = Math.min(at, points.length - 1);
  const point = points[chosen]!;
  const name = CURVE_CHANNELS.find(([id]) => id === channel)![1];
  const full = channel === 'lightness' || channel === 'chroma' ? 100 : 255;
  const show = (next: CurvePoint[]): void => preview({ [channel]: next });
  const settle = (words: string, next: CurvePoint[]): void => commit(`${name} curve: ${words}`, { [channel]: next });
  const begin = (words: string, next: CurvePoint[]): void => {
    settle(words, next);
    setAt(0);
  };
  const remove = (index: number): void => {
    if (points.length <= 2) return;
    settle('point removed', withoutPoint(points, index));
    setAt(Math.max(0, index - 1));
  };
  return (
    <>
      <Choice label="Channel" value={channel} options={CURVE_CHANNELS} onChange={(id) => store.getState().set({ pull: id })} />
      <CurveField {...{ layerId: layer.id, channel, name, full, points, chosen, remove }} onChoose={setAt} preview={show} commit={settle} />
      {(['Input', 'Output'] as const).map((label, axis) => {
        const typed = (v: number): CurvePoint[] =>
          movedPoint(points, chosen, axis === 0 ? v / full : point[0], axis === 1 ? v / full : point[1]);
        return (
          <Slider
            key={label}
            label={label}
            value={point[axis as 0 | 1] * full}
            min={0}
            max={full}
            step={1}
            unit={full === 100 ? '%' : ''}
            neutral={point[0] * full}
            onPreview={(v) => show(typed(v))}
            onCommit={(v) => settle(pointWords(typed(v)[chosen]!, full), typed(v))}
          />
        );
      })}
      <Line>
        <CurveStarts points={points} onBegin={begin} />
        <span style={{ flex: 1 }} />
        <Button
          isDisabled={points.every(([x, y]) => x === y)}
          onPress={() =>
            settle(
              'straight',
              STRAIGHT.map(([x, y]) => [x, y]),
            )
          }
        >
          Straight
        </Button>
        <Hint text="Remove the point (Delete)">
          <IconButton aria-label="Remove the point" isDisabled={points.length <= 2} onPress={() => remove(chosen)}>
            <Trash2 size={14} strokeWidth={1.5} />
          </IconButton>
        </Hint>
      </Line>
    </>
  );
}
