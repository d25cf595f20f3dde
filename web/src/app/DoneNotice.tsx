'use client';
import type { BatchSummary, CarrySummary } from '@umbo/data';
import { X } from 'lucide-react';
import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import styled from 'styled-components';
import { carriedWords } from '@/carry/outcomes';
import { leftOf } from '@/carry/useCarries';
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
const filesLeft = ({ files, done, failed, cancelled }: BatchSummary): number => files - done - failed - cancelled;
const wordsOf = ({ files, done, failed }: BatchSummary): string =>
  `${done === files ? (files === 1 ? 'One file is' : `${files} files are`) : `${done} of ${files} files are`} ready${failed > 0 ? `, ${failed} failed` : ''}.`;

const wordsOfCarry = (carry: CarrySummary): string =>
  `${carriedWords(carry)} in ${carry.shoot}${carry.remarks > 0 ? `: ${carry.remarks} to look at` : ', done'}.`;

/** Whether this window is the one that says it: each piece of news is told once, in a window that is seen. */
function isOurs(news: string): boolean {
  if (document.visibilityState !== 'visible') return false;
  const key = `umbo-told-${news}`;
  if (toldAt(localStorage.getItem(key)) !== null) return false;
  localStorage.setItem(key, String(Date.now()));
  for (const old of Object.keys(localStorage).filter((name) => name.startsWith('umbo-told-')))
    if (toldAt(localStorage.getItem(old)) === null) localStorage.removeItem(old);
  return true;
}
/** When something was told; null: not within a day. */
const toldAt = (at: string | null): number | null => (at !== null && Date.now() - Number(at) < 24 * 3_600_000 ? Number(at) : null);

/** How long it stays: a moment, and more for each letter; as long as it is pointed at. */
const staysMs = (words: string): number => 12_000 + 60 * words.length;

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
    const begun = Date.now();
    /** Whether something has come to its end; what came and went between two looks is news as well. */
    const isNews = (id: string, createdAt: string, now: number): boolean => {
      const before = left.current.get(id) ?? (Date.parse(createdAt) > begun ? 1 : 0);
      left.current.set(id, now);
      return now === 0 && before > 0;
    };
    // Without an answer it is looked at when something happens next.
    const lookAtFiles = async (): Promise<void> => {
      for (const batch of await request<BatchSummary[]>('GET', '/api/hand-overs/batches').catch(() => []))
        if (isNews(batch.id, batch.createdAt, filesLeft(batch)) && batch.done > 0 && isOurs(batch.id))
          setDone({
            words: wordsOf(batch),
            page: { href: '/hand-over', words: 'Hand-over' },
            zip: `/api/hand-overs/batches/${batch.id}/zip`,
          });
    };
    const lookAtCarries = async (shootId: number): Promise<void> => {
      for (const carry of await request<CarrySummary[]>('GET', `/api/shoots/${shootId}/carries`).catch(() => []))
        if (isNews(carry.id, carry.createdAt, leftOf(carry)) && carry.done > 0 && isOurs(carry.id))
          setDone({ words: wordsOfCarry(carry), page: { href: `/carries/${carry.id}`, words: 'Report' } });
    };
    let timer: ReturnType<typeof setTimeout> | undefined;
    let files = false;
    const shoots = new Set<number>();
    const look = (): void => {
      timer = undefined;
      if (files) void lookAtFiles();
      for (const shootId of shoots) void lookAtCarries(shootId);
      files = false;
      shoots.clear();
    };
    const end = onServerEvents((heard) => {
      for (const { kind, subject } of heard ?? []) {
        if (kind === 'hand-over') files = true;
        else if (kind === 'carry') shoots.add(subject);
        else continue;
        timer ??= setTimeout(look, LOOK_AFTER_MS);
      }
    });
    return () => {
      clearTimeout(timer);
      end();
    };
  }, []);
  const [isHeld, setHeld] = useState(false);
  useEffect(() => {
    if (!done || isHeld) return;
    const timer = setTimeout(() => setDone(null), staysMs(done.words));
    return () => clearTimeout(timer);
  }, [done, isHeld]);
  if (!done || path === done.page.href) return null;
  return (
    <Notice
      onPointerEnter={() => setHeld(true)}
      onPointerLeave={() => setHeld(false)}
      onFocus={() => setHeld(true)}
      onBlur={() => setHeld(false)}
    >
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
