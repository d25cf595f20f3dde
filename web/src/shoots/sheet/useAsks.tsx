'use client';
import type { PhotographSummary } from '@umbo/data';
import { useRouter } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import { AskSure, type Warning } from '@/ui/AskSure';
import { AskWords, type Question } from '@/ui/AskWords';
import { request } from '@/ui/request';
import type { Changes } from './useChanges';

interface Asks {
  shootName: () => void;
  removeShoot: () => void;
  photographName: (photograph: PhotographSummary) => void;
  /** What is asked just now. */
  dialogs: ReactNode;
}

/** What is asked before a shoot or a photograph gets another name, or a shoot goes. */
export function useAsks(shoot: { id: number; name: string }, photographs: number, { act, rename }: Changes): Asks {
  const router = useRouter();
  const [warning, setWarning] = useState<Warning | null>(null);
  const [question, setQuestion] = useState<Question | null>(null);
  return {
    shootName: () =>
      setQuestion({
        title: 'Rename the shoot',
        label: 'Name',
        text: shoot.name,
        button: 'Rename',
        then: (name) => void act(() => request('PATCH', `/api/shoots/${shoot.id}`, { name })),
      }),
    photographName: (photograph) =>
      setQuestion({
        title: `Rename “${photograph.name}”`,
        label: 'Name',
        text: photograph.name,
        button: 'Rename',
        then: (name) => void rename(photograph, name),
      }),
    removeShoot: () =>
      setWarning({
        title: `Remove the shoot “${shoot.name}”?`,
        words:
          photographs === 0
            ? 'The shoot is empty; its palettes go with it.'
            : `All ${photographs} photographs go with their edits, histories, versions and hand-overs, and so do the palettes.`,
        button: 'Remove',
        then: () =>
          void act(async () => {
            await request('DELETE', `/api/shoots/${shoot.id}`);
            router.push('/');
          }),
      }),
    dialogs: (
      <>
        <AskSure warning={warning} onDone={() => setWarning(null)} />
        <AskWords question={question} onDone={() => setQuestion(null)} />
      </>
    ),
  };
}
