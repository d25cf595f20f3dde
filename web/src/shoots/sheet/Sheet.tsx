'use client';
import type { PhotographSummary } from '@umbo/data';
import { useLayoutEffect, useMemo, useRef, useState, type ReactNode, type PointerEvent } from 'react';
import { GridLayout, GridList, Rect, Size, Virtualizer, type Key } from 'react-aria-components';
import styled from 'styled-components';
import { Cell } from './Cell';

const Area = styled.div`
  position: relative;
  flex: 1;
  min-height: 0;
`;
const List = styled(GridList)`
  position: absolute;
  inset: 0;
  overflow: auto;
  outline: none;
` as unknown as typeof GridList;
const Band = styled.div`
  position: absolute;
  z-index: 2;
  border: 1px solid #fff;
  background: #ffffff2e;
  pointer-events: none;
`;

/** Below the picture: name and state. */
const WORDS = 30;
const GAP = { width: 14, height: 18 };
/** A press that moves less is a click. */
const SLACK = 4;
/** So near the edge a band scrolls the sheet, by so much at once. */
const EDGE = { reach: 36, by: 24 };

interface Point {
  x: number;
  y: number;
}
const spanned = (a: Point, b: Point): Rect => new Rect(Math.min(a.x, b.x), Math.min(a.y, b.y), Math.abs(a.x - b.x), Math.abs(a.y - b.y));

interface Props {
  database: string;
  photographs: readonly PhotographSummary[];
  /** Least width of a picture; null: two across. */
  width: number | null;
  chosen: ReadonlySet<number>;
  onChoose: (chosen: ReadonlySet<number>) => void;
  onOpen: (id: number) => void;
  menu: (photograph: PhotographSummary) => ReactNode;
}

/** The photographs of a shoot beside each other; those that are far out of sight are not there. */
export function Sheet(props: Props) {
  const { database, photographs, width, chosen, onChoose, onOpen } = props;
  // Cells are made once for each photograph: what they call is what holds when they call it.
  const now = useRef(props);
  useLayoutEffect(() => void (now.current = props));
  const area = useRef<HTMLDivElement>(null);
  const [across, setAcross] = useState(1200);
  useLayoutEffect(() => {
    const observer = new ResizeObserver(([entry]) => setAcross(Math.round(entry!.contentRect.width)));
    observer.observe(area.current!);
    return () => observer.disconnect();
  }, []);
  const [layout] = useState(() => new GridLayout<object>());
  const options = useMemo(() => {
    const least = width ?? Math.floor(across / 2) - GAP.width - 8;
    return {
      minItemSize: new Size(least, Math.round((least * 6) / 7) + WORDS),
      minSpace: new Size(GAP.width, GAP.height),
      preserveAspectRatio: true,
      ...(width === null && { maxColumns: 2 }),
    };
  }, [width, across]);
  const band = useRubberBand(area, (rect) => layout.getVisibleLayoutInfos(rect).flatMap(({ key }) => (typeof key === 'number' ? [key] : [])), chosen, onChoose); // prettier-ignore
  return (
    <Area ref={area} {...band.handlers}>
      <Virtualizer layout={layout} layoutOptions={options}>
        <List
          aria-label="Contact sheet"
          layout="grid"
          items={photographs}
          selectionMode="multiple"
          selectionBehavior="replace"
          disallowEmptySelection={false}
          selectedKeys={chosen as ReadonlySet<Key>}
          // What it hands out knows where the choice began: it has to come back as it is, or Shift begins anew.
          onSelectionChange={(keys) => onChoose(keys === 'all' ? new Set(photographs.map(({ id }) => id)) : (keys as ReadonlySet<number>))}
          onAction={(key) => onOpen(Number(key))}
        >
          {(photograph: PhotographSummary) => (
            <Cell
              database={database}
              photograph={photograph}
              onMenu={(id) => !now.current.chosen.has(id) && now.current.onChoose(new Set([id]))}
              menu={(of) => now.current.menu(of)}
            />
          )}
        </List>
      </Virtualizer>
      {band.rect && <Band style={{ left: band.rect.x, top: band.rect.y, width: band.rect.width, height: band.rect.height }} />}
    </Area>
  );
}

/**
 * Choosing with a band that is drawn over the pictures; with Shift or Ctrl beside what is chosen already.
 * @param within the photographs that touch a rectangle of the sheet
 */
function useRubberBand(
  area: React.RefObject<HTMLDivElement | null>,
  within: (rect: Rect) => number[],
  chosen: ReadonlySet<number>,
  onChoose: (chosen: ReadonlySet<number>) => void,
) {
  const drag = useRef<{ from: Point; at: Point; kept: ReadonlySet<number>; moved: boolean; onPicture: boolean } | null>(null);
  const [rect, setRect] = useState<Rect | null>(null);
  const scroller = (): HTMLElement => area.current!.querySelector('[role=grid]')!;
  /** On the sheet, however far it is scrolled. */
  const place = (event: PointerEvent): Point => {
    const box = area.current!.getBoundingClientRect();
    return { x: event.clientX - box.x, y: event.clientY - box.y + scroller().scrollTop };
  };
  const handlers = {
    onPointerDownCapture(event: PointerEvent<HTMLDivElement>) {
      const target = event.target as HTMLElement;
      const isOnBar = event.clientX > area.current!.getBoundingClientRect().x + scroller().clientWidth;
      if (event.button !== 0 || isOnBar || target.closest('a, button, [role=menu]')) return;
      const from = place(event);
      const kept = event.shiftKey || event.ctrlKey || event.metaKey ? chosen : new Set<number>();
      drag.current = { from, at: from, kept, moved: false, onPicture: target.closest('[data-photograph]') !== null };
    },
    onPointerMove(event: PointerEvent<HTMLDivElement>) {
      const now = drag.current;
      if (!now) return;
      const box = area.current!.getBoundingClientRect();
      if (event.clientY < box.top + EDGE.reach) scroller().scrollBy(0, -EDGE.by);
      if (event.clientY > box.bottom - EDGE.reach) scroller().scrollBy(0, EDGE.by);
      now.at = place(event);
      if (!now.moved) {
        if (Math.hypot(now.at.x - now.from.x, now.at.y - now.from.y) <= SLACK) return;
        now.moved = true;
        event.currentTarget.setPointerCapture(event.pointerId);
      }
      const whole = spanned(now.from, now.at);
      setRect(new Rect(whole.x, whole.y - scroller().scrollTop, whole.width, whole.height));
      onChoose(new Set([...now.kept, ...within(whole)]));
    },
    onPointerUp() {
      const now = drag.current;
      drag.current = null;
      setRect(null);
      // A click beside the pictures chooses nothing.
      if (now && !now.moved && !now.onPicture && now.kept.size === 0) onChoose(new Set());
    },
    onPointerCancel() {
      drag.current = null;
      setRect(null);
    },
  };
  return { rect, handlers };
}
