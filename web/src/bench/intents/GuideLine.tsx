'use client';
import { X } from 'lucide-react';
import { useEffect, useState, type KeyboardEvent } from 'react';
import styled from 'styled-components';
import { BareButton, Button } from '@/ui/controls/Button';
import { TextInput } from '@/ui/controls/TextField';
import { useBench, useBenchStore } from '../state/context';
import type { Guide } from '../state/benchState';
import type { Step } from './intent';
import { follow, next, stepOf } from './following';

const Line = styled.div`
  position: absolute;
  left: 50%;
  top: 12px;
  transform: translateX(-50%);
  z-index: 2;
  width: max-content;
  max-width: min(560px, calc(100% - 24px));
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 6px 8px 6px 12px;
  background: var(--panel);
  border: 1px solid var(--edge);
  border-radius: var(--radius);
  cursor: default;
  user-select: text;
  p {
    margin: 0;
  }
  input {
    width: 150px;
  }
`;

/** The next thing to do of what was begun, over the photograph; Escape leaves it, and what was done stays. */
export function GuideLine() {
  const store = useBenchStore();
  const guide = useBench((state) => state.guide);
  useEffect(() => follow(store), [store]);
  useEffect(() => {
    if (!guide) return;
    const leave = (event: globalThis.KeyboardEvent): void => {
      if (event.key === 'Escape' && !document.querySelector('[role=dialog], [role=menu], [role=listbox]'))
        store.getState().set({ guide: null });
    };
    addEventListener('keydown', leave);
    return () => removeEventListener('keydown', leave);
  }, [store, guide]);
  const step = guide && stepOf(guide);
  if (!guide || !step) return null;
  return (
    <Line role="status" aria-label="What to do next" onPointerDown={(event) => event.stopPropagation()}>
      <p>{step.says}</p>
      {step.typed && <Typed key={guide.step} guide={guide} typed={step.typed} />}
      <BareButton aria-label="Leave this" onPress={() => store.getState().set({ guide: null })}>
        <X size={13} strokeWidth={1.5} aria-hidden />
      </BareButton>
    </Line>
  );
}

function Typed({ guide, typed }: { guide: Guide; typed: NonNullable<Step['typed']> }) {
  const store = useBenchStore();
  const [text, setText] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  const take = (): void => {
    const wrong = typed(store.getState, guide.began, text);
    setFault(wrong);
    if (wrong === null) store.getState().set({ guide: next(guide) });
  };
  const press = (event: KeyboardEvent): void => {
    if (event.key === 'Enter') take();
    if (event.key !== 'Escape') event.stopPropagation();
  };
  return (
    <>
      <TextInput
        autoFocus
        aria-label="Colour"
        aria-invalid={fault !== null}
        placeholder="#7a2e3b"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={press}
      />
      <Button onPress={take}>Do it</Button>
      {fault && <p role="alert">{fault}</p>}
    </>
  );
}
