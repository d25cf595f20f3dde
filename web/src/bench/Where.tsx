'use client';
import { memo } from 'react';
import { useShallow } from 'zustand/react/shallow';
import {
  eachLayer,
  findLayer,
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
import { Copy, Link2, Plus, Trash2 } from 'lucide-react';
import styled from 'styled-components';
import { Button, Choice, Floating, Hint, IconButton, Menu, MenuItem, MenuSection, Switch } from '@/ui/controls';
import { Slider } from '@/ui/Slider';
import { addPart, deletePart, onPart, shareMask, unlinkMask } from './actions';
import { BrushSliders } from './BrushSliders';
import { sameFor, useBench, useBenchStore } from './context';
import { HueRangeEditor } from './HueRangeEditor';
import { Section } from './Section';
import { Settings } from './Settings';
import { ShareSlider } from './ShareSlider';
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
  const { where } = layer;
  if (where.link !== undefined) return <LinkedMask layer={layer} to={where.link} />;
  const part = where.parts.find(({ id }) => id === partId) ?? null;
  const feather = where.refine.find(({ kind }) => kind === 'feather')?.radius ?? 0;
  const setFeather = (radius: number) =>
    onLayer(layer.id, ({ where: draft }) => {
      const step = draft.refine.find(({ kind }) => kind === 'feather');
      if (step) step.radius = radius;
      else draft.refine.push({ kind: 'feather', radius });
    });
  const add = (kind: MaskPart['kind']): void => {
    const state = store.getState();
    addPart(state, kind, kind === 'hueRange' ? strongestFreeHue(state.census, where.parts) : {});
    if (kind === 'brush') state.set({ tool: 'paint' });
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
        <FromOther layer={layer} />
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
      <MaskWhole layer={layer} />
    </Section>
  );
}, sameFor('where'));

/** What holds for the mask as a whole, also for one that is a link. */
function MaskWhole({ layer }: { layer: Layer }) {
  const store = useBenchStore();
  const maskView = useBench((state) => state.passingView ?? state.look.maskView);
  const { where } = layer;
  return (
    <>
      <ShareSlider
        label="Strength"
        value={where.strength}
        words={(percent) => `Mask strength ${percent} on ${layer.name}`}
        recipe={(share) => onLayer(layer.id, ({ where: draft }) => void (draft.strength = share))}
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
    </>
  );
}

function LinkedMask({ layer, to }: { layer: Layer; to: string }) {
  const store = useBenchStore();
  const giver = useBench((state) => findLayer(state.document, to)?.name ?? 'a layer that is gone');
  return (
    <Section title="Where" note={`the mask of “${giver}”`}>
      <Line>
        <Link2 size={14} strokeWidth={1.5} aria-hidden />
        <span style={{ flex: 1 }}>Linked: what is changed there acts here.</span>
      </Line>
      <Line>
        <Button onPress={() => store.getState().select(to)}>Go there</Button>
        <Button onPress={() => unlinkMask(store.getState(), layer.id)}>Make it this layer’s own</Button>
      </Line>
      <MaskWhole layer={layer} />
    </Section>
  );
}

/** Offers the masks of other layers, to copy or to link to. */
function FromOther({ layer }: { layer: Layer }) {
  const store = useBenchStore();
  const names = useBench(
    useShallow((state) =>
      Array.from(eachLayer(state.committed.layers)).flatMap(({ id, name, where }) =>
        id !== layer.id && (where.parts.length > 0 || where.link !== undefined) ? [`${id} ${name}`] : [],
      ),
    ),
  );
  if (names.length === 0) return null;
  const items = (as: 'copy' | 'link') =>
    names.map((text) => {
      const [id, name] = text.split(/ (.*)/) as [string, string];
      return (
        <MenuItem key={id} id={`${as} ${id}`}>
          {name}
        </MenuItem>
      );
    });
  return (
    <MenuTrigger>
      <AddButton>
        <Copy size={12} aria-hidden /> mask of…
      </AddButton>
      <Floating>
        <Menu
          onAction={(key) => {
            const [as, id] = String(key).split(' ') as ['copy' | 'link', string];
            shareMask(store.getState(), id, layer.id, as);
          }}
        >
          <MenuSection title="Copy the mask of">{items('copy')}</MenuSection>
          <MenuSection title="Link to the mask of">{items('link')}</MenuSection>
        </Menu>
      </Floating>
    </MenuTrigger>
  );
}

function PartEditor({ layer, part }: { layer: Layer; part: MaskPart }) {
  const store = useBenchStore();
  const kind = maskPartKind(part.kind);
  const change = (values: object) => onPart(layer.id, part.id, (draft) => void Object.assign(draft, values));
  const commit = (words: string, values: object): boolean => store.getState().commit(`${words} on ${layer.name}`, change(values));
  return (
    <PartBox>
      {part.kind === 'hueRange' && <HueRange part={part} change={change} commit={commit} />}
      {part.kind === 'brush' && <BrushSliders />}
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
