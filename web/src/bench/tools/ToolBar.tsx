'use client';
import {
  Brush,
  CircleSlash2,
  Magnet,
  Crop,
  Eraser,
  Hand,
  Lasso,
  Pin,
  SquareDashed,
  MoveVertical,
  Pipette,
  Shapes,
  type LucideIcon,
} from 'lucide-react';
import { ToggleButton, ToggleButtonGroup } from 'react-aria-components';
import styled from 'styled-components';
import { useShallow } from 'zustand/react/shallow';
import { Hint } from '@/ui/controls/Hint';
import { useBench, useBenchStore } from '../state/context';
import type { Tool } from '../state/benchState';
import { strokesAreSeeds } from '../state/strokes';
import { partEditors } from '../where/parts/partEditors';
import { drawnKinds, offeredTools } from '../stage/offeredTools';
import { ToolStrip } from './ToolStrip';

const Place = styled.div`
  position: absolute;
  left: 50%;
  bottom: 8px;
  transform: translateX(-50%);
  display: grid;
  justify-items: center;
  gap: 4px;
  width: max-content;
  max-width: calc(100% - 12px);
  cursor: default;
`;
const Bar = styled(ToggleButtonGroup)`
  display: flex;
  background: var(--panel);
  color: var(--ink);
  border: 1px solid var(--edge);
  border-radius: 4px;
  overflow: hidden;
  button {
    display: flex;
    gap: 5px;
    align-items: center;
    min-width: 34px;
    height: 28px;
    justify-content: center;
    padding: 0 8px;
    white-space: nowrap;
    border: 0;
    border-right: 1px solid var(--line);
    background: none;
  }
  button:last-child {
    border-right: 0;
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
  /* Words tell tools apart; where there is no room for all of them, drawings stand for those that are not in hand. */
  svg {
    display: none;
  }
  @container (max-width: 735px) {
    button:not([data-selected]) > span {
      display: none;
    }
    button:not([data-selected]) > svg {
      display: block;
    }
  }
`;
const TOOLS: readonly (readonly [Tool, string, LucideIcon, string])[] = [
  ['move', 'Move', Hand, 'A'],
  ['crop', 'Crop', Crop, 'Shift A'],
  ['paint', 'Paint', Brush, 'D'],
  ['erase', 'Erase', Eraser, 'D again'],
  ['sample', 'Sample', Pipette, 'V'],
  ['read', 'Read', Pin, 'Shift V'],
  ['pull', 'Pull', MoveVertical, 'P'],
  ['catch', 'Catch', Magnet, 'M'],
  ['leave', 'Leave out', CircleSlash2, 'M again'],
  ['outline', 'Outline', Lasso, 'O'],
  ...drawnKinds.map(
    ({ kind, name }) =>
      [`draw ${kind}`, name, (partEditors as Record<string, { icon?: LucideIcon }>)[kind]?.icon ?? Shapes, 'Shift O'] as const,
  ),
  ['region', 'Region', SquareDashed, 'J'],
];

/** What the brushes are called while their strokes say what belongs to the part in work. */
const SEED_NAMES: { readonly [K in Tool]?: string } = { paint: 'Inside', erase: 'Outside' };

/** What the pointer does on the photograph, and over it how the tool in hand is set. */
export function ToolBar() {
  const store = useBenchStore();
  const tool = useBench((state) => state.tool);
  const tools = useBench(useShallow(offeredTools));
  const seeds = useBench(strokesAreSeeds);
  // What acts on nothing here is not there.
  const shown = TOOLS.filter(([id]) => tools.includes(id) || id === tool).map(
    ([id, name, Icon, key]) => [id, (seeds && SEED_NAMES[id]) || name, Icon, key] as const,
  );
  const stop = (event: { stopPropagation: () => void }): void => event.stopPropagation();
  return (
    <Place onPointerDown={stop} onPointerMove={stop} onWheel={stop}>
      <ToolStrip tool={tool} />
      <Bar
        aria-label="Tool"
        selectionMode="single"
        disallowEmptySelection
        selectedKeys={[tool]}
        onSelectionChange={(keys) => store.getState().set({ tool: [...keys][0] as Tool })}
      >
        {shown.map(([id, text, Icon, key]) => (
          <Hint key={id} text={`${text} (${key})`}>
            <ToggleButton id={id} aria-label={text}>
              <Icon size={15} strokeWidth={1.5} aria-hidden /> <span>{text}</span>
            </ToggleButton>
          </Hint>
        ))}
      </Bar>
    </Place>
  );
}
