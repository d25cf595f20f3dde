'use client';
import type { Colour } from '@umbo/core/colour';
import { Pipette } from 'lucide-react';
import { useRef, useState } from 'react';
import styled from 'styled-components';
import { IconButton } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Hint } from '@/ui/controls/Hint';
import { TextInput } from '@/ui/controls/TextField';
import { Slider } from '@/ui/controls/Slider';
import { useKept } from '@/ui/useKept';
import { cssOf, hexOf } from '@/ui/hexOf';
import { colourModels, type ColourModel } from './colourModels';
import { colourOfText } from './colourOfText';
import { ColourPicker } from './ColourPicker';
import { useBench, useBenchStore, useSpace } from '../state/context';
import { ToneHint } from './ToneHint';

const Head = styled.div`
  display: grid;
  grid-template-columns: 26px 74px 1fr auto;
  gap: 8px;
  align-items: center;
  margin: 4px 0;
  input {
    min-height: 26px;
    font: 400 11px/16px var(--mono);
    padding: 2px 6px;
  }
`;

/** Colours along a track, and how many of those chosen last are kept. */
const STOPS = 12;
const RECENT = 8;

const MODELS = colourModels.srgb.map(({ id, name }) => [id, name] as const);

interface Props {
  /** What the colour is of, for people who do not see it: such as "Fill colour". */
  label: string;
  colour: Colour;
  /** Whether a colour that is sampled on the photograph comes here; yes when left out. */
  sampled?: boolean;
  onPreview: (colour: Colour) => void;
  onCommit: (colour: Colour) => void;
}

/** A colour, changed by the numbers of a model of one's choice, typed, or sampled from the photograph. */
export function ColourFields({ label, colour, sampled = true, onPreview, onCommit }: Props) {
  const store = useBenchStore();
  const sampling = useBench((state) => state.tool === 'sample');
  const sample = useBench((state) => state.sample);
  const [modelId, setModelId] = useKept<ColourModel['id']>('colour-model', 'oklch');
  const space = useSpace();
  const models = colourModels[space.id];
  const model = models.find(({ id }) => id === modelId) ?? models[0]!;
  // A grey has no hue and black no saturation: the numbers that led to a colour stand until another one is there.
  const [held, setHeld] = useState<{ of: string; numbers: Colour } | null>(null);
  const [typed, setTyped] = useState<string | null>(null);
  const dropped = useRef(false);
  const key = `${modelId} ${colour.join()}`;
  const numbers = held?.of === key ? held.numbers : model.read(colour);
  const change = (axis: number, then: (colour: Colour) => void) => (value: number) => {
    const wanted = numbers.map((v, i) => (i === axis ? value : v)) as Colour;
    const next = model.write(wanted);
    setHeld({ of: `${modelId} ${next.join()}`, numbers: wanted });
    then(next);
  };
  const choose = (next: Colour): void => {
    onCommit(next);
    const { recentColours, set } = store.getState();
    set({ recentColours: [next, ...recentColours.filter((one) => one.join() !== next.join())].slice(0, RECENT) });
  };
  const enter = (): void => {
    const next = typed === null || dropped.current ? null : colourOfText(typed, space);
    dropped.current = false;
    if (next) choose(next);
    setTyped(null);
  };
  /** The colours that each slider leads to. */
  const tracks = model.axes.map(({ max }, axis) => {
    const stops = Array.from({ length: STOPS + 1 }, (_, k) =>
      model.write(numbers.map((v, i) => (i === axis ? (k / STOPS) * max : v)) as Colour),
    );
    return `linear-gradient(to right, ${stops.map((stop) => cssOf(stop, space)).join(', ')})`;
  });
  return (
    <div role="group" aria-label={label}>
      <Head>
        <ColourPicker label={label} colour={colour} onPreview={onPreview} onCommit={choose} />
        <TextInput
          aria-label={`${label}, hexadecimal`}
          value={typed ?? hexOf(colour, space)}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={enter}
          onKeyDown={(event) => {
            dropped.current = event.key === 'Escape';
            if (event.key === 'Enter' || event.key === 'Escape') event.currentTarget.blur();
            event.stopPropagation();
          }}
        />
        <Choice label="Model" value={model.id} options={MODELS} onChange={setModelId} />
        {sampled && (
          <Hint text="Sample from the photograph (V)">
            <IconButton
              aria-label={`Sample ${label.toLowerCase()} from the photograph`}
              aria-pressed={sampling}
              onPress={() => store.getState().set({ tool: sampling ? 'move' : 'sample' })}
            >
              <Pipette size={14} strokeWidth={1.5} />
            </IconButton>
          </Hint>
        )}
      </Head>
      {model.axes.map(({ label: name, max, step, unit }, i) => (
        <Slider
          key={`${model.id} ${name}`}
          label={name}
          value={numbers[i]!}
          min={0}
          max={max}
          step={step}
          neutral={0}
          unit={unit}
          scale={tracks[i]}
          onPreview={change(i, onPreview)}
          onCommit={change(i, choose)}
        />
      ))}
      {sample?.join() === colour.join() && <ToneHint colour={colour} />}
    </div>
  );
}
