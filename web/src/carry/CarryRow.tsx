'use client';
import type { CarrySummary } from '@umbo/data';
import { RotateCcw, X } from 'lucide-react';
import { useState } from 'react';
import styled from 'styled-components';
import { IconButton, LinkButton } from '@/ui/controls/Button';
import { Hint } from '@/ui/controls/Hint';
import { Num } from '@/ui/controls/Num';
import { Progress } from '@/ui/controls/Progress';
import { request } from '@/ui/request';
import { waitsWords } from '@/ui/waits';
import { carriedWords, countOf } from './outcomes';
import { leftOf } from './useCarries';

const Row = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 1.3fr) minmax(0, 1fr) auto;
  gap: 4px 18px;
  align-items: center;
  min-height: 44px;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
  font-size: 12px;
  line-height: 16px;
  > span {
    min-width: 0;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  b {
    font-weight: 600;
  }
  small {
    font-size: 12px;
    color: var(--ink2);
  }
  > div:last-child {
    display: flex;
    gap: 6px;
    justify-content: flex-end;
  }
`;

/** What was carried from one photograph to others: how far it is, and what is to be looked at. */
export function CarryRow({ carry, refresh }: { carry: CarrySummary; refresh: () => Promise<void> }) {
  const { id, photographs, done, failed, cancelled, progress, here, remarks, waits } = carry;
  const [problem, setProblem] = useState<string | null>(null);
  const left = leftOf(carry);
  const act = (what: 'cancel' | 'retry'): void =>
    void request('POST', `/api/carries/${id}/${what}`)
      .then(
        () => setProblem(null),
        (error: Error) => setProblem(error.message),
      )
      .finally(refresh);
  const ended = [
    remarks > 0 && `${remarks} to look at`,
    failed > 0 && `${failed} failed`,
    cancelled > 0 && `${cancelled} cancelled`,
    remarks + failed + cancelled === 0 && (here > 0 ? 'nothing to look at' : 'none of it is there now'),
  ].filter((words) => words !== false);
  return (
    <Row aria-label={carriedWords(carry)}>
      <span>
        {carriedWords(carry)}
        {problem && <small role="alert"> {problem}</small>}
      </span>
      {left > 0 ? (
        <div>
          <Progress label={`Carrying to ${countOf(photographs)}`} share={progress} />
          <Num>
            {done} of {photographs}
          </Num>
          {waits && <> · {waitsWords(waits)}</>}
        </div>
      ) : (
        <small role="status">{ended.join(' · ')}</small>
      )}
      <div>
        <LinkButton $primary={left === 0 && remarks > 0} href={`/carries/${id}`}>
          Report
        </LinkButton>
        {failed + cancelled > 0 && (
          <Hint text="Carry to those that failed or were cancelled after all">
            <IconButton aria-label={`Try ${failed + cancelled} again`} onPress={() => act('retry')}>
              <RotateCcw size={14} strokeWidth={1.5} />
            </IconButton>
          </Hint>
        )}
        {left > 0 && (
          <Hint text="Cancel what is left">
            <IconButton aria-label={`Cancel ${left}`} onPress={() => act('cancel')}>
              <X size={14} />
            </IconButton>
          </Hint>
        )}
      </div>
    </Row>
  );
}
