'use client';
import type { Bin } from '@umbo/data';
import { useEffect, useState } from 'react';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { Dialog, DialogActions } from '@/ui/controls/Dialog';
import { describeBytes } from '@/handOver/options';
import { request } from '@/ui/request';

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  max-height: 320px;
  overflow: auto;
  border-top: 1px solid var(--line);
  font-size: 12px;
  line-height: 16px;
  li {
    display: flex;
    align-items: center;
    gap: 12px;
    padding: 5px 2px;
    border-bottom: 1px solid var(--line);
  }
  b {
    flex: 1;
    font-weight: 500;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  span {
    color: var(--ink2);
  }
`;

const day = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium' });

/** What was removed from the shoot: to be brought back, or let go for good. */
export function BinDialog(props: {
  shootId: number;
  isOpen: boolean;
  onClose: () => void;
  /** Does it, and has the sheet read again. */
  act: (work: () => Promise<unknown>) => Promise<void>;
}) {
  const { shootId, isOpen, onClose, act } = props;
  const [bin, setBin] = useState<Bin | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [sure, setSure] = useState(false);
  const address = `/api/shoots/${shootId}/bin`;
  const read = (): Promise<void> => request<Bin>('GET', address).then(setBin, (error: Error) => setProblem(error.message));
  useEffect(() => {
    setSure(false);
    if (isOpen) void read();
  }, [isOpen]);
  const work = (what: () => Promise<unknown>): void => void act(what).then(read);
  const { photographs = [], bytes = 0 } = bin ?? {};
  return (
    <Dialog title="Bin" isOpen={isOpen} onClose={onClose} width={560}>
      <p>
        {photographs.length === 0
          ? 'Nothing lies in the bin.'
          : `${photographs.length === 1 ? 'One photograph' : `${photographs.length} photographs`} with edits, histories and versions. After 30 days they go by themselves. Emptying frees ${describeBytes(bytes)}.`}
      </p>
      {problem && <p role="alert">{problem}</p>}
      <List aria-label="Removed photographs">
        {photographs.map(({ id, name, removedAt }) => (
          <li key={id}>
            <b>{name}</b>
            <span>removed {day.format(new Date(removedAt))}</span>
            <Button onPress={() => work(() => request('PATCH', '/api/photographs', { photographs: [id], change: { removed: false } }))}>
              Bring back
            </Button>
          </li>
        ))}
      </List>
      <DialogActions>
        {sure ? (
          <Button onPress={() => work(() => request('DELETE', address).finally(() => setSure(false)))}>
            Let {photographs.length} go for good
          </Button>
        ) : (
          <Button isDisabled={photographs.length === 0} onPress={() => setSure(true)}>
            Empty the bin…
          </Button>
        )}
        <Button $primary onPress={onClose}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
