'use client';
import { findLayer } from '@umbo/core/document';
import { useShallow } from 'zustand/react/shallow';
import { useCallback, useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import {
  Button as AriaButton,
  DropIndicator,
  GridList,
  GridListItem,
  ListLayout,
  useDragAndDrop,
  Virtualizer,
  type DropTarget,
  type Key,
} from 'react-aria-components';
import { Plus } from 'lucide-react';
import styled from 'styled-components';
import { AskWords, type Question } from '@/ui/AskWords';
import { Floating } from '@/ui/controls/Floating';
import { Hint } from '@/ui/controls/Hint';
import { noteOnLayer, placeLayers, renameLayer, showInWork } from '../state/actions';
import { shareMask } from '../state/masks';
import { cardsOf, type Card } from '../state/card';
import { Arrow, CardFace, face } from './CardFace';
import { CardMenu } from './CardMenu';
import { spaces } from '@umbo/core/colour';
import { useBench, useBenchStore } from '../state/context';
import { NewLayerMenu } from './NewLayerMenu';
import { peekUpTo } from '../state/peek';
import { StackStrength } from './StackStrength';
import { Picture } from '../desk/Thumbnails';

const Strip = styled.div`
  --card: 70px;
  height: 106px;
  flex: none;
  &[data-low] {
    --card: 30px;
    height: 54px;
  }
  display: flex;
  align-items: center;
  padding: 0 14px;
  border-bottom: 1px solid var(--line);
  background: var(--well);
  overflow: hidden;
`;
/** A card with the arrow behind it: as wide as it may be, and as narrow. */
const WIDEST = 166;
const NARROWEST = 138;
/** What stands beside the layers' cards: the photograph, the result, the strength, a new layer, the strip's edges. */
const BESIDE = 28 + WIDEST + 72 + 50 + 54;
const End = styled.div<{ $small?: boolean }>`
  ${face} ${(p) => p.$small && 'width: 72px;'} padding: 7px 8px 6px 64px;
  display: flex;
  flex-direction: column;
  justify-content: space-between;
  [data-low] & {
    width: auto;
    padding: 0 10px;
    justify-content: center;
    canvas,
    span {
      display: none;
    }
  }
  canvas {
    position: absolute;
    left: 6px;
    top: 6px;
    width: ${(p) => (p.$small ? 58 : 50)}px;
    height: 56px;
    object-fit: cover;
    border-radius: 2px;
    background: #8a8a8a;
  }
  b {
    font-weight: 600;
  }
  span {
    color: var(--ink2);
  }
`;
const List = styled(GridList)`
  display: block;
  flex: 0 1 auto;
  min-width: 0;
  height: 100%;
  overflow-x: auto;
  overflow-y: hidden;
  scrollbar-width: thin;
  outline: none;
` as typeof GridList;
const Slot = styled(GridListItem)`
  position: relative;
  display: flex;
  align-items: center;
  height: 100%;
  outline: none;
  cursor: default;
  &[data-dragging] {
    opacity: 0.4;
  }
  &[data-drop-target] > div {
    outline: 2px solid var(--ink);
    outline-offset: 1px;
  }
`;
const Drop = styled(DropIndicator)`
  width: 100%;
  height: calc(var(--card) + 12px);
  margin-top: 12px;
  outline: none;
  &[data-drop-target] {
    background: var(--ink);
  }
`;
/** How many cards there are beyond those in sight; brings the next ones. */
const More = styled(AriaButton)`
  flex: none;
  min-width: 26px;
  height: var(--card);
  padding: 0 3px;
  border: 0;
  border-radius: var(--radius);
  background: none;
  color: var(--ink2);
  white-space: nowrap;
  &[data-hovered] {
    background: var(--raised);
    color: var(--ink);
  }
`;
const Add = styled(AriaButton)`
  width: 44px;
  height: var(--card);
  flex: none;
  margin-left: 10px;
  border: 1px dashed var(--edge);
  border-radius: var(--radius);
  background: none;
  display: grid;
  place-items: center;
  &[data-hovered] {
    background: var(--raised);
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

/** The count on one side; it keeps its room while there is nothing to count, so that the cards stay where they are. */
function Beyond({ count, side, turn }: { count: number; side: 'before' | 'after'; turn: () => void }) {
  return (
    <More aria-label={`${count} more ${side}`} onPress={turn} style={{ visibility: count > 0 ? 'visible' : 'hidden' }}>
      {side === 'before' ? `‹ ${count}` : `${count} ›`}
    </More>
  );
}

/** The edit as a sentence: photograph, layer, layer, result, in the order in which they act. */
export function Cards() {
  const store = useBenchStore();
  // As texts, which compare by content: a slider being dragged changes layers, but seldom what a card shows.
  const texts = useBench(
    useShallow((state) => cardsOf(state.document.layers, state, spaces[state.document.workingSpace]).map((card) => JSON.stringify(card))),
  );
  // The same text is the same card, so that only cards that show something else are drawn again.
  const known = useRef(new Map<string, Card>());
  const cards = useMemo(() => {
    const next = new Map(texts.map((text) => [text, known.current.get(text) ?? (JSON.parse(text) as Card)]));
    known.current = next;
    return [...next.values()];
  }, [texts]);
  const layerId = useBench((state) => state.layerId);
  const selection = useBench((state) => state.selection);
  const original = useBench((state) => state.thumbnails.original);
  const result = useBench((state) => state.thumbnails.result);
  const isBefore = useBench((state) => state.look.peek.upTo === 'photograph');
  const low = useBench((state) => state.panels.cards);
  const offering = useBench((state) => state.offering);
  const [question, setQuestion] = useState<Question | null>(null);
  const [menu, setMenu] = useState<string | null>(null);
  const menuButton = useRef<HTMLElement | null>(null);
  const dragged = useRef<ReadonlySet<unknown>>(new Set());

  const strip = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState(WIDEST);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setRoom(Math.max(NARROWEST, entry!.contentRect.width + 28 - BESIDE)));
    observer.observe(strip.current!);
    return () => observer.disconnect();
  }, []);
  // Cards shrink before they hide. All are equally wide, so that only those in sight need to be there.
  const size = Math.max(NARROWEST, Math.min(WIDEST, Math.floor(room / Math.max(1, cards.length))));
  const overflows = cards.length * size > room;
  const row = useMemo(() => ({ orientation: 'horizontal', rowSize: size }) as const, [size]);
  const list = useRef<HTMLDivElement>(null);
  const [seen, setSeen] = useState({ first: 0, last: 0 });
  const look = useCallback((): void => {
    const { scrollLeft, clientWidth } = list.current!;
    const [first, last] = [Math.floor((scrollLeft + 10) / size), Math.ceil((scrollLeft + clientWidth - 10) / size)];
    setSeen((before) => (before.first === first && before.last === last ? before : { first, last }));
  }, [size]);
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
  }, [place, size, room]);

  // The list's own set also knows where a range began, which Shift goes on from.
  const chosen = useRef<Set<Key>>(new Set());
  const isChosen = selection.length === chosen.current.size && selection.every((id) => chosen.current.has(id));
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

  const openMenu = useCallback(
    (card: Card, button: Element): void => {
      menuButton.current = button as HTMLElement;
      if (!store.getState().selection.includes(card.id)) {
        store.getState().select(card.id);
        showInWork(store.getState());
      }
      setMenu(card.id);
    },
    [store],
  );
  const ask = useCallback(
    (id: string, what: 'name' | 'note'): void => {
      const layer = findLayer(store.getState().committed, id);
      if (!layer) return;
      if (what === 'name')
        setQuestion({
          title: 'Rename the layer',
          label: 'Name',
          text: layer.name,
          button: 'Rename',
          then: (name) => renameLayer(store.getState(), id, name),
        });
      else
        setQuestion({
          title: `A note on “${layer.name}”`,
          label: 'Note',
          text: layer.note ?? '',
          button: 'Keep the note',
          lines: 4,
          blank: true,
          then: (note) => noteOnLayer(store.getState(), id, note),
        });
    },
    [store],
  );

  return (
    <Strip ref={strip} aria-label="Layers, from the photograph to the result" data-low={low || undefined}>
      <End>
        <Picture picture={original} />
        <b>Photograph</b>
        <span>original</span>
      </End>
      <Hint text="The picture at this point">
        <Arrow aria-label="Picture before all layers" aria-pressed={isBefore} onPress={() => peekUpTo(store.getState(), 'photograph')}>
          ›
        </Arrow>
      </Hint>
      {overflows && <Beyond count={seen.first} side="before" turn={() => turn(-1)} />}
      <Virtualizer layout={ListLayout} layoutOptions={row}>
        <List
          ref={list}
          onScroll={look}
          style={{
            flexBasis: cards.length * size,
            ['--card-width' as string]: `${size - 18}px`,
            ['--card-picture' as string]: size < 152 ? '42px' : '50px',
          }}
          aria-label="Layers"
          orientation="horizontal"
          items={cards}
          selectionMode="multiple"
          selectionBehavior="replace"
          disallowEmptySelection
          keyboardNavigationBehavior="tab"
          selectedKeys={isChosen ? chosen.current : selection}
          onSelectionChange={(keys) => {
            if (keys !== 'all') chosen.current = keys;
            store.getState().selectAll(keys === 'all' ? cards.map(({ id }) => id) : [...keys].map(String));
            showInWork(store.getState());
          }}
          dragAndDropHooks={dragAndDropHooks}
        >
          {(card: Card) => (
            <Slot id={card.id} textValue={card.name}>
              <CardFace card={card} ask={ask} openMenu={openMenu} />
            </Slot>
          )}
        </List>
      </Virtualizer>
      {overflows && <Beyond count={Math.max(0, cards.length - Math.max(1, seen.last))} side="after" turn={() => turn(1)} />}
      <End $small>
        <Picture picture={result} />
        {low && <b>Result</b>}
      </End>
      <StackStrength />
      <NewLayerMenu isOpen={offering !== null} onOpenChange={(open) => store.getState().set({ offering: open ? 'new' : null })}>
        <Hint text="New layer">
          <Add aria-label="New layer">
            <Plus size={18} strokeWidth={1.5} />
          </Add>
        </Hint>
      </NewLayerMenu>
      <Floating triggerRef={menuButton} isOpen={menu !== null} onOpenChange={(open) => !open && setMenu(null)}>
        {menu !== null && <CardMenu id={menu} ask={(what) => ask(menu, what)} onDone={() => setMenu(null)} />}
      </Floating>
      <AskWords question={question} onDone={() => setQuestion(null)} />
    </Strip>
  );
}
