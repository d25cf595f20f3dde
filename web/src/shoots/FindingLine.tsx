'use client';
import type { FindingSummary } from '@umbo/data';
import { useCallback, useEffect, useState } from 'react';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { request } from '@/ui/request';
import { waitsWords } from '@/ui/waits';
import { useServerEvents } from '@/ui/serverEvents';

const Line = styled.div`
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 8px 24px;
  background: var(--panel);
  color: var(--ink);
  border-bottom: 1px solid var(--line);
  span {
    flex: 1;
    min-width: 0;
  }
  i {
    display: block;
    height: 100%;
    background: var(--ink);
  }
`;
const Bar = styled.div`
  width: 220px;
  height: 4px;
  background: var(--track);
  border-radius: 2px;
  overflow: hidden;
`;
/** Progress within one photograph is asked for this often. */
const LOOK_EVERY_MS = 1000;

/** What is being found in a shoot on the server, and what could not be; nothing while there is neither. @param onStop stops it, or forgets what could not be */
export function FindingLine({ shootId, onStop }: { shootId: number; onStop: () => void }) {
  const [jobs, setJobs] = useState<readonly FindingSummary[]>([]);
  const [most, setMost] = useState(0);
  const look = useCallback(async (): Promise<void> => {
    const found = await request<FindingSummary[]>('GET', `/api/shoots/${shootId}/finding`).catch(() => null);
    if (!found) return;
    const left = found.filter(({ state }) => state !== 'failed').length;
    setJobs(found);
    setMost((before) => (left === 0 ? 0 : Math.max(before, left)));
  }, [shootId]);
  const isAtWork = jobs.some(({ state }) => state !== 'failed');
  useEffect(() => {
    // Not in the effect itself: what it finds comes later.
    const first = setTimeout(() => void look());
    const timer = isAtWork ? setInterval(() => void look(), LOOK_EVERY_MS) : undefined;
    return () => {
      clearTimeout(first);
      clearInterval(timer);
    };
  }, [look, isAtWork]);
  useServerEvents(
    ({ kind, subject }) => kind === 'find' && subject === shootId,
    () => void look(),
  );
  if (jobs.length === 0) return null;
  const running = jobs.filter(({ state }) => state === 'running');
  const left = jobs.filter(({ state }) => state !== 'failed').length;
  const failed = jobs.filter(({ state }) => state === 'failed');
  const done = most - left + running.reduce((sum, { progress }) => sum + progress, 0);
  const words = [
    isAtWork && `Regions are being found: ${left === 1 ? 'one photograph' : `${left} photographs`} left`,
    isAtWork && running[0] && `now ${running[0].photograph}`,
    isAtWork && !running[0] && waitsWords(jobs.find(({ waits }) => waits)?.waits ?? null),
    failed.length > 0 && `not in ${failed.map(({ photograph, error }) => `${photograph} (${error ?? 'no reason'})`).join(', ')}`,
  ];
  return (
    <Line role="status" aria-label="Finding regions">
      <span>{words.filter((one) => one !== false && one !== undefined).join('; ')}</span>
      {isAtWork && (
        <Bar
          role="progressbar"
          aria-label="Found so far"
          aria-valuemin={0}
          aria-valuemax={100}
          aria-valuenow={Math.round((done / most) * 100)}
        >
          <i style={{ width: `${(done / most) * 100}%` }} />
        </Bar>
      )}
      <Button onPress={onStop}>{isAtWork ? 'Stop' : 'Put away'}</Button>
    </Line>
  );
}
