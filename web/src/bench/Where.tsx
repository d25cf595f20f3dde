'use client';
import { memo } from 'react';
import {
  hueMembership,
  maskPartKind,
  maskPartKinds,
  onLayer,
  type BrushPart,
  type Combine,
  type HueRangePart,
  type Layer,
  type MaskPart,
} from '@umbo/core';
import { MenuTrigger } from 'react-aria-components';
import { Plus, Trash2 } from 'lucide-react';
import styled from 'styled-components';
import { Button, Choice, Floating, Hint, IconButton, Menu, MenuItem, Switch } from '@/ui/controls';
import { Slider } from '@/ui/Slider';
import { addPart, deletePart, onPart } from './actions';
import { sameFor, useBench, useBenchStore } from './context';
import { HueRangeEditor } from './HueRangeEditor';
import { Section } from './Section';
import { Settings } from './Settings';
import type { BenchState } from './store';
import type { MaskView } from '../workers/protocol';

const Chips = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
  align-items: center;
  margin-bottom: 6px;
`;
const Chip = styled.button`
  border: 1px solid var(--line);
  background: var(--raised);
  border-radius: 12px;
  padding: 2px 10px;
  min-height: 24px;
  cursor: default;
  &:hover {
    border-color: var(--edge);
  }
  &[aria-pressed='true'] {
    background: var(--ink);
    border-color: var(--ink);
    color: var(--on-ink);
  }
  &[data-off='true'] {
    text-decoration: line-through;
  }
`;
const Sign = styled.span`
  color: var(--ink2);
  font-weight: 650;
`;
const PartBox = styled.div`
  margin: 0 0 6px;
`;
const Line = styled.div`
  display: flex;
  align-items: center;
  gap: 14px;
  min-height: 28px;
  margin: 2px 0 4px;
`;
const AddButton = styled(Button)`
  border-radius: 12px;
  min-height: 24px;
  padding: 2px 10px;
`;

const SIGNS: Record<Combine, string> = { add: '+', cut: '−', common: '∩' };
const COMBINE = [
  ['add', 'Add'],
  ['cut', 'Cut'],
  ['common', 'Keep common'],
] as const;
const VIEWS: readonly (readonly [MaskView, string])[] = [
  ['photo', 'Photo'],
  ['contours', 'Contours'],
  ['spotlight', 'Spotlight'],
  ['plain', 'Plain'],
];

/** A new hue range begins at the photograph's strongest hue that no range of this layer catches yet. */
function strongestFreeHue(census: Float32Array | null, parts: readonly MaskPart[]): object {
  if (!census) return {};
  const ranges = parts.filter((part): part is HueRangePart => part.kind === 'hueRange');
  let best = 0;
  let amount = -1;
  for (const [i, share] of census.entries()) {
    const hue = (i + 0.5) * (360 / census.length);
    if (share > amount && ranges.every((range) => hueMembership(range, hue) === 0)) {
      amount = share;
      best = hue;
    }
  }
  return { from: (best - 35 + 360) % 360 };
}

/** Where a layer acts. */
export const Where = memo(function Where({ layer }: { layer: Layer }) {
  const store = useBenchStore();
  const partId = useBench((state) => state.partId);
  const maskView = useBench((state) => state.passingView ?? state.look.maskView);
  const { where } = layer;
  const part = where.parts.find(({ id }) => id === partId) ?? null;
  const feather = where.refine.find(({ kind }) => kind === 'feather')?.radius ?? 0;
  const setFeather = (radius: number) =>
    onLayer(layer.id, ({ where: draft }) => {
      const step = draft.refine.find(({ kind }) => kind === 'feather');
      if (step) step.radius = radius;
      else draft.refine.push({ kind: 'feather', radius });
    });
  const setStrength = (percent: number) => onLayer(layer.id, ({ where: draft }) => void (draft.strength = percent / 100));
  const add = (kind: MaskPart['kind']): void => {
    const state = store.getState();
    addPart(state, kind, kind === 'hueRange' ? strongestFreeHue(state.census, where.parts) : {});
    if (kind === 'brush') state.setTool('paint');
  };

  return (
    <Section title="Where" note={where.parts.length === 0 ? 'the whole photograph' : `mask of “${layer.name}”`}>
      <Chips>
        {where.parts.map((item, i) => (
          <span key={item.id} style={{ display: 'contents' }}>
            {(i > 0 || item.combine !== 'add') && <Sign aria-label={item.combine}>{SIGNS[item.combine]}</Sign>}
            <Chip aria-pressed={item.id === partId} data-off={!item.on} onClick={() => store.getState().select(layer.id, item.id)}>
              {item.invert && 'not '}
              {maskPartKind(item.kind).summary(item)}
            </Chip>
          </span>
        ))}
        <MenuTrigger>
          <AddButton>
            <Plus size={13} aria-hidden /> part
          </AddButton>
          <Floating>
            <Menu onAction={(kind) => add(kind as MaskPart['kind'])}>
              {maskPartKinds.map(({ kind, name }) => (
                <MenuItem key={kind} id={kind}>
                  {name}
                </MenuItem>
              ))}
            </Menu>
          </Floating>
        </MenuTrigger>
      </Chips>
      {part && <PartEditor layer={layer} part={part} />}
      <Slider
        label="Feather"
        value={feather}
        min={0}
        max={300}
        step={1}
        neutral={0}
        unit="px"
        onPreview={(v) => store.getState().preview(setFeather(v))}
        onCommit={(v) => store.getState().commit(`Feather ${Number(v.toFixed(1))} px on ${layer.name}`, setFeather(v))}
      />
      <Slider
        label="Strength"
        value={where.strength * 100}
        min={0}
        max={100}
        step={1}
        neutral={100}
        unit="%"
        onPreview={(v) => store.getState().preview(setStrength(v))}
        onCommit={(v) => store.getState().commit(`Mask strength ${Math.round(v)} % on ${layer.name}`, setStrength(v))}
      />
      <Line>
        <span style={{ width: 72 }} />
        <Switch
          value={where.invert}
          onChange={(invert) =>
            store.getState().commit(
              `Mask ${invert ? 'inverted' : 'not inverted'} on ${layer.name}`,
              onLayer(layer.id, ({ where: draft }) => void (draft.invert = invert)),
            )
          }
        >
          Invert the mask
        </Switch>
      </Line>
      <Choice
        label="How the mask is seen"
        value={maskView}
        options={VIEWS}
        onChange={(view) => store.getState().setLook({ maskView: view })}
      />
    </Section>
  );
}, sameFor('where'));

function PartEditor({ layer, part }: { layer: Layer; part: MaskPart }) {
  const store = useBenchStore();
  const kind = maskPartKind(part.kind);
  const change = (values: object) => onPart(layer.id, part.id, (draft) => void Object.assign(draft, values));
  const commit = (words: string, values: object): void => store.getState().commit(`${words} on ${layer.name}`, change(values));
  return (
    <PartBox>
      {part.kind === 'hueRange' && <HueRange part={part} change={change} commit={commit} />}
      {part.kind === 'brush' && <Brush />}
      <Settings
        settings={part}
        defaults={kind.create('new', 'add')}
        schema={kind.schema}
        controls={kind.controls}
        preview={(values) => store.getState().preview(change(values))}
        commit={commit}
      />
      <Choice
        label="How the part joins"
        value={part.combine}
        options={COMBINE}
        onChange={(combine) => commit(`${kind.name}: ${combine === 'common' ? 'keep common' : combine}`, { combine })}
      />
      <Line>
        <Switch value={part.invert} onChange={(invert) => commit(`${kind.name} ${invert ? 'inverted' : 'not inverted'}`, { invert })}>
          Invert this part
        </Switch>
        <Switch value={part.on} onChange={(on) => commit(`${kind.name} ${on ? 'on' : 'off'}`, { on })}>
          On
        </Switch>
        <span style={{ flex: 1 }} />
        {part.kind === 'brush' && (
          <Button
            isDisabled={part.strokes.length === 0}
            onPress={() =>
              store.getState().commit(
                `Clear the brush on ${layer.name}`,
                onPart<BrushPart>(layer.id, part.id, (draft) => void (draft.strokes = [])),
              )
            }
          >
            Clear
          </Button>
        )}
        <Hint text="Remove this part">
          <IconButton aria-label={`Remove ${kind.name.toLowerCase()}`} onPress={() => deletePart(store.getState(), part.id)}>
            <Trash2 size={14} strokeWidth={1.5} />
          </IconButton>
        </Hint>
      </Line>
    </PartBox>
  );
}

function HueRange({
  part,
  change,
  commit,
}: {
  part: HueRangePart;
  change: (values: object) => Parameters<BenchState['preview']>[0];
  commit: (words: string, values: object) => void;
}) {
  const store = useBenchStore();
  const census = useBench((state) => state.census);
  return (
    <HueRangeEditor
      part={part}
      census={census}
      onPreview={(range) => store.getState().preview(change(range))}
      onCommit={(range) => commit(maskPartKind('hueRange').summary({ ...part, ...range }), range)}
      onMoving={(moving) => store.getState().setPassingView(moving ? 'spotlight' : null)}
    />
  );
}

function Brush() {
  const store = useBenchStore();
  const brush = useBench((state) => state.brush);
  const percent = (key: 'hardness' | 'flow' | 'opacity', label: string, neutral: number) => {
    const set = (v: number): void => store.getState().setBrush({ [key]: v / 100 });
    return (
      <Slider label={label} value={brush[key] * 100} min={0} max={100} step={1} neutral={neutral} unit="%" onPreview={set} onCommit={set} />
    );
  };
  const setSize = (size: number): void => store.getState().setBrush({ size });
  return (
    <>
      <Slider
        label="Brush size"
        value={brush.size}
        min={1}
        max={1000}
        step={1}
        neutral={100}
        unit="px"
        onPreview={setSize}
        onCommit={setSize}
      />
      {percent('hardness', 'Hardness', 30)}
      {percent('flow', 'Flow', 20)}
      {percent('opacity', 'Opacity', 100)}
    </>
  );
}
