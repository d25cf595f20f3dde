'use client';
import { percent } from '@umbo/core/base';
import { findMaskOwner } from '@umbo/core/document';
import { X } from 'lucide-react';
import Link from 'next/link';
import styled from 'styled-components';
import { IconButton } from '@/ui/controls/Button';
import { Hint } from '@/ui/controls/Hint';
import { Section } from '../desk/Section';
import { wordsFor } from '../state/carrying';
import { useBench, useBenchStore } from '../state/context';
import type { CarriedShares } from '../state/copied';

const Words = styled.div`
  display: grid;
  gap: 4px;
  margin-bottom: 6px;
`;
const List = styled.ul`
  list-style: none;
  margin: 0 -14px;
  padding: 0;
  max-height: 150px;
  overflow: auto;
  scrollbar-width: thin;
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

/** What the masks that came along cover here, against where they came from; a press goes there. */
export function CameAlong() {
  const store = useBenchStore();
  const carried = useBench((state) => state.carried);
  if (!carried) return null;
  const away = (
    <Hint text="Put this list away">
      <IconButton aria-label="Put this list away" onPress={() => store.getState().set({ carried: null })}>
        <X size={13} strokeWidth={1.5} />
      </IconButton>
    </Hint>
  );
  const { report, words, masks } = carried;
  return (
    <Section title="Came along" note={away}>
      <Words>
        {report && (
          <p>
            <Link href={`/carries/${report.id}`}>Report</Link>
            {report.next !== null && (
              <>
                {' · '}
                <Link href={`/photographs/${report.next}?carry=${report.id}`}>Next to look at</Link>
              </>
            )}
          </p>
        )}
        {words.map((one) => (
          <p key={one}>{one}</p>
        ))}
      </Words>
      <List aria-label="Masks that came along">
        {masks.map((mask) => (
          <CarriedLine key={mask.id} mask={mask} />
        ))}
      </List>
    </Section>
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
          {percent(mask.now)}
        </code>
        {words && <small>{words}</small>}
      </button>
    </li>
  );
}
