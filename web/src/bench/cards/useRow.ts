'use client';
import { useCallback, useEffect, useState, type RefObject } from 'react';
import type { Card } from '../state/card';
import { useBench, useBenchStore } from '../state/context';

/** A card with the arrow behind it: as wide as it may be, and as narrow. */
const WIDEST = 178;
const NARROWEST = 138;
/** What stands beside the layers' cards: the photograph, the result, the strength, a new layer, the strip's edges. */
const BESIDE = 28 + 128 + 24 + 142 + 54;

interface Row {
  /** How wide each card is. */
  size: number;
  overflows: boolean;
  /** The places of the cards in sight. */
  seen: { first: number; last: number };
  /** Looks which cards are in sight. */
  look: () => void;
  /** Brings the next cards, or those before. */
  turn: (by: 1 | -1) => void;
}

/** How wide cards are, and which are in sight; the one in work is brought into it. */
export function useRow(strip: RefObject<HTMLElement | null>, list: RefObject<HTMLElement | null>, cards: readonly Card[]): Row {
  const store = useBenchStore();
  const layerId = useBench((state) => state.layerId);
  const [room, setRoom] = useState(WIDEST);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setRoom(Math.max(NARROWEST, entry!.contentRect.width + 28 - BESIDE)));
    observer.observe(strip.current!);
    return () => observer.disconnect();
  }, [strip]);
  // Cards shrink before they hide. All are equally wide, so that only those in sight need to be there.
  const size = Math.max(NARROWEST, Math.min(WIDEST, Math.floor(room / Math.max(1, cards.length))));
  const overflows = cards.length * size > room;
  const [seen, setSeen] = useState({ first: 0, last: 0 });
  const look = useCallback((): void => {
    const { scrollLeft, clientWidth } = list.current!;
    const [first, last] = [Math.floor((scrollLeft + 10) / size), Math.ceil((scrollLeft + clientWidth - 10) / size)];
    setSeen((before) => (before.first === first && before.last === last ? before : { first, last }));
  }, [list, size]);
  useEffect(() => {
    const frame = requestAnimationFrame(look);
    return () => cancelAnimationFrame(frame);
  }, [look, cards.length, room]);
  const inSight = cards
    .slice(seen.first, seen.last)
    .map(({ id }) => id)
    .join();
  useEffect(() => store.getState().showCards(inSight === '' ? [] : inSight.split(',')), [store, inSight]);
  const turn = (by: 1 | -1): void => list.current!.scrollBy({ left: by * (list.current!.clientWidth - size), behavior: 'smooth' });
  const place = cards.findIndex(({ id }) => id === layerId);
  useEffect(() => {
    // Once the row has its new length.
    const frame = requestAnimationFrame(() => {
      const row = list.current!;
      const at = place * size;
      if (at >= 0 && (at < row.scrollLeft || at + size > row.scrollLeft + row.clientWidth))
        row.scrollLeft = at - (row.clientWidth - size) / 2;
    });
    return () => cancelAnimationFrame(frame);
  }, [list, place, size, room]);
  return { size, overflows, seen, look, turn };
}
