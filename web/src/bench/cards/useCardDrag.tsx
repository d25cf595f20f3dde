'use client';
import { useRef, useState, type RefObject } from 'react';
import { DropIndicator, useDragAndDrop, type DragAndDropHooks, type DropTarget } from 'react-aria-components';
import styled from 'styled-components';
import { placeLayers } from '../state/actions';
import type { Card } from '../state/card';
import { useBenchStore } from '../state/context';
import { shareMask } from '../state/masks';

const Drop = styled(DropIndicator)`
  width: 100%;
  height: calc(var(--card) + 12px);
  margin-top: 12px;
  outline: none;
  &[data-drop-target] {
    background: var(--ink);
  }
`;
const DRAG_TYPE = 'umbo-layer';
/** Which place of the row a point means: the sides of a card are for what goes between, its middle is for what is dropped on it. */
const placesIn = (list: RefObject<HTMLElement | null>) => ({
  getDropTargetFromPoint(x: number, _y: number, isValid: (target: DropTarget) => boolean): DropTarget | null {
    const { left } = list.current!.getBoundingClientRect();
    const rows = [...list.current!.querySelectorAll<HTMLElement>('[role=row]')];
    const row = rows.find((candidate) => candidate.getBoundingClientRect().right > x + left) ?? rows.at(-1);
    if (!row) return null;
    const box = row.getBoundingClientRect();
    const share = (x + left - box.left) / box.width;
    const key = row.dataset.key!;
    const on: DropTarget = { type: 'item', key, dropPosition: 'on' };
    if (share > 0.25 && share < 0.7 && isValid(on)) return on;
    return { type: 'item', key, dropPosition: share < 0.5 ? 'before' : 'after' };
  },
});

/** Cards are dragged to other places, into groups, and onto others, which get their masks. @param list the row of cards */
export function useCardDrag(list: RefObject<HTMLElement | null>, cards: readonly Card[]): DragAndDropHooks {
  const store = useBenchStore();
  const dragged = useRef<ReadonlySet<unknown>>(new Set());
  const [places] = useState(() => placesIn(list));
  const cardOf = (key: unknown): Card | undefined => cards.find(({ id }) => id === key);
  const { dragAndDropHooks } = useDragAndDrop({
    getItems: (keys) => [...keys].map((key) => ({ [DRAG_TYPE]: String(key), 'text/plain': cardOf(key)?.name ?? '' })),
    acceptedDragTypes: [DRAG_TYPE],
    dropTargetDelegate: places,
    getAllowedDropOperations: () => ['move', 'copy', 'link'],
    onDragStart: ({ keys }) => void (dragged.current = new Set(keys)),
    getDropOperation(target, _types, allowed) {
      if (target.type !== 'item') return 'cancel';
      if (target.dropPosition !== 'on') return 'move';
      if (dragged.current.has(target.key)) return 'cancel';
      if (cardOf(target.key)?.kind === 'group') return 'move';
      // The mask of one card goes to another.
      return dragged.current.size > 1 ? 'cancel' : allowed.includes('copy') ? 'copy' : 'link';
    },
    renderDropIndicator: (target) => <Drop target={target} />,
    onReorder: ({ keys, target }) =>
      placeLayers(store.getState(), [...keys].map(String), {
        id: String(target.key),
        side: target.dropPosition === 'after' ? 'after' : 'before',
      }),
    onItemDrop({ target, dropOperation }) {
      const ids = [...dragged.current].map(String);
      const id = String(target.key);
      if (dropOperation === 'move') placeLayers(store.getState(), ids, { id, side: 'inside' });
      else if (ids[0]) shareMask(store.getState(), ids[0], id, dropOperation === 'link' ? 'link' : 'copy');
    },
  });
  return dragAndDropHooks;
}
