'use client';
import styled from 'styled-components';
import type { BatchSummary, HandOverSummary } from '@umbo/data';
import { Header } from '@/ui/Header';
import { Message } from '@/ui/Message';
import { BatchRow } from './BatchRow';
import { HandOverRow } from './HandOverRow';
import { useBatches } from './useBatches';
import { useHandOvers } from './useHandOvers';

const Page = styled.main`
  padding: 26px 24px 60px;
  max-width: 1100px;
  h1 {
    font: 650 26px/32px var(--sans);
    letter-spacing: -0.015em;
    margin-bottom: 6px;
  }
  > p {
    color: var(--ink2);
    margin-bottom: 18px;
  }
  ul {
    list-style: none;
    margin: 0;
    padding: 0;
    border-top: 1px solid var(--line);
    font-size: 13px;
    line-height: 18px;
  }
`;

/** Finished and unfinished renders, newest first. */
export function HandOvers({ initial, batches }: { initial: HandOverSummary[]; batches: BatchSummary[] }) {
  const { list, problem, refresh } = useHandOvers(initial);
  const together = useBatches(batches);
  return (
    <>
      <Header
        crumbs={[
          ['Shoots', '/'],
          ['Hand-over', '/hand-over'],
        ]}
      />
      <Page>
        <h1>Hand-over</h1>
        <p>Files at full size, rendered on the server. They go on when this page is closed.</p>
        {problem && <p role="alert">{problem} Trying again…</p>}
        {together.list.length > 0 && (
          <ul aria-label="Asked for together">
            {together.list.map((batch) => (
              <BatchRow key={batch.id} batch={batch} refresh={together.refresh} />
            ))}
          </ul>
        )}
        {list.length === 0 && together.list.length > 0 ? null : list.length === 0 ? (
          <Message title="Nothing handed over yet">
            <p>Choose photographs on a contact sheet and “Hand over…” below them, or open one and choose “Hand over” at the top right.</p>
          </Message>
        ) : (
          <ul aria-label="Hand-overs">
            {list.map((item) => (
              <HandOverRow key={item.id} item={item} refresh={refresh} />
            ))}
          </ul>
        )}
      </Page>
    </>
  );
}
