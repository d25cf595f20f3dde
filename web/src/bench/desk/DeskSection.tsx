'use client';
import { isLayer, type MaskOwner } from '@umbo/core/document';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { useId, useRef, type ReactNode } from 'react';
import styled from 'styled-components';
import type { BenchState, DeskSection as Name } from '../state/benchState';
import { useBench, useBenchStore } from '../state/context';

/** How high a section's title is. */
const TITLE = 29;

export const Title = styled.h2`
  margin: 0;
  button {
    display: flex;
    align-items: center;
    gap: 6px;
    width: 100%;
    height: ${TITLE}px;
    padding: 0 14px;
    border: 0;
    background: var(--panel);
    font: 650 12px/16px var(--sans);
    text-align: left;
    cursor: default;
  }
  button:hover {
    background: var(--well);
  }
  button:focus-visible {
    outline-offset: -3px;
  }
  em {
    flex: 1;
    text-align: right;
    font-style: normal;
    font-weight: 400;
    color: var(--ink2);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  svg {
    flex: none;
  }
`;
/** Titles stay in sight at both ends of what scrolls between them: pressing one brings its section. */
const StuckTitle = styled(Title)<{ $place: number }>`
  position: sticky;
  top: ${(p) => p.$place * (TITLE - 1)}px;
  bottom: 0;
  z-index: 2;
  background: var(--panel);
  border-top: ${(p) => (p.$place > 0 ? '1px solid var(--line)' : '0')};
  border-bottom: 1px solid var(--line);
`;
const Body = styled.div`
  padding: 7px 14px 10px;
  scroll-margin-top: ${2 * TITLE}px;
`;

/** By what the folding of a section is remembered. */
const kindOf = (owner: MaskOwner): string => (isLayer(owner) ? owner.what.kind : 'region');

/** Whether a section is folded to its title: How to begin with, the others once that was chosen. */
export const isFolded = ({ folds }: BenchState, owner: MaskOwner, section: Name): boolean =>
  folds[`${kindOf(owner)} ${section}`] ?? section === 'How';

/** Where or What: a part of the desk that folds to what is in it, in a line. What is folded is remembered for each kind of layer. */
export function DeskSection({
  section,
  layer,
  summary,
  children,
}: {
  section: Name;
  layer: MaskOwner;
  summary: string;
  children: ReactNode;
}) {
  const store = useBenchStore();
  const folded = useBench((state) => isFolded(state, layer, section));
  const id = useId();
  const body = useRef<HTMLDivElement>(null);
  const place = section === 'Where' ? 0 : 1;
  const press = (): void => {
    const fold = (which: Name, to: boolean): void => store.getState().foldSection(kindOf(layer), which, to);
    const scroller = body.current?.parentElement;
    if (folded || !scroller) {
      fold(section, false);
      requestAnimationFrame(() => body.current?.scrollIntoView({ block: 'nearest' }));
      return;
    }
    const [inner, outer] = [body.current!.getBoundingClientRect(), scroller.getBoundingClientRect()];
    const isBelow = inner.top > outer.bottom - 2 * TITLE;
    const isAbove = inner.bottom < outer.top + 2 * TITLE + 8;
    // Where both have no room, the other one gives way.
    if (isBelow) fold('Where', true);
    else if (isAbove) body.current!.scrollIntoView({ block: 'start' });
    else fold(section, true);
  };
  const Icon = folded ? ChevronRight : ChevronDown;
  return (
    <>
      <StuckTitle $place={place}>
        <button aria-expanded={!folded} aria-controls={id} onClick={press}>
          {section} <em>{summary}</em> <Icon size={13} strokeWidth={1.5} aria-hidden />
        </button>
      </StuckTitle>
      {!folded && (
        <Body ref={body} id={id} role="region" aria-label={section}>
          {children}
        </Body>
      )}
    </>
  );
}
