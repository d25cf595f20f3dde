'use client';
import { blendModes } from '@umbo/core/blend';
import { Circle, Disc, FoldHorizontal, MoreHorizontal, Paperclip, StickyNote, UnfoldHorizontal } from 'lucide-react';
import { memo } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import styled, { css } from 'styled-components';
import { chooseColourway, foldGroup, switchLayer } from '../state/actions';
import type { Card } from '../state/card';
import { useBench, useBenchStore } from '../state/context';
import { peekUpTo } from '../state/peek';
import { iconOf } from '../desk/kindIcons';
import { MaskLines, Picture } from '../desk/Thumbnails';

/** What all cards look like, those of the photograph and the result as well. */
export const face = css`
  position: relative;
  width: var(--card-width, 148px);
  height: var(--card);
  flex: none;
  background: var(--raised);
  border: 1px solid var(--line);
  border-radius: var(--radius);
`;
/** The cards at either end: the photograph, and what comes of it. */
export const ending = css`
  ${face} padding: 6px 8px 5px 46px;
  display: flex;
  flex-direction: column;
  justify-content: space-between;
  text-align: left;
  canvas {
    position: absolute;
    left: 4px;
    top: 4px;
    width: 36px;
    height: 36px;
    object-fit: cover;
    border-radius: 2px;
    background: #8a8a8a;
  }
  b {
    font-weight: 600;
  }
  span {
    color: var(--ink2);
    font-size: 11px;
    white-space: nowrap;
  }
  [data-low] & {
    width: auto;
    padding: 0 10px;
    justify-content: center;
    canvas,
    span {
      display: none;
    }
  }
`;
/** The space between two cards: shows the picture as it is there. */
export const Arrow = styled(AriaButton)`
  width: 24px;
  height: var(--card);
  flex: none;
  padding: 0;
  border: 0;
  background: none;
  display: grid;
  place-items: center;
  color: var(--ink2);
  border-radius: 2px;
  &[data-hovered] {
    background: var(--raised);
    color: var(--ink);
  }
  &[aria-pressed='true'] {
    background: var(--ink);
    color: var(--on-ink);
  }
  &[data-focus-visible] {
    outline-offset: -2px;
  }
`;
const Bracket = styled.i<{ $level: number; $begins: boolean; $ends: boolean }>`
  position: absolute;
  top: ${(p) => 3 + p.$level * 3}px;
  left: ${(p) => (p.$begins ? p.$level * 3 : 0)}px;
  right: ${(p) => (p.$ends ? 24 + p.$level * 3 : 0)}px;
  height: ${(p) => 7 - p.$level * 2}px;
  border-top: 1px solid var(--ink2);
  ${(p) => p.$begins && 'border-left: 1px solid var(--ink2);'} ${(p) => p.$ends && 'border-right: 1px solid var(--ink2);'}
`;
const Face = styled.div<{ $off: boolean }>`
  ${face} padding: 4px 3px 0 46px;
  display: flex;
  flex-direction: column;
  .grip {
    position: absolute;
    left: 4px;
    top: 4px;
    width: 36px;
    height: 36px;
    padding: 0;
    border: 0;
    border-radius: 2px;
    overflow: hidden;
    cursor: grab;
  }
  .grip canvas,
  .grip svg {
    position: absolute;
    inset: 0;
    display: block;
    width: 100%;
    height: 100%;
  }
  .grip canvas {
    object-fit: cover;
    background: #8a8a8a;
  }
  .colours {
    position: absolute;
    left: 5px;
    bottom: 5px;
    display: flex;
    pointer-events: none;
  }
  .colours i {
    width: 9px;
    height: 9px;
    border: 1px solid #fff;
  }
  .colours i + i {
    margin-left: -1px;
  }
  .does {
    position: absolute;
    left: 4px;
    top: 4px;
    width: 14px;
    height: 14px;
    display: grid;
    place-items: center;
    background: var(--panel);
    color: var(--ink);
    border-radius: 2px;
    pointer-events: none;
  }
  .more {
    position: absolute;
    right: 3px;
    top: -2px;
  }
  .name {
    font-weight: 600;
    /* One line, which ends at a word. */
    display: -webkit-box;
    -webkit-box-orient: vertical;
    -webkit-line-clamp: 1;
    line-height: 16px;
    overflow: hidden;
    padding-right: 15px;
    letter-spacing: -0.01em;
    ${(p) => p.$off && 'color: var(--ink2); font-weight: 500;'}
  }
  .foot {
    display: flex;
    align-items: center;
    gap: 1px;
    color: var(--ink2);
    white-space: nowrap;
    height: 20px;
    margin-top: auto;
  }
  .foot svg {
    flex: none;
  }
  .how {
    flex: 1;
    overflow: hidden;
    text-overflow: ellipsis;
    font-size: 11px;
    letter-spacing: -0.01em;
  }
  .foot:has(.fold) .how {
    margin-right: 24px;
  }
  .small {
    width: 17px;
    height: 20px;
    padding: 0;
    border: 0;
    background: none;
    display: grid;
    place-items: center;
    color: inherit;
    border-radius: 2px;
  }
  /* As large as targets need to be that have others around them. */
  .fold {
    position: absolute;
    right: 25px;
    bottom: 0;
    width: 24px;
    height: 24px;
    padding-right: 2px;
    justify-items: end;
  }
  .small[data-hovered] {
    background: var(--well);
    color: var(--ink);
  }
  /* As names only. */
  [data-low] & {
    flex-direction: row;
    align-items: center;
    padding: 0 3px 0 15px;
    .grip {
      width: 7px;
      height: 18px;
      top: 3px;
      left: 3px;
    }
    .name {
      flex: 1;
      white-space: nowrap;
      text-overflow: ellipsis;
      padding-right: 2px;
    }
    .foot {
      height: 100%;
      margin: 0;
    }
    .how {
      display: none;
    }
    .more,
    .fold {
      position: static;
    }
    .colours,
    .does {
      display: none;
    }
  }
  ${(p) => p.$off && 'border-style: dashed; .grip > * { opacity: 0.45; }'}
  [data-selected] & {
    border-color: var(--ink);
    box-shadow: 0 0 0 1px var(--ink);
  }
  [data-selected] &[data-worked-on='true'] {
    background: var(--ink);
    color: var(--on-ink);
    .foot {
      color: var(--on-ink);
    }
    .name {
      color: var(--on-ink);
    }
  }
  [data-selected] &[data-worked-on='true']::after {
    content: '';
    position: absolute;
    left: 50%;
    bottom: -11px;
    margin-left: -6px;
    border: 6px solid transparent;
    border-top-color: var(--ink);
  }
  [role='row'][data-focus-visible] & {
    outline: 2px solid var(--ink);
    outline-offset: 2px;
  }
`;
const modeName = (id: string): string => blendModes.find((mode) => mode.id === id)?.name ?? id;
/** The brackets say that a card is a group's; when it does nothing by itself, its card says it, too. */
const howWords = ({ kind, mode, opacity, inside, folded }: Card): string => {
  if (folded) return `${inside} ${inside === 1 ? 'layer' : 'layers'}`;
  const plain = kind === 'layer' ? 'Normal' : kind === 'group' ? 'Group' : 'Colourways';
  return `${mode === 'normal' ? plain : modeName(mode)}${opacity < 100 ? ` ${opacity}` : ''}`;
};

interface FaceProps {
  card: Card;
  ask: (id: string, what: 'name' | 'note') => void;
  openMenu: (card: Card, button: Element) => void;
}

/** What a card shows, and the arrow behind it. It follows the state by itself: with many layers, drawing all cards again takes too long. */
export const CardFace = memo(function CardFace({ card, ask, openMenu }: FaceProps) {
  const store = useBenchStore();
  const isWorkedOn = useBench((state) => state.layerId === card.id);
  const isUpTo = useBench((state) => card.after !== null && state.look.peek.upTo === card.after);
  const mask = useBench((state) => state.thumbnails.masks.get(card.id) ?? null);
  const picture = useBench((state) => state.thumbnails.cards.get(card.id) ?? null);
  const Icon = iconOf(card.does);
  return (
    <>
      {card.brackets.map(({ begins, ends }, level) => (
        <Bracket key={level} $level={level} $begins={begins} $ends={ends} aria-hidden />
      ))}
      <Face
        $off={!card.on || card.shown === false}
        data-worked-on={isWorkedOn}
        onDoubleClick={() => ask(card.id, 'name')}
        onContextMenu={(event) => {
          event.preventDefault();
          openMenu(card, event.currentTarget);
        }}
      >
        <AriaButton slot="drag" className="grip" aria-label={`Move ${card.name}`}>
          <Picture picture={picture} />
          <MaskLines mask={card.everywhere ? null : mask} />
        </AriaButton>
        <span className="does" aria-hidden>
          <Icon size={11} strokeWidth={1.75} />
        </span>
        {card.colours.length > 0 && (
          <span className="colours" aria-hidden>
            {card.colours.map((background, i) => (
              <i key={i} style={{ background }} />
            ))}
          </span>
        )}
        <span className="name" title={card.name}>
          {card.name}
        </span>
        <span className="foot">
          {card.clip && <Paperclip size={11} strokeWidth={1.5} aria-label="clipped to the layer below" />}
          {card.note && (
            <span title={card.note} style={{ display: 'grid' }}>
              <StickyNote size={11} strokeWidth={1.5} aria-label={`Note: ${card.note}`} />
            </span>
          )}
          {card.inside > 0 && (
            <AriaButton
              className="small fold"
              aria-label={`${card.folded ? 'Unfold' : 'Fold'} ${card.name}`}
              onPress={() => foldGroup(store.getState(), card.id)}
            >
              {card.folded ? <UnfoldHorizontal size={12} strokeWidth={1.5} /> : <FoldHorizontal size={12} strokeWidth={1.5} />}
            </AriaButton>
          )}
          <span className="how" title={`${modeName(card.mode)}, ${card.opacity} %`}>
            {howWords(card)}
          </span>
          <AriaButton className="small more" aria-label={`More about ${card.name}`} onPress={({ target }) => openMenu(card, target)}>
            <MoreHorizontal size={13} strokeWidth={1.5} />
          </AriaButton>
          {card.shown === null ? (
            <AriaButton
              className="small"
              aria-label={`${card.name} ${card.on ? 'off' : 'on'}`}
              onPress={() => switchLayer(store.getState(), card.id)}
            >
              <Circle size={11} strokeWidth={1.5} fill={card.on ? 'currentColor' : 'none'} />
            </AriaButton>
          ) : (
            <AriaButton
              className="small"
              aria-label={`Show ${card.name}`}
              aria-pressed={card.shown}
              onPress={() => chooseColourway(store.getState(), card.id)}
            >
              {card.shown ? <Disc size={12} strokeWidth={1.75} /> : <Circle size={11} strokeWidth={1.5} />}
            </AriaButton>
          )}
        </span>
      </Face>
      {card.after !== null && (
        <Arrow aria-label={`Picture after ${card.name}`} aria-pressed={isUpTo} onPress={() => peekUpTo(store.getState(), card.after)}>
          ›
        </Arrow>
      )}
    </>
  );
});
