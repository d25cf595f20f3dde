'use client';
import { gradientRamp, type Colour, type GradientStop } from '@umbo/core/colour';
import { Plus, Trash2 } from 'lucide-react';
import styled from 'styled-components';
import { IconButton } from '@/ui/controls/Button';
import { Hint } from '@/ui/controls/Hint';
import { Slider } from '@/ui/controls/Slider';
import { ColourFields } from '../colour/ColourFields';
import { useBench, useBenchStore, useSpace } from '../state/context';
import { GradientStops } from './GradientStops';
import { ShareSlider } from '../desk/ShareSlider';
import type { Recipe } from '@umbo/core/document';

const Line = styled.div`
  display: flex;
  gap: 6px;
  justify-content: flex-end;
  margin-bottom: 2px;
`;

interface Props {
  stops: readonly GradientStop[];
  /** The layer's name, for the history. */
  on: string;
  /** A change of the stops as a change of the edit. */
  recipe: (change: (stops: GradientStop[]) => void) => Recipe;
}

/** The stops of a gradient on their ramp, and all of the one in work. */
export function StopsEditor({ stops, on, recipe }: Props) {
  const store = useBenchStore();
  const space = useSpace();
  const chosen = useBench((state) => state.stop);
  const at = Math.min(chosen, stops.length - 1);
  const stop = stops[at]!;
  const setStop = (values: Partial<GradientStop>): Recipe => recipe((draft) => void Object.assign(draft[at]!, values));
  const setColour = (colour: Colour): Recipe => recipe((draft) => void Object.assign(draft[at]!.colour, colour));
  const commit = (words: string, change: Recipe): boolean => store.getState().commit(`${words} on ${on}`, change);
  const add = (): void => {
    const next = stop.at < 1 ? Math.min(1, stop.at + 0.15) : Math.max(0, stop.at - 0.15);
    const ramp = gradientRamp(space, stops);
    const k = Math.round(next * (ramp.r.length - 1));
    const colour = [ramp.r[k]!, ramp.g[k]!, ramp.b[k]!].map((v) => Math.max(0, Math.min(1, v))) as Colour;
    commit(
      'New stop',
      recipe((draft) => void draft.push({ at: next, colour: [...colour], opacity: ramp.a[k]! })),
    );
    store.getState().set({ stop: stops.length });
  };
  return (
    <>
      <GradientStops
        stops={stops}
        chosen={at}
        choose={(next) => store.getState().set({ stop: next })}
        onPreview={(place) => store.getState().preview(setStop({ at: place }))}
        onCommit={(place) => commit('Stop moved', setStop({ at: place }))}
        onCancel={() => store.getState().cancelPreview()}
      />
      <Line>
        <Hint text="A stop beside this one">
          <IconButton aria-label="New stop" isDisabled={stops.length >= 16} onPress={add}>
            <Plus size={14} strokeWidth={1.5} />
          </IconButton>
        </Hint>
        <Hint text="Remove the stop">
          <IconButton
            aria-label="Remove the stop"
            isDisabled={stops.length <= 2}
            onPress={() => {
              commit(
                'Stop removed',
                recipe((draft) => void draft.splice(at, 1)),
              );
              store.getState().set({ stop: 0 });
            }}
          >
            <Trash2 size={14} strokeWidth={1.5} />
          </IconButton>
        </Hint>
      </Line>
      <Slider
        label="Stop at"
        value={stop.at * 100}
        min={0}
        max={100}
        step={1}
        neutral={0}
        unit="%"
        onPreview={(v) => store.getState().preview(setStop({ at: v / 100 }))}
        onCommit={(v) => commit(`Stop at ${Math.round(v)} %`, setStop({ at: v / 100 }))}
      />
      <ShareSlider
        label="Stop opacity"
        value={stop.opacity}
        words={(percent) => `Stop opacity ${percent} on ${on}`}
        recipe={(opacity) => setStop({ opacity })}
      />
      <ColourFields
        label="Stop colour"
        colour={stop.colour}
        onPreview={(colour) => store.getState().preview(setColour(colour))}
        onCommit={(colour) => commit('Stop colour', setColour(colour))}
      />
    </>
  );
}
