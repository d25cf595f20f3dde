'use client';
import { useEffect, useRef, type ReactNode, type RefObject } from 'react';
import { Group, Panel, Separator, type PanelImperativeHandle } from 'react-resizable-panels';
import styled from 'styled-components';
import { useBench, useBenchStore } from './state/context';

const Bar = styled(Separator)`
  position: relative;
  width: 0;
  outline: none;
  z-index: 3;
  &::after {
    content: '';
    position: absolute;
    inset: 0 -3px;
    cursor: ew-resize;
  }
  &[data-separator='hover']::after,
  &[data-separator='active']::after,
  &:focus-visible::after {
    background: var(--ink);
    inset: 0 -1px;
  }
`;

const Content = styled.div<{ $hidden: boolean }>`
  height: 100%;
  visibility: ${(p) => (p.$hidden ? 'hidden' : 'visible')};
`;

/** The least, usual and greatest widths of the panels beside the photograph. */
const WIDTHS = {
  side: { least: 190, usual: 204, most: 420 },
  references: { least: 200, usual: 230, most: 700 },
  desk: { least: 300, usual: 340, most: 560 },
} as const;
type Name = keyof typeof WIDTHS;

const keyOf = (name: Name): string => `umbo-width-${name}`;

/** Folds a panel as the bench says, and the other way round where it was folded by hand; its width stays as it was left. */
function useFolding(name: 'side' | 'desk', panel: RefObject<PanelImperativeHandle | null>): void {
  const store = useBenchStore();
  const folded = useBench((state) => state.panels[name]);
  useEffect(() => {
    const handle = panel.current!;
    if (folded) handle.collapse();
    else if (handle.isCollapsed()) handle.resize(Math.max(WIDTHS[name].least, keptWidth(name)));
  }, [store, folded, name, panel]);
}

function keptWidth(name: Name): number {
  const kept = Number(localStorage.getItem(keyOf(name)));
  return kept >= WIDTHS[name].least ? Math.min(kept, WIDTHS[name].most) : WIDTHS[name].usual;
}

/** The photograph between its side panel and the desk, whose widths can be changed, and which fold away. */
export function Panels(props: { side: ReactNode; stage: ReactNode; references: ReactNode | null; desk: ReactNode }) {
  const store = useBenchStore();
  const panels = {
    side: useRef<PanelImperativeHandle>(null),
    references: useRef<PanelImperativeHandle>(null),
    desk: useRef<PanelImperativeHandle>(null),
  };
  const folded = useBench((state) => state.panels);
  useFolding('side', panels.side);
  useFolding('desk', panels.desk);
  // After the first render, which must equal the server's.
  useEffect(() => {
    const { panels: left } = store.getState();
    if (!left.side) panels.side.current?.resize(keptWidth('side'));
    if (!left.desk) panels.desk.current?.resize(keptWidth('desk'));
  }, [store]);
  /** Once a drag is over. */
  const settled = (byHand: boolean): void => {
    if (!byHand) return;
    const widthOf = (name: Name): number => panels[name].current?.getSize().inPixels ?? 0;
    for (const name of ['side', 'references', 'desk'] as const)
      if (widthOf(name) >= WIDTHS[name].least) localStorage.setItem(keyOf(name), String(Math.round(widthOf(name))));
    store.getState().fold({ side: widthOf('side') === 0, desk: widthOf('desk') === 0 });
  };
  const panel = (name: Name, content: ReactNode) => (
    <Panel
      id={name}
      panelRef={panels[name]}
      collapsible={name !== 'references'}
      // The references open later than the page, which the server draws.
      defaultSize={name === 'references' ? keptWidth(name) : WIDTHS[name].usual}
      minSize={WIDTHS[name].least}
      maxSize={WIDTHS[name].most}
      groupResizeBehavior="preserve-pixel-size"
      style={{ overflow: 'hidden' }}
    >
      {/* Folded away it takes no keys either. */}
      <Content $hidden={name !== 'references' && folded[name]}>{content}</Content>
    </Panel>
  );
  return (
    <Group style={{ flex: 1, minHeight: 0 }} disableCursor onLayoutChanged={(_, { isUserInteraction }) => settled(isUserInteraction)}>
      {panel('side', props.side)}
      <Bar aria-label="Width of the side panel" />
      <Panel id="stage" minSize={300} style={{ overflow: 'hidden', display: 'grid' }}>
        {props.stage}
      </Panel>
      {props.references !== null && (
        <>
          <Bar aria-label="Width of the references" />
          {panel('references', props.references)}
        </>
      )}
      <Bar aria-label="Width of the desk" />
      {panel('desk', props.desk)}
    </Group>
  );
}
