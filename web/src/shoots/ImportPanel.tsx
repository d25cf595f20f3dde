'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo } from 'react';
import { AlertTriangle, Check, X } from 'lucide-react';
import styled from 'styled-components';
import { Button, IconButton } from '@/ui/controls/Button';
import { Hint } from '@/ui/controls/Hint';
import { Progress } from '@/ui/controls/Progress';
import { useImports, type Import } from './imports';

const Panel = styled.aside`
  position: fixed;
  right: 16px;
  bottom: 16px;
  z-index: 20;
  width: 380px;
  max-height: 60vh;
  display: flex;
  flex-direction: column;
  background: var(--panel);
  border: 1px solid var(--edge);
  border-radius: var(--radius);
  box-shadow: 0 3px 14px #0005;
  font-size: 12px;
  line-height: 16px;
  header {
    display: flex;
    align-items: center;
    justify-content: space-between;
    padding: 10px 12px;
    border-bottom: 1px solid var(--line);
    font-weight: 650;
  }
  ul {
    list-style: none;
    margin: 0;
    padding: 4px 12px 8px;
    overflow: auto;
  }
  li {
    display: grid;
    grid-template-columns: 1fr auto;
    gap: 3px 8px;
    align-items: center;
    padding: 6px 0;
    border-bottom: 1px solid var(--line);
    min-height: 34px;
  }
  li:last-child {
    border: 0;
  }
  b {
    font-weight: 500;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  p {
    grid-column: 1 / 3;
    color: var(--ink2);
  }
  .bar {
    grid-column: 1 / 3;
  }
`;

const WORDS: Record<Import['state'], string> = {
  waiting: 'waiting',
  sending: 'sending',
  reading: 'reading',
  done: 'imported',
  refused: 'refused',
  cancelled: 'cancelled',
};

/** Files on their way, with what became of each. */
export function ImportPanel() {
  const { list, cancel, clear } = useImports();
  const router = useRouter();
  const done = useMemo(() => list.filter(({ state }) => state === 'done').length, [list]);
  const active = list.filter(({ state }) => state === 'waiting' || state === 'sending' || state === 'reading').length;
  useEffect(() => {
    if (done > 0) router.refresh();
  }, [done, router]);
  if (list.length === 0) return null;
  return (
    <Panel aria-label="Imports">
      <header>
        <span role="status">
          {active > 0 ? `Importing, ${active} to go` : `${done} imported${list.length > done ? `, ${list.length - done} not` : ''}`}
        </span>
        {active === 0 && <Button onPress={clear}>Close</Button>}
      </header>
      <ul>
        {list.map((item) => (
          <li key={item.id}>
            <b title={item.name}>{item.name}</b>
            {item.state === 'waiting' || item.state === 'sending' || item.state === 'reading' ? (
              <Hint text="Cancel">
                <IconButton aria-label={`Cancel ${item.name}`} onPress={() => cancel(item.id)}>
                  <X size={14} />
                </IconButton>
              </Hint>
            ) : (
              <span>
                {item.state === 'done' ? (
                  <Check size={13} aria-hidden />
                ) : item.state === 'refused' ? (
                  <AlertTriangle size={13} aria-hidden />
                ) : null}{' '}
                {WORDS[item.state]}
              </span>
            )}
            {(item.reason ?? item.note) && <p>{item.reason ?? item.note}</p>}
            {(item.state === 'sending' || item.state === 'reading') && (
              <div className="bar">
                <Progress label={`${item.name}: ${WORDS[item.state]}`} share={item.state === 'reading' ? 1 : item.sent * 0.95} />
              </div>
            )}
          </li>
        ))}
      </ul>
    </Panel>
  );
}
