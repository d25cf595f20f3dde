'use client';
import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import styled from 'styled-components';
import { BareButton } from '@/ui/controls/Button';
import { Progress } from '@/ui/controls/Progress';
import { useBench, useBenchStore } from '../state/context';

const Words = styled.div<{ $low?: boolean }>`
  position: absolute;
  left: 50%;
  top: ${(p) => (p.$low ? 54 : 12)}px;
  transform: translateX(-50%);
  width: max-content;
  max-width: min(480px, calc(100% - 24px));
  padding: 5px 8px 5px 12px;
  background: var(--panel);
  border: 1px solid var(--edge);
  border-radius: var(--radius);
  display: flex;
  gap: 10px;
  align-items: center;
  min-width: 120px;
`;

/** How long a notice is read: a moment, and more for each letter. */
const readingMs = (text: string): number => 3500 + 60 * text.length;

/** What the bench has to say over the photograph: it goes by itself, except where nothing can be shown at all. */
export function Notices() {
  const loading = useBench((state) => state.loading);
  const asking = useBench((state) => state.asking);
  const failure = useBench((state) => state.failure);
  const notice = useBench((state) => state.notice);
  return (
    <>
      {loading !== null && <Going words="Loading pixels" share={loading} />}
      {loading === null && asking !== null && <Going words="Measuring" share={asking} />}
      {failure && <Words role="alert">{failure}</Words>}
      {notice && !failure && <Notice key={notice} text={notice} />}
    </>
  );
}

/** Below what is said about the next step. */
const useLow = (): boolean => useBench((state) => state.guide !== null);

function Going({ words, share }: { words: string; share: number }) {
  const low = useLow();
  return (
    <Words role="status" $low={low}>
      {words}
      <div style={{ width: 120 }}>
        <Progress label={words} share={share} />
      </div>
    </Words>
  );
}

function Notice({ text }: { text: string }) {
  const store = useBenchStore();
  const [held, setHeld] = useState(false);
  const low = useLow();
  useEffect(() => {
    if (held) return;
    const timer = setTimeout(() => store.getState().notice === text && store.getState().set({ notice: null }), readingMs(text));
    return () => clearTimeout(timer);
  }, [store, text, held]);
  return (
    <Words
      role="status"
      $low={low}
      onPointerDown={(event) => event.stopPropagation()}
      onPointerEnter={() => setHeld(true)}
      onPointerLeave={() => setHeld(false)}
      onFocus={() => setHeld(true)}
      onBlur={() => setHeld(false)}
    >
      {text}
      <BareButton aria-label="Close the notice" onPress={() => store.getState().set({ notice: null })}>
        <X size={13} strokeWidth={1.5} aria-hidden />
      </BareButton>
    </Words>
  );
}
