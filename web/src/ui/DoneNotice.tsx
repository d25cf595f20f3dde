'use client';
import type { BatchSummary, CarrySummary } from '@umbo/data';
import { X } from 'lucide-react';
import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import styled from 'styled-components';
import { IconButton } from '@/ui/controls/Button';
import { request } from '@/ui/request';
import { onServerEvents } from '@/ui/serverEvents';

const Notice = styled.aside`
  position: fixed;
  left: 16px;
  bottom: 100px; /* above the tools of a stage */
  z-index: 30;
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 8px 8px 8px 14px;
  background: var(--raised);
  border: 1px solid var(--edge);
  border-radius: var(--radius);
  box-shadow: 0 3px 14px #0005;
  font-size: 12px;
  line-height: 16px;
`;

/** What happens within so long is looked at once. */
const LOOK_AFTER_MS = 800;
const leftOf = ({ files, done, failed, cancelled }: BatchSummary): number => files - done - failed - cancelled;
const wordsOf = ({ files, done, failed }: BatchSummary): string =>
  `${done === files ? (files === 1 ? 'One file is' : `${files} files are`) : `${done} of ${files} files are`} ready${failed > 0 ? `, ${failed} failed` : ''}.`;

const wordsOfCarry = ({ sourceName, photographs, remarks }: CarrySummary): string =>
  `Carried from ${sourceName} to ${photographs === 1 ? 'one photograph' : `${photographs} photographs`}${remarks > 0 ? `, ${remarks} to look at` : ''}.`;

/** Something that was asked for is there. */
interface Done {
  words: string;
  /** Where more of it is, and where nothing needs to be said of it. */
  page: { href: string; words: string };
  zip?: string;
}

/** Says on every page but its own that what was asked for together is there: files, or an edit on other photographs. */
export function DoneNotice() {
  const [done, setDone] = useState<Done | null>(null);
  const path = usePathname();
  const left = useRef(new Map<string, number>());
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const begun = Date.now();
    const look = async (): Promise<void> => {
      timer = undefined;
      // Without an answer it is looked at when something happens next.
      const batches = await request<BatchSummary[]>('GET', '/api/hand-overs/batches').catch(() => []);
      for (const batch of batches) {
        // One that came and went between two looks is news as well.
        const before = left.current.get(batch.id) ?? (Date.parse(batch.createdAt) > begun ? batch.files : 0);
        if (leftOf(batch) === 0 && before > 0 && batch.done > 0)
          setDone({
            words: wordsOf(batch),
            page: { href: '/hand-over', words: 'Hand-over' },
            zip: `/api/hand-overs/batches/${batch.id}/zip`,
          });
        left.current.set(batch.id, leftOf(batch));
      }
    };
    const lookAtCarries = async (shoots: ReadonlySet<number>): Promise<void> => {
      carryTimer = undefined;
      for (const shootId of shoots) {
        const carries = await request<CarrySummary[]>('GET', `/api/shoots/${shootId}/carries`).catch(() => []);
        for (const carry of carries) {
          const isDone = carry.done + carry.failed + carry.cancelled === carry.photographs;
          const before = left.current.get(carry.id) ?? (Date.parse(carry.createdAt) > begun ? 1 : 0);
          if (isDone && before > 0 && carry.done > 0)
            setDone({ words: wordsOfCarry(carry), page: { href: `/carries/${carry.id}`, words: 'Report' } });
          left.current.set(carry.id, isDone ? 0 : 1);
        }
      }
    };
    let carryTimer: ReturnType<typeof setTimeout> | undefined;
    const carriedIn = new Set<number>();
    const end = onServerEvents((heard) => {
      if (heard?.some(({ kind }) => kind === 'hand-over')) timer ??= setTimeout(() => void look(), LOOK_AFTER_MS);
      for (const { kind, subject } of heard ?? []) {
        if (kind !== 'carry') continue;
        carriedIn.add(subject);
        carryTimer ??= setTimeout(() => void lookAtCarries(carriedIn), LOOK_AFTER_MS);
      }
    });
    return () => {
      clearTimeout(timer);
      clearTimeout(carryTimer);
      end();
    };
  }, []);
  if (!done || path === done.page.href) return null;
  return (
    <Notice>
      <span role="status">{done.words}</span>
      {done.zip && (
        <a href={done.zip} download>
          ZIP
        </a>
      )}
      <Link href={done.page.href}>{done.page.words}</Link>
      <IconButton aria-label="Put this away" onPress={() => setDone(null)}>
        <X size={14} strokeWidth={1.5} />
      </IconButton>
    </Notice>
  );
}
