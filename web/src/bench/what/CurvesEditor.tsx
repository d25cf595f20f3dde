'use client';
import { CURVE_CHANNELS, CURVE_GAP, CURVE_DRIVERS, curveOf, type CurveChannel, type CurvePoint, type SettingsOf } from '@umbo/core/adjust';
import { clamp } from '@umbo/core/base';
import { Trash2 } from 'lucide-react';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { MenuTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { Button, IconButton } from '@/ui/controls/Button';
import { AskWords, type Question } from '@/ui/AskWords';
import { Choice } from '@/ui/controls/Choice';
import { Floating } from '@/ui/controls/Floating';
import { Menu, MenuItem, MenuSection } from '@/ui/controls/Menu';
import { Hint } from '@/ui/controls/Hint';
import { Slider } from '@/ui/controls/Slider';
import type { ContentProps } from './contentProps';
import { useBench, useBenchStore } from '../state/context';
import { Hills, ToneUnder, useTones } from '../ranges/Hills';
import { useHandleTrack } from '../ranges/useHandleTrack';
import { together, useLight } from '../ranges/useLight';

type Curves = SettingsOf<'curves'>;

const SIDE = 320;
const HEIGHT = 176;
/** Dragged this far out of the field, in pixels, a point is removed. */
const OUT = 30;

const Field = styled.svg`
  display: block;
  width: 100%;
  height: auto;
  margin: 6px 0 4px;
  background: var(--well);
  touch-action: none;
  user-select: none;
  overflow: visible;
  cursor: crosshair;
  .point {
    fill: var(--raised);
    stroke: var(--ink);
    stroke-width: 1.5;
    cursor: move;
    outline: none;
  }
  .point[aria-current='true'] {
    fill: var(--ink);
  }
  .point:focus-visible {
    stroke-width: 3.5;
  }
`;
const Line = styled.div`
  display: flex;
  gap: 6px;
  align-items: center;
  justify-content: flex-end;
`;

const toX = (v: number): number => v * SIDE;
const toY = (v: number): number => HEIGHT - v * HEIGHT;
/** Where curves often begin, gently enough to be drawn on from. */
const STARTS: readonly (readonly [string, readonly CurvePoint[]])[] = [
  [
    'Lifted shadows',
    [
      [0, 0.06],
      [0.25, 0.3],
      [1, 1],
    ],
  ],
  [
    'Deeper shadows',
    [
      [0, 0],
      [0.25, 0.19],
      [0.6, 0.6],
      [1, 1],
    ],
  ],
  [
    'Firmer contrast',
    [
      [0, 0],
      [0.25, 0.19],
      [0.75, 0.81],
      [1, 1],
    ],
  ],
  [
    'Softer contrast',
    [
      [0, 0.04],
      [0.25, 0.3],
      [0.75, 0.71],
      [1, 0.97],
    ],
  ],
  [
    'Lighter middle',
    [
      [0, 0],
      [0.5, 0.58],
      [1, 1],
    ],
  ],
  [
    'Darker middle',
    [
      [0, 0],
      [0.5, 0.42],
      [1, 1],
    ],
  ],
  [
    'Darker lights',
    [
      [0, 0],
      [0.5, 0.5],
      [0.75, 0.7],
      [1, 0.94],
    ],
  ],
];
const STRAIGHT: CurvePoint[] = [
  [0, 0],
  [1, 1],
];

/** Curves on the histogram of what the mask lets in. Points: click to add, drag out or Delete to remove, arrows to move. */
export function CurvesEditor({ layer, settings, preview, commit }: ContentProps<Curves>) {
  const store = useBenchStore();
  const pull = useBench((state) => state.pull);
  const [at, setAt] = useState(0);
  const svg = useRef<SVGSVGElement>(null);
  /** The points as they were when one was taken hold of, and as they are now; null before it is moved. */
  const held = useRef<{ points: CurvePoint[]; latest: CurvePoint[] | null }>({ points: [], latest: null });
  const channel: CurveChannel = CURVE_CHANNELS.some(([id]) => id === pull) ? (pull as CurveChannel) : 'rgb';
  const points = settings[channel].length >= 2 ? settings[channel] : STRAIGHT;
  const chosen = Math.min(at, points.length - 1);
  const name = CURVE_CHANNELS.find(([id]) => id === channel)![1];
  const full = channel === 'lightness' || channel === 'chroma' ? 100 : 255;
  const own = useBench((state) => state.ownCurves);
  const [question, setQuestion] = useState<Question | null>(null);
  const { bins, under } = useTones(layer.id, CURVE_DRIVERS[channel]);
  const light = useLight('below', CURVE_DRIVERS[channel]);

  const values = (next: CurvePoint[]): Partial<Curves> => ({ [channel]: next });
  const settle = (words: string, next: CurvePoint[]): void => commit(`${name} curve: ${words}`, values(next));
  const show = ([x, y]: CurvePoint): string => `${Math.round(x * full)} to ${Math.round(y * full)}`;
  /** A point moved between its neighbours. */
  const moved = (list: readonly CurvePoint[], index: number, x: number, y: number): CurvePoint[] =>
    list.map((point, i) =>
      i === index
        ? [clamp(x, i > 0 ? list[i - 1]![0] + CURVE_GAP : 0, i < list.length - 1 ? list[i + 1]![0] - CURVE_GAP : 1), clamp(y, 0, 1)]
        : point,
    );
  const without = (list: readonly CurvePoint[], index: number): CurvePoint[] =>
    list.length > 2 ? list.filter((_, i) => i !== index) : [...list];
  const remove = (index: number): void => {
    if (points.length <= 2) return;
    settle('point removed', without(points, index));
    setAt(Math.max(0, index - 1));
  };

  const { grab, track, keys, placeOf } = useHandleTrack<number>(svg, {
    begin(index) {
      setAt(index);
      held.current = { points: [...points], latest: null };
    },
    drag(index, { x, y, outside }) {
      const now = held.current;
      const whole = (v: number): number => Math.round(v * full) / full;
      now.latest = outside > OUT ? without(now.points, index) : moved(now.points, index, whole(x), whole(y));
      preview(values(now.latest));
    },
    drop: (index) => drop(index),
    // A point that came into being under the pointer stays.
    cancel: (why) => (why === 'still' && held.current.latest ? drop(chosen) : store.getState().cancelPreview()),
    step(index, right, up) {
      const next = moved(points, index, points[index]![0] + right / full, points[index]![1] + up / full);
      settle(show(next[index]!), next);
    },
  });
  const drop = (index: number): void => {
    const { points: before, latest } = held.current;
    if (latest!.length < before.length) settle('point removed', latest!);
    else settle(show(latest![index]!), latest!);
  };
  const downOnField = (event: PointerEvent): void => {
    if (event.button !== 0 || points.length >= 32) return;
    const { x } = placeOf(event);
    const input = clamp(Math.round(x * full) / full, 0, 1);
    if (points.some((point) => Math.abs(point[0] - input) < CURVE_GAP)) return;
    const next = [...points, [input, clamp(curveOf(points)(input), 0, 1)] as CurvePoint].sort((a, b) => a[0] - b[0]);
    const index = next.findIndex((point) => point[0] === input);
    grab(index)(event);
    held.current = { points: next, latest: next };
    preview(values(next));
  };
  const key = (index: number) => (event: KeyboardEvent) => {
    if (event.key !== 'Delete' && event.key !== 'Backspace') return keys(index)(event);
    event.preventDefault();
    event.stopPropagation();
    remove(index);
  };

  const begin = (key: string): void => {
    if (key === 'keep')
      return setQuestion({
        title: 'Keep the curve in this browser',
        label: 'Name',
        text: '',
        button: 'Keep it',
        then: (name) => store.getState().set({ ownCurves: { ...store.getState().ownCurves, [name]: points } }),
      });
    const [, what, kept] = /^(own|forget) (.*)$/.exec(key) ?? [];
    if (what === 'forget') {
      return store.getState().set({ ownCurves: Object.fromEntries(Object.entries(own).filter(([name]) => name !== kept)) });
    }
    const list = what === 'own' ? own[kept!]! : STARTS.find(([name]) => name === key)![1];
    settle(
      (kept ?? key).toLowerCase(),
      list.map(([x, y]) => [x, y]),
    );
    setAt(0);
  };

  const curve = curveOf(points);
  const path = Array.from({ length: 129 }, (_, i) => `${i ? 'L' : 'M'}${toX(i / 128).toFixed(1)} ${toY(curve(i / 128)).toFixed(1)}`).join(
    '',
  );
  const point = points[chosen]!;
  const typed = (axis: 0 | 1) => (v: number) => moved(points, chosen, axis === 0 ? v / full : point[0], axis === 1 ? v / full : point[1]);
  const unit = full === 100 ? ('%' as const) : ('' as const);
  return (
    <>
      <Choice label="Channel" value={channel} options={CURVE_CHANNELS} onChange={(id) => store.getState().set({ pull: id })} />
      <Field
        ref={svg}
        viewBox={`0 0 ${SIDE} ${HEIGHT}`}
        role="group"
        aria-label={`${name} curve`}
        {...together({ ...track, onPointerDown: downOnField }, light)}
      >
        <Hills bins={bins} width={SIDE} base={HEIGHT} height={HEIGHT * 0.8} />
        {[0.25, 0.5, 0.75].map((v) => (
          <path key={v} d={`M${toX(v)} 0V${HEIGHT}M0 ${toY(v)}H${SIDE}`} stroke="var(--line)" strokeWidth={0.7} />
        ))}
        <path d={`M0 ${HEIGHT}L${SIDE} 0`} stroke="var(--track)" strokeDasharray="3 3" />
        {under !== null && <ToneUnder x={toX(under)} top={toY(curve(under))} base={HEIGHT} />}
        <path d={path} fill="none" stroke="var(--ink)" strokeWidth={1.7} pointerEvents="none" />
        {points.map(([x, y], i) => (
          <circle
            key={i}
            className="point"
            cx={toX(x)}
            cy={toY(y)}
            r={4.5}
            tabIndex={0}
            role="slider"
            aria-label={`Point ${i + 1}`}
            aria-valuemin={0}
            aria-valuemax={full}
            aria-valuenow={Math.round(y * full)}
            aria-valuetext={show([x, y])}
            aria-current={i === chosen}
            onFocus={() => setAt(i)}
            onPointerDown={grab(i)}
            onContextMenu={(event) => {
              event.preventDefault();
              remove(i);
            }}
            onKeyDown={key(i)}
          />
        ))}
      </Field>
      {(['Input', 'Output'] as const).map((label, axis) => (
        <Slider
          key={label}
          label={label}
          value={point[axis as 0 | 1] * full}
          min={0}
          max={full}
          step={1}
          unit={unit}
          neutral={axis === 0 ? point[0] * full : point[0] * full}
          onPreview={(v) => preview(values(typed(axis as 0 | 1)(v)))}
          onCommit={(v) => {
            const next = typed(axis as 0 | 1)(v);
            settle(show(next[chosen]!), next);
          }}
        />
      ))}
      <Line>
        <MenuTrigger>
          <Button>Begin with…</Button>
          <Floating>
            <Menu onAction={(key) => begin(String(key))}>
              <MenuSection title="Curves to begin with">
                {STARTS.map(([name]) => (
                  <MenuItem key={name} id={name}>
                    {name}
                  </MenuItem>
                ))}
              </MenuSection>
              <MenuSection title="One’s own">
                {Object.keys(own).map((name) => (
                  <MenuItem key={`own ${name}`} id={`own ${name}`}>
                    {name}
                  </MenuItem>
                ))}
                <MenuItem id="keep">Keep this curve…</MenuItem>
                {Object.keys(own).map((name) => (
                  <MenuItem key={`forget ${name}`} id={`forget ${name}`}>
                    Forget “{name}”
                  </MenuItem>
                ))}
              </MenuSection>
            </Menu>
          </Floating>
        </MenuTrigger>
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
      <AskWords question={question} onDone={() => setQuestion(null)} />
    </>
  );
}
