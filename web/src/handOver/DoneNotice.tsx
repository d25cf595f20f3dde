'use client';
import type { BatchSummary } from '@umbo/data';
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
  bottom: 60px;
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
const words = ({ files, done, failed }: BatchSummary): string =>
  `${done === files ? (files === 1 ? 'One file is' : `${files} files are`) : `${done} of ${files} files are`} ready${failed > 0 ? `, ${failed} failed` : ''}.`;

/** Says on every page but the hand-overs' own that files which were asked for together are there. */
export function DoneNotice() {
  const [done, setDone] = useState<BatchSummary | null>(null);
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
        if (leftOf(batch) === 0 && before > 0 && batch.done > 0) setDone(batch);
        left.current.set(batch.id, leftOf(batch));
      }
    };
    const end = onServerEvents((heard) => {
      if (heard?.some(({ kind }) => kind === 'hand-over')) timer ??= setTimeout(() => void look(), LOOK_AFTER_MS);
    });
    return () => {
      clearTimeout(timer);
      end();
    };
  }, []);
  if (!done || path === '/hand-over') return null;
  return (
    <Notice>
      <span role="status">{words(done)}</span>
      <a href={`/api/hand-overs/batches/${done.id}/zip`} download>
        ZIP
      </a>
      <Link href="/hand-over">Hand-over</Link>
      <IconButton aria-label="Put this away" onPress={() => setDone(null)}>
        <X size={14} strokeWidth={1.5} />
      </IconButton>
    </Notice>
  );
}
