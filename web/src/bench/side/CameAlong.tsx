'use client';
import { findMaskOwner } from '@umbo/core/document';
import { X } from 'lucide-react';
import styled from 'styled-components';
import { IconButton } from '@/ui/controls/Button';
import { Hint } from '@/ui/controls/Hint';
import { wordsFor } from '../state/carrying';
import { useBench, useBenchStore } from '../state/context';
import type { CarriedShares } from '../state/copied';

const Head = styled.div`
  display: flex;
  align-items: center;
  margin-top: 8px;
  b {
    flex: 1;
    font-weight: 600;
  }
`;
const List = styled.ul`
  list-style: none;
  margin: 0 -14px;
  padding: 0;
  max-height: 40%;
  overflow: auto;
  flex-shrink: 0;
  border-top: 1px solid var(--line);
  border-bottom: 1px solid var(--line);
  button {
    width: 100%;
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    padding: 3px 14px;
    border: 0;
    background: none;
    text-align: left;
    cursor: default;
  }
  button:hover {
    background: var(--well);
  }
  button:focus-visible {
    outline-offset: -2px;
  }
  span {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  code {
    font-size: 11px;
  }
  small {
    grid-column: 1 / -1;
    font-size: 11px;
    color: var(--ink2);
  }
`;

const percent = (share: number): string => (share * 100).toFixed(share < 0.0995 ? 1 : 0);

/** What the masks that came along cover here, against where they came from; a press goes there. */
export function CameAlong() {
  const store = useBenchStore();
  const carried = useBench((state) => state.carried);
  if (!carried) return null;
  return (
    <>
      <Head>
        <b>Came along</b>
        <Hint text="Put this list away">
          <IconButton aria-label="Put this list away" onPress={() => store.getState().set({ carried: null })}>
            <X size={13} strokeWidth={1.5} />
          </IconButton>
        </Hint>
      </Head>
      {carried.words.map((words) => (
        <p key={words}>{words}</p>
      ))}
      <List aria-label="Masks that came along">
        {carried.masks.map((mask) => (
          <CarriedLine key={mask.id} mask={mask} />
        ))}
      </List>
    </>
  );
}

function CarriedLine({ mask }: { mask: CarriedShares }) {
  const store = useBenchStore();
  const name = useBench((state) => findMaskOwner(state.committed, mask.id)?.name ?? 'Gone');
  const words = useBench((state) => wordsFor(state, mask));
  return (
    <li>
      <button type="button" onClick={() => store.getState().select(mask.id)}>
        <span>{name}</span>
        <code>
          {mask.before !== null && `${percent(mask.before)} → `}
          {percent(mask.now)} %
        </code>
        {words && <small>{words}</small>}
      </button>
    </li>
  );
}
