'use client';
import { toneOf } from '@umbo/core/measure';
import { Brush, CircleMinus, CirclePlus, Eraser, Hand, Lasso, MoveDiagonal, MoveUpRight, Pipette } from 'lucide-react';
import { ToggleButton, ToggleButtonGroup } from 'react-aria-components';
import styled from 'styled-components';
import { useShallow } from 'zustand/react/shallow';
import { Choice } from '@/ui/controls/Choice';
import { Num } from '@/ui/controls/Num';
import { cssOf, hexOf } from '../colour/colourModels';
import { useBench, useBenchStore, useSpace } from '../state/context';
import { offeredTools } from './offeredTools';
import { SAMPLE_SIZES } from '../state/samples';
import type { Tool } from '../state/benchState';

const Bar = styled.div`
  position: absolute;
  left: 50%;
  bottom: 12px;
  transform: translateX(-50%);
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
  width: max-content;
  max-width: calc(100% - 12px);
  background: var(--panel);
  color: var(--ink);
  border: 1px solid var(--edge);
  border-radius: 4px;
  overflow: hidden;
  cursor: default;
  > div {
    display: flex;
  }
  button {
    display: flex;
    gap: 5px;
    align-items: center;
    padding: 6px 10px;
    white-space: nowrap;
    border: 0;
    border-right: 1px solid var(--line);
    background: none;
  }
  button[data-hovered] {
    background: var(--well);
  }
  button[data-selected] {
    background: var(--ink);
    color: var(--on-ink);
  }
  button[data-focus-visible] {
    outline-offset: -3px;
  }
  button[data-disabled] {
    color: var(--edge);
  }
  > span {
    padding: 6px 12px;
    white-space: nowrap;
  }
  @container (max-width: 860px) {
    > .hint,
    > .brush {
      display: none;
    }
    button {
      padding: 6px 9px;
    }
  }
  > span > i {
    display: inline-block;
    width: 14px;
    height: 14px;
    margin-right: 6px;
    vertical-align: -2px;
    border: 1px solid var(--edge);
    border-radius: 2px;
  }
`;
const TOOLS = [
  ['move', 'Move', Hand],
  ['paint', 'Paint', Brush],
  ['erase', 'Erase', Eraser],
  ['sample', 'Sample', Pipette],
  ['pull', 'Pull', MoveUpRight],
  ['catch', 'Catch', CirclePlus],
  ['leave', 'Leave out', CircleMinus],
  ['outline', 'Outline', Lasso],
  ['region', 'Region', MoveDiagonal],
] as const;

const HINTS: Partial<Record<Tool, string>> = {
  pull: 'Drag on a colour: right or up for more',
  catch: 'Click or drag; Alt leaves out',
  leave: 'Click or drag; Alt catches',
  outline: 'Draw around, or corner by corner',
  region: 'Drag; Shift scales, Alt copies',
};

/** What the pointer does on the photograph. */
export function ToolBar() {
  const store = useBenchStore();
  const tool = useBench((state) => state.tool);
  const brush = useBench((state) => state.brush);
  const hasLayer = useBench((state) => state.layerId !== null);
  const tools = useBench(useShallow(offeredTools));
  const stop = (event: { stopPropagation: () => void }): void => event.stopPropagation();
  return (
    <Bar onPointerDown={stop} onPointerMove={stop}>
      <ToggleButtonGroup
        aria-label="Tool"
        selectionMode="single"
        disallowEmptySelection
        selectedKeys={[tool]}
        onSelectionChange={(keys) => store.getState().set({ tool: [...keys][0] as Tool })}
      >
        {TOOLS.filter(([id]) => tools.includes(id)).map(([id, text, Icon]) => (
          <ToggleButton key={id} id={id} isDisabled={(id === 'paint' || id === 'erase') && !hasLayer}>
            <Icon size={15} strokeWidth={1.5} aria-hidden /> {text}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      {tool === 'sample' ? (
        <Sampling />
      ) : tool === 'paint' || tool === 'erase' ? (
        <span className="brush" title="Shift and drag on the photograph changes size and hardness">
          <Num>
            {Math.round(brush.size)} px · hard {Math.round(brush.hardness * 100)} · flow {Math.round(brush.flow * 100)}
          </Num>
        </span>
      ) : (
        HINTS[tool] && <span className="hint">{HINTS[tool]}</span>
      )}
    </Bar>
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
          <i style={{ background: cssOf(sample) }} />
          <Num>{hexOf(sample)}</Num> {tone === 'middle tone' ? '' : tone}
        </span>
      )}
    </>
  );
}
