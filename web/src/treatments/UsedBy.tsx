'use client';
import type { CarrySummary, TreatmentDetail, TreatmentUse } from '@umbo/data';
import Link from 'next/link';
import { useState } from 'react';
import styled from 'styled-components';
import { ALL_OF_IT } from '@/carry/useTrial';
import { Button } from '@/ui/controls/Button';
import { request } from '@/ui/request';
import { useServerEvents } from '@/ui/serverEvents';
import { useSoon } from '@/ui/useSoon';

const Uses = styled.ul`
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  max-height: 150px;
  overflow: auto;
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto auto;
    gap: 12px;
    align-items: center;
    min-height: 30px;
    border-bottom: 1px solid var(--line);
  }
  small {
    font-size: 12px;
    color: var(--ink2);
  }
`;
const Head = styled.div`
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 28px;
  h2 {
    flex: 1;
  }
`;

const LOOK_AFTER_MS = 500;

interface Props {
  treatment: TreatmentDetail;
  uses: readonly TreatmentUse[];
  refresh: () => Promise<void>;
}

/** The photographs whose layers came from a treatment: brought up to date, or let go. */
export function UsedBy({ treatment: { id, version }, uses, refresh }: Props) {
  const [problem, setProblem] = useState<string | null>(null);
  useServerEvents(
    ({ kind, subject }) => kind === 'carry' || (kind === 'document' && uses.some(({ photographId }) => photographId === subject)),
    useSoon(() => void refresh(), LOOK_AFTER_MS),
  );
  const behind = uses.filter((use) => use.version < version);
  const act = (work: Promise<unknown>): void =>
    void work.then(
      () => refresh(),
      (error: Error) => setProblem(error.message),
    );
  const bring = async (): Promise<void> => {
    setProblem(null);
    // A carry keeps to one shoot.
    for (const shootId of new Set(behind.map((use) => use.shootId)))
      await request<Pick<CarrySummary, 'id'>>('POST', '/api/carries', {
        key: crypto.randomUUID(),
        from: { kind: 'treatment', id },
        photographs: behind.filter((use) => use.shootId === shootId).map(({ photographId }) => photographId),
        choice: ALL_OF_IT,
        how: 'changes',
        isTrial: false,
      });
  };
  if (uses.length === 0) return null;
  return (
    <>
      <Head>
        <h2>{uses.length === 1 ? 'One photograph uses it' : `${uses.length} photographs use it`}</h2>
        {behind.length > 0 && (
          <Button $primary onPress={() => act(bring())}>
            Bring {behind.length} up to date
          </Button>
        )}
      </Head>
      {problem && <p role="alert">{problem}</p>}
      <Uses aria-label="Photographs that use it">
        {uses.map(({ photographId, name, shoot, version: of }) => (
          <li key={photographId}>
            <span>
              <Link href={`/photographs/${photographId}`}>{name}</Link> <small>{shoot}</small>
            </span>
            <small>{of < version ? `version ${of}` : 'up to date'}</small>
            <Button onPress={() => act(request('POST', `/api/treatments/${id}/let-go`, { photographId }))}>Let go</Button>
          </li>
        ))}
      </Uses>
    </>
  );
}
