'use client';
import type { CurvePoint } from '@umbo/core/adjust';
import { useState } from 'react';
import { MenuTrigger } from 'react-aria-components';
import { AskWords, type Question } from '@/ui/AskWords';
import { Button } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { Menu, MenuItem, MenuSection } from '@/ui/controls/Menu';
import { useBench, useBenchStore } from '../../state/context';

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
/** Curves to begin with: those above, and those that are kept in this browser. */
export function CurveStarts({ points, onBegin }: { points: readonly CurvePoint[]; onBegin: (name: string, points: CurvePoint[]) => void }) {
  const store = useBenchStore();
  const own = useBench((state) => state.ownCurves);
  const [question, setQuestion] = useState<Question | null>(null);
  const begin = (name: string, list: readonly (readonly [number, number])[]): void =>
    onBegin(
      name.toLowerCase(),
      list.map(([x, y]) => [x, y]),
    );
  const keep = (): void =>
    setQuestion({
      title: 'Keep the curve in this browser',
      label: 'Name',
      text: '',
      button: 'Keep it',
      then: (name) => store.getState().set({ ownCurves: { ...store.getState().ownCurves, [name]: [...points] } }),
    });
  const forget = (gone: string): void =>
    store.getState().set({ ownCurves: Object.fromEntries(Object.entries(own).filter(([name]) => name !== gone)) });
  return (
    <>
      <MenuTrigger>
        <Button>Begin with…</Button>
        <Floating>
          <Menu>
            <MenuSection title="Curves to begin with">
              {STARTS.map(([name, list]) => (
                <MenuItem key={name} onAction={() => begin(name, list)}>
                  {name}
                </MenuItem>
              ))}
            </MenuSection>
            <MenuSection title="One’s own">
              {Object.entries(own).map(([name, list]) => (
                <MenuItem key={`own ${name}`} onAction={() => begin(name, list)}>
                  {name}
                </MenuItem>
              ))}
              <MenuItem onAction={keep}>Keep this curve…</MenuItem>
              {Object.keys(own).map((name) => (
                <MenuItem key={`forget ${name}`} onAction={() => forget(name)}>
                  Forget “{name}”
                </MenuItem>
              ))}
            </MenuSection>
          </Menu>
        </Floating>
      </MenuTrigger>
      <AskWords question={question} onDone={() => setQuestion(null)} />
    </>
  );
}
