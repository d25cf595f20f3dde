'use client';
import { useShallow } from 'zustand/react/shallow';
import { useCallback, useMemo, useRef, useState } from 'react';
import { Button as AriaButton, GridList, GridListItem, ListLayout, Virtualizer, type Key } from 'react-aria-components';
import { Plus } from 'lucide-react';
import styled from 'styled-components';
import { Floating } from '@/ui/controls/Floating';
import { Hint } from '@/ui/controls/Hint';
import { showInWork } from '../state/actions';
import { cardsOf, type Card } from '../state/card';
import { Arrow, CardFace, ending } from './CardFace';
import { CardMenu } from './CardMenu';
import { spaces } from '@umbo/core/colour';
import { useBench, useBenchStore } from '../state/context';
import { NewLayerMenu } from './NewLayerMenu';
import { peekUpTo } from '../state/peek';
import { Result } from './Result';
import { Picture } from '../desk/Thumbnails';
import { useAskLayer } from './useAskLayer';
import { useCardDrag } from './useCardDrag';
import { useRow } from './useRow';

const Strip = styled.div`
  --card: 46px;
  height: 68px;
  flex: none;
  &[data-low] {
    --card: 26px;
    height: 46px;
  }
  display: flex;
  align-items: center;
  padding: 0 14px;
  border-bottom: 1px solid var(--line);
  background: var(--well);
  overflow: hidden;
`;
const Begin = styled.div`
  ${ending}
  width: 128px;
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

/** The count on one side; it keeps its room while there is nothing to count, so that the cards stay where they are. */
function Beyond({ count, side, turn }: { count: number; side: 'before' | 'after'; turn: () => void }) {
  return (
    <More aria-label={`${count} more ${side}`} onPress={turn} style={{ visibility: count > 0 ? 'visible' : 'hidden' }}>
      {side === 'before' ? `‹ ${count}` : `${count} ›`}
    </More>
  );
}

/** The cards of the edit's layers; one that shows the same as before is the same. */
function useCards(): readonly Card[] {
  // As texts, which compare by content: a slider being dragged changes layers, but seldom what a card shows.
  const texts = useBench(
    useShallow((state) => cardsOf(state.document.layers, state, spaces[state.document.workingSpace]).map((card) => JSON.stringify(card))),
  );
  // The same text is the same card, so that only cards that show something else are drawn again.
  const known = useRef(new Map<string, Card>());
  return useMemo(() => {
    const next = new Map(texts.map((text) => [text, known.current.get(text) ?? (JSON.parse(text) as Card)]));
    known.current = next;
    return [...next.values()];
  }, [texts]);
}

/** The edit as a sentence: photograph, layer, layer, result, in the order in which they act. */
export function Cards() {
  const store = useBenchStore();
  const cards = useCards();
  const selection = useBench((state) => state.selection);
  const original = useBench((state) => state.thumbnails.original);
  const isBefore = useBench((state) => state.look.peek.upTo === 'photograph');
  const low = useBench((state) => state.panels.cards);
  const offering = useBench((state) => state.offering);
  const strip = useRef<HTMLDivElement>(null);
  const list = useRef<HTMLDivElement>(null);
  const { size, overflows, seen, look, turn } = useRow(strip, list, cards);
  const [ask, question] = useAskLayer();
  const dragAndDropHooks = useCardDrag(list, cards);
  const row = useMemo(() => ({ orientation: 'horizontal', rowSize: size }) as const, [size]);
  const [menu, setMenu] = useState<string | null>(null);
  const menuButton = useRef<HTMLElement | null>(null);

  // The list's own set also knows where a range began, which Shift goes on from.
  const chosen = useRef<Set<Key>>(new Set());
  const isChosen = selection.length === chosen.current.size && selection.every((id) => chosen.current.has(id));
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
  return (
    <Strip ref={strip} aria-label="Layers, from the photograph to the result" data-low={low || undefined}>
      <Begin>
        <Picture picture={original} />
        <b>Photograph</b>
        <span>as it came</span>
      </Begin>
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
            ['--card-width' as string]: `${size - 24}px`,
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
      <Result />
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
      {question}
    </Strip>
  );
}
