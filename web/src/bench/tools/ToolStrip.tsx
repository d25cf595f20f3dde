'use client';
import { contentKind, findMaskOwner, SPOT_SIDES, type Spot } from '@umbo/core/document';
import { findPart, maskPartKind, partsAt, type Combine, type MaskPart } from '@umbo/core/mask';
import { toneOf } from '@umbo/core/measure';
import type { ReactNode } from 'react';
import styled from 'styled-components';
import { useShallow } from 'zustand/react/shallow';
import { Choice } from '@/ui/controls/Choice';
import { Num } from '@/ui/controls/Num';
import { Scrub } from '@/ui/controls/Scrub';
import { Select } from '@/ui/controls/Select';
import { cssOf, hexOf } from '@/ui/hexOf';
import { partName } from '../state/masks';
import type { BenchState, Tool } from '../state/benchState';
import { useBench, useBenchStore, useLayer, useMaskOwner, useSpace } from '../state/context';
import { SAMPLE_SIZES } from '../state/samples';
import { strokeMeets, strokesAreSeeds, usualJoin } from '../state/strokes';
import { contentEditor } from '../what/contentEditors';

const Strip = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: center;
  gap: 2px 10px;
  min-height: 30px;
  max-width: 100%;
  padding: 1px 10px;
  background: var(--panel);
  color: var(--ink);
  border: 1px solid var(--edge);
  border-radius: 4px;
  white-space: nowrap;
  i {
    display: inline-block;
    width: 14px;
    height: 14px;
    margin-right: 6px;
    vertical-align: -2px;
    border: 1px solid var(--edge);
    border-radius: 2px;
  }
  button {
    min-height: 24px;
  }
`;
const Joined = styled.div`
  max-width: 190px;
  min-width: 0;
`;

/** How the tool in hand is set, and what it will do. */
export function ToolStrip({ tool }: { tool: Tool }) {
  const settings = settingsOf(tool);
  return (
    settings && (
      <Strip role="group" aria-label="Tool settings">
        {settings}
      </Strip>
    )
  );
}

function settingsOf(tool: Tool): ReactNode {
  switch (tool) {
    case 'move':
      return null;
    case 'crop':
      return <CropStrip />;
    case 'paint':
    case 'erase':
      return <Brushing erase={tool === 'erase'} />;
    case 'sample':
      return <Sampling />;
    case 'read':
      return <ReadSettings />;
    case 'pull':
      return <Pulling />;
    case 'catch':
    case 'leave':
      return <Taking leaveOut={tool === 'leave'} />;
    case 'outline':
      return (
        <>
          <span>Draw around, or corner by corner</span>
          <DrawnJoins />
        </>
      );
    case 'region':
      return <span>Drag the part in work, with Ctrl all of them; Shift scales, Alt copies</span>;
    default:
      return (
        <>
          <span>Drag over the photograph; Shift keeps it even</span>
          <DrawnJoins />
        </>
      );
  }
}

function CropStrip() {
  const store = useBenchStore();
  const cropping = useBench((state) => state.cropping);
  const words = {
    frame: 'Drag the frame or its sides; beside it, to turn',
    line: 'Drag along what is to be level or upright',
    corners: 'Put the corners on what is to be a rectangle',
  };
  return (
    <>
      <Choice
        label="What a drag does"
        value={cropping.hand}
        options={[
          ['frame', 'Frame'],
          ['line', 'Level line'],
          ['corners', 'Four corners'],
        ]}
        onChange={(hand) => store.getState().set({ cropping: { ...cropping, hand } })}
      />
      <span>{words[cropping.hand]}</span>
    </>
  );
}

function Brushing({ erase }: { erase: boolean }) {
  const seeds = useBench(strokesAreSeeds);
  if (!seeds) return <BrushSettings erase={erase} />;
  return <span>Draw over what {erase ? 'does not belong' : 'belongs'} to it; zoom in to be finer</span>;
}

function BrushSettings({ erase }: { erase: boolean }) {
  const store = useBenchStore();
  const brush = useBench((state) => state.brush);
  const paintsColour = useBench((state) => brushMeets(state, erase)?.brush === null);
  const setBrush = (values: Partial<typeof brush>): void => store.getState().setBrush(values);
  const percent = { min: 0, max: 100, step: 1, unit: '%', width: 42 } as const;
  return (
    <>
      <Scrub
        label="Size"
        name="Brush size"
        value={brush.size}
        min={1}
        max={1000}
        step={1}
        unit="px"
        neutral={100}
        byFactor
        width={50}
        onChange={(size) => setBrush({ size })}
      />
      <Scrub label="Hardness" {...percent} neutral={30} value={brush.hardness * 100} onChange={(v) => setBrush({ hardness: v / 100 })} />
      <Scrub label="Flow" {...percent} neutral={40} value={brush.flow * 100} onChange={(v) => setBrush({ flow: v / 100 })} />
      <Scrub
        label="Up to"
        name="Most that a stroke covers"
        {...percent}
        neutral={100}
        value={brush.opacity * 100}
        onChange={(v) => setBrush({ opacity: v / 100 })}
      />
      <Scrub
        label="Only alike"
        value={brush.alike}
        min={0}
        max={40}
        step={1}
        neutral={0}
        width={28}
        onChange={(alike) => setBrush({ alike })}
      />
      {!paintsColour && <StrokeJoins erase={erase} />}
    </>
  );
}

function brushMeets({ committed, layerId, partId }: BenchState, erase: boolean): ReturnType<typeof strokeMeets> | null {
  const layer = findMaskOwner(committed, layerId);
  return layer ? strokeMeets(layer, partId, erase, (id) => findMaskOwner(committed, id)) : null;
}

const AS_USUAL = 'usual';
const VERBS: Record<Combine, string> = { add: 'adds to', cut: 'cuts from', common: 'stays within' };

/** What a new part joins, in a few words. */
const nameOfAll = (parts: readonly MaskPart[]): string => (parts.length === 1 ? partName(parts[0]!) : 'the mask');

/** How the next stroke joins the mask: in words, before it is made. */
function StrokeJoins({ erase }: { erase: boolean }) {
  const layer = useMaskOwner();
  const words = useBench((state) => {
    const meets = brushMeets(state, erase);
    if (!meets) return '';
    if (meets.brush) return `goes on in ${partName(meets.brush)}`;
    if (meets.parts.length === 0) return erase ? 'leaves out of everything' : 'begins the mask';
    return erase ? `leaves out of ${nameOfAll(meets.parts)}` : `${VERBS[meets.usual]} ${nameOfAll(meets.parts)}`;
  });
  if (!layer) return null;
  // Erasing with a brush of its own always leaves out of what is there.
  return (
    <Joins
      usual={words}
      offered={erase ? ['common'] : ['add', 'cut', 'common']}
      words={erase ? { common: 'leaves out, with a new brush' } : {}}
    />
  );
}

/** How what is drawn next joins the mask. */
function DrawnJoins() {
  const words = useBench((state) => {
    const parts = partsInWork(state);
    return parts.length === 0 ? 'begins the mask' : `${VERBS[usualJoin(parts, false)]} ${nameOfAll(parts)}`;
  });
  return <Joins usual={words} offered={['add', 'cut', 'common']} words={{}} />;
}

/** What a part that is drawn next joins. */
function partsInWork({ committed, layerId, partId }: BenchState): readonly MaskPart[] {
  const layer = findMaskOwner(committed, layerId);
  return layer ? partsAt(layer.where, partId) : [];
}

function Joins({ usual, offered, words }: { usual: string; offered: readonly Combine[]; words: Partial<Record<Combine, string>> }) {
  const store = useBenchStore();
  const joins = useBench((state) => state.joins);
  const names = useBench(useShallow((state) => partsInWork(state).map(partName)));
  if (names.length === 0) return <span>{usual}</span>;
  const to = names.length === 1 ? names[0] : 'the mask';
  const options = [
    [AS_USUAL, usual] as const,
    ...offered.map((combine) => [combine, words[combine] ?? `${VERBS[combine]} ${to}, as a part of its own`] as const),
  ];
  return (
    <Joined>
      <Select
        label="How it joins the mask"
        hideLabel
        value={joins ?? AS_USUAL}
        options={options}
        onChange={(key) => store.getState().set({ joins: key === AS_USUAL ? null : key })}
      />
    </Joined>
  );
}

function Sampling() {
  const store = useBenchStore();
  const size = useBench((state) => state.sampleSize);
  const sample = useBench((state) => state.sample);
  const space = useSpace();
  const tone = sample && toneOf(space, sample);
  return (
    <>
      <Choice label="Sample size" value={size} options={SAMPLE_SIZES} onChange={(sampleSize) => store.getState().set({ sampleSize })} />
      {sample && (
        <span>
          <i style={{ background: cssOf(sample, space) }} />
          <Num>{hexOf(sample, space)}</Num> {tone === 'middle tone' ? '' : tone}
        </span>
      )}
    </>
  );
}

const SPOTS = SPOT_SIDES.map((side) => [String(side), side === 1 ? 'Point' : `${side} × ${side}`] as const);

function ReadSettings() {
  const store = useBenchStore();
  const side = useBench((state) => state.spotSide);
  return (
    <>
      <Choice
        label="Size of a spot"
        value={String(side)}
        options={SPOTS}
        onChange={(next) => store.getState().set({ spotSide: Number(next) as Spot['side'] })}
      />
      <span>Click pins a spot, a drag an ellipse, with Shift an outline</span>
    </>
  );
}

function Pulling() {
  const store = useBenchStore();
  const layer = useLayer();
  const pull = useBench((state) => state.pull);
  const qualities = layer && contentKind(layer.what)?.pull?.qualities;
  if (!qualities) return null;
  const chosen = qualities.some(([id]) => id === pull) ? pull : qualities[0]![0];
  return (
    <>
      <span>Drag on a colour: right or up for more</span>
      {qualities.length > 1 && !('layers' in layer.what) && !contentEditor(layer.what.kind)?.choosesPull && (
        <Joined>
          <Select
            label="What a pull changes"
            hideLabel
            value={chosen}
            options={qualities}
            onChange={(id) => store.getState().set({ pull: id })}
          />
        </Joined>
      )}
    </>
  );
}

function Taking({ leaveOut }: { leaveOut: boolean }) {
  const begins = useBench(({ document, layerId, partId }) => {
    const layer = findMaskOwner(document, layerId);
    const part = layer && findPart(layer.where, partId);
    return !part || !maskPartKind(part.kind).take;
  });
  if (begins) return <span>Click on a colour to pick what is like it</span>;
  return <span>{leaveOut ? 'Click or drag to leave out; Alt catches' : 'Click or drag to catch; Alt leaves out'}</span>;
}
