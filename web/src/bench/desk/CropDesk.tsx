'use client';
import type { Rect, Size } from '@umbo/core/base';
import type { Level } from '@umbo/core/measure';
import { ArrowLeftRight, FlipHorizontal2, FlipVertical2, RotateCcw, RotateCw } from 'lucide-react';
import { useEffect, useState, type ReactNode } from 'react';
import styled from 'styled-components';
import { Button, IconButton } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Hint } from '@/ui/controls/Hint';
import { LabelledLine } from '@/ui/controls/LabelledLine';
import { NumberText } from '@/ui/controls/NumberText';
import { numberRange } from '@/ui/controls/numberRange';
import { Select } from '@/ui/controls/Select';
import { Slider } from '@/ui/controls/Slider';
import { Switch } from '@/ui/controls/Switch';
import { request } from '@/ui/request';
import { isWithin, MOST_PIXELS } from '@umbo/core/geometry';
import { ColourFields } from '../colour/ColourFields';
import {
  cropIn,
  cropToRatio,
  flip,
  geometryOf,
  outlineIn,
  quarterTurn,
  RATIOS,
  ratioOf,
  setCrop,
  setLine,
  setOutside,
  sizeOfOther,
} from '../state/cropping';
import type { Cropping } from '../state/benchState';
import { useBench, useBenchStore } from '../state/context';
import { Section } from './Section';

const Body = styled.div`
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  scrollbar-width: thin;
`;
const Numbers = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 2px 14px;
  margin-top: 6px;
  label {
    display: flex;
    align-items: center;
    justify-content: space-between;
    color: var(--ink2);
  }
`;
const Row = styled.div`
  display: flex;
  align-items: center;
  gap: 4px;
  margin-top: 6px;
  > :first-child {
    flex: 1;
  }
`;
const Foot = styled.div`
  display: flex;
  justify-content: flex-end;
  gap: 6px;
  padding: 8px 14px;
  border-top: 1px solid var(--line);
`;

const SIDE = numberRange({ min: 16, max: 60_000, step: 1, unit: 'px' });
const PLACE = numberRange({ min: -60_000, max: 60_000, step: 1, unit: 'px' });
const TYPED = numberRange({ min: 0.1, max: 1000, step: 0.1 });

/** How the picture is cut from the photograph, in numbers: beside the frame on the stage. */
export function CropDesk() {
  const store = useBenchStore();
  const isCut = useBench((state) => state.committed.geometry !== undefined);
  // All of the photograph is seen to begin with, by itself.
  useEffect(() => {
    store.getState().setLook({ compare: 'after' });
    store.getState().fitView();
  }, [store]);
  return (
    <>
      <Body>
        <FrameSection />
        <TurnSection />
        <PerspectiveSection />
        <CanvasSection />
      </Body>
      <Foot>
        <Button
          isDisabled={!isCut}
          onPress={() => store.getState().commit('The photograph as it was', (draft) => void delete draft.geometry)}
        >
          As it was
        </Button>
        <Button $primary onPress={() => store.getState().set({ tool: 'move' })}>
          Done
        </Button>
      </Foot>
    </>
  );
}

function FrameSection() {
  const store = useBenchStore();
  const document = useBench((state) => state.document);
  const cropping = useBench((state) => state.cropping);
  const siblings = useBench((state) => state.shoot.photographs);
  const ownId = useBench((state) => state.photograph.id);
  const crop = cropIn(document);
  const set = (values: Partial<Cropping>): void => store.getState().set({ cropping: { ...store.getState().cropping, ...values } });
  const toRatio = (words: string): void => {
    const ratio = ratioOf(store.getState());
    if (ratio) store.getState().commit(words, cropToRatio(ratio));
  };
  const choose = (ratio: string): void => {
    const other = /^other (\d+)$/.exec(ratio);
    if (!other) {
      set({ ratio });
      return toRatio(`Crop to ${nameOf(ratio)}`);
    }
    const name = siblings.find(({ id }) => id === Number(other[1]))?.name ?? 'another photograph';
    sizeOfOther((address) => request('GET', address), Number(other[1])).then(
      (typed: Size) => {
        set({ ratio, typed });
        toRatio(`Crop as ${name}`);
      },
      (error: Error) => store.getState().set({ notice: `The ratio of ${name} could not be read: ${error.message}` }),
    );
  };
  const options = [
    ['free', 'Free'],
    ['photograph', 'As the photograph'],
    ...Object.keys(RATIOS).map((name) => [name, name] as const),
    ['typed', 'Typed'],
    ...siblings.filter(({ id }) => id !== ownId).map(({ id, name }) => [`other ${id}`, `As ${name}`] as const),
  ] as const;
  const swap = (): void => {
    const { width, height } = cropIn(store.getState().committed);
    const { typed } = store.getState().cropping;
    set({ typed: { width: typed.height, height: typed.width } });
    store.getState().commit('Crop the other way round', cropToRatio({ width: height, height: width }));
  };
  return (
    <Section title="Crop" note={`${crop.width} × ${crop.height}`}>
      <Row>
        <Select label="Ratio" value={cropping.ratio} options={options} onChange={choose} />
        <Hint text="The other way round">
          <IconButton aria-label="The other way round" onPress={swap}>
            <ArrowLeftRight size={15} strokeWidth={1.5} />
          </IconButton>
        </Hint>
      </Row>
      {cropping.ratio === 'typed' && (
        <Numbers role="group" aria-label="Typed ratio">
          {(['width', 'height'] as const).map((side) => (
            <label key={side}>
              {side === 'width' ? 'Across' : 'Down'}
              <NumberText
                name={side === 'width' ? 'Across' : 'Down'}
                value={cropping.typed[side]}
                range={TYPED}
                width={70}
                onCommit={(value) => {
                  set({ typed: { ...store.getState().cropping.typed, [side]: value } });
                  toRatio('Crop to a typed ratio');
                }}
              />
            </label>
          ))}
        </Numbers>
      )}
      <CropNumbers />
      <LabelledLine style={{ marginTop: 6 }}>
        Lines
        <Choice
          label="Lines"
          value={cropping.lines}
          options={[
            ['thirds', 'Thirds'],
            ['diagonals', 'Diagonals'],
            ['none', 'None'],
          ]}
          onChange={(lines) => set({ lines })}
        />
      </LabelledLine>
    </Section>
  );
}

/** The crop as it is typed. Numbers are taken as they are: what they ask for beyond the photograph is canvas. */
function CropNumbers() {
  const store = useBenchStore();
  const crop = cropIn(useBench((state) => state.document));
  const commit = (values: Partial<Rect>): void => {
    const next = { ...cropIn(store.getState().committed), ...values };
    if (next.width * next.height > MOST_PIXELS)
      return store.getState().set({ notice: `A picture has at most ${MOST_PIXELS / 1e6} megapixels.` });
    const beyond = !isWithin(outlineIn(store.getState().committed), next);
    if (beyond) store.getState().set({ cropping: { ...store.getState().cropping, beyond: true } });
    store.getState().commit(`Crop to ${next.width} × ${next.height}`, setCrop(next));
  };
  const sized = (side: 'width' | 'height', value: number): void => {
    const ratio = ratioOf(store.getState());
    const other = side === 'width' ? 'height' : 'width';
    commit({ [side]: value, ...(ratio && { [other]: Math.max(1, Math.round((value * ratio[other]) / ratio[side])) }) });
  };
  const number = (label: string, value: number, range: typeof SIDE, onCommit: (value: number) => void): ReactNode => (
    <label>
      {label}
      <NumberText name={label} value={value} range={range} width={70} onCommit={onCommit} />
    </label>
  );
  return (
    <Numbers role="group" aria-label="Crop in numbers">
      {number('Width', crop.width, SIDE, (value) => sized('width', value))}
      {number('Height', crop.height, SIDE, (value) => sized('height', value))}
      {number('From the left', crop.x, PLACE, (x) => commit({ x }))}
      {number('From the top', crop.y, PLACE, (y) => commit({ y }))}
    </Numbers>
  );
}

const nameOf = (ratio: string): string => (ratio === 'photograph' ? 'the photograph’s ratio' : ratio);

function TurnSection() {
  const store = useBenchStore();
  const angle = useBench((state) => geometryOf(state.document).angle);
  const [finding, setFinding] = useState(false);
  const { commit, preview } = store.getState();
  const levelItself = async (): Promise<void> => {
    setFinding(true);
    try {
      const found: Level | null = await store.getState().measure({ kind: 'level', settings: {} }, null, { of: 'photograph' });
      if (!found) store.getState().set({ notice: 'No lines stand out by which this photograph could be levelled.' });
      else if (!commit(`Level by itself: ${found.angle}°`, setLine({ angle: found.angle })))
        store.getState().set({ notice: 'The photograph is level as it is.' });
    } catch (error) {
      store.getState().set({ notice: `The level was not found: ${(error as Error).message}` });
    } finally {
      setFinding(false);
    }
  };
  const turns = [
    ['A quarter turn to the left', RotateCcw, () => quarterTurn(-1)],
    ['A quarter turn to the right', RotateCw, () => quarterTurn(1)],
    ['Exchange left and right', FlipHorizontal2, () => flip('across')],
    ['Exchange top and bottom', FlipVertical2, () => flip('down')],
  ] as const;
  return (
    <Section title="Turn">
      <Slider
        label="Straighten"
        value={angle}
        min={-45}
        max={45}
        usual={[-15, 15]}
        step={0.1}
        unit="°"
        signed
        neutral={0}
        onPreview={(value) => preview(setLine({ angle: value }))}
        onCommit={(value) => commit(`Straighten by ${value}°`, setLine({ angle: value }))}
      />
      <Row>
        <span>
          <Button isDisabled={finding} onPress={() => void levelItself()}>
            Level by itself
          </Button>
        </span>
        {turns.map(([name, Icon, recipe]) => (
          <Hint key={name} text={name}>
            <IconButton aria-label={name} onPress={() => commit(name, recipe())}>
              <Icon size={15} strokeWidth={1.5} />
            </IconButton>
          </Hint>
        ))}
      </Row>
    </Section>
  );
}

const PERSPECTIVE = [
  ['vertical', 'Vertical'],
  ['horizontal', 'Horizontal'],
  ['skew', 'Skew'],
  ['stretch', 'Stretch'],
] as const;

function PerspectiveSection() {
  const store = useBenchStore();
  const geometry = useBench((state) => geometryOf(state.document));
  const { commit, preview } = store.getState();
  return (
    <Section title="Perspective">
      {PERSPECTIVE.map(([key, label]) => (
        <Slider
          key={key}
          label={label}
          value={geometry[key]}
          min={-100}
          max={100}
          step={1}
          signed
          neutral={0}
          onPreview={(value) => preview(setLine({ [key]: value }))}
          onCommit={(value) => commit(`${label} ${value}`, setLine({ [key]: value }))}
        />
      ))}
    </Section>
  );
}

function CanvasSection() {
  const store = useBenchStore();
  const document = useBench((state) => state.document);
  const beyond = useBench((state) => state.cropping.beyond);
  const { outside } = geometryOf(document);
  const reaches = !isWithin(outlineIn(document), cropIn(document));
  const { commit, preview } = store.getState();
  const set = (on: boolean): void => store.getState().set({ cropping: { ...store.getState().cropping, beyond: on } });
  return (
    <Section title="Canvas" note={reaches ? 'larger than the photograph' : ''}>
      <Switch value={beyond || reaches} onChange={set}>
        The frame may reach beyond the photograph
      </Switch>
      {(beyond || reaches) && (
        <>
          <ColourFields
            label="Canvas colour"
            colour={outside.colour}
            onPreview={(colour) => preview(setOutside({ colour: [...colour] }))}
            onCommit={(colour) => commit('Canvas colour', setOutside({ colour: [...colour] }))}
          />
          <Slider
            label="Edge fades"
            value={outside.fade}
            min={0}
            max={60_000}
            usual={[0, 1000]}
            step={1}
            unit="px"
            neutral={0}
            onPreview={(fade) => preview(setOutside({ fade }))}
            onCommit={(fade) => commit(`Edge fades over ${fade} px`, setOutside({ fade }))}
          />
        </>
      )}
    </Section>
  );
}
