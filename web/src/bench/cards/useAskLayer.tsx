'use client';
import { findLayer } from '@umbo/core/document';
import { useCallback, useState, type ReactNode } from 'react';
import { AskWords, type Question } from '@/ui/AskWords';
import { noteOnLayer, renameLayer } from '../state/actions';
import { useBenchStore } from '../state/context';

export type AskLayer = (id: string, what: 'name' | 'note') => void;

/** Asks for a layer's name or note. @returns how, and what is asked just now */
export function useAskLayer(): [AskLayer, ReactNode] {
  const store = useBenchStore();
  const [question, setQuestion] = useState<Question | null>(null);
  const ask = useCallback(
    (id: string, what: 'name' | 'note'): void => {
      const layer = findLayer(store.getState().committed, id);
      if (!layer) return;
      if (what === 'name')
        setQuestion({
          title: 'Rename the layer',
          label: 'Name',
          text: layer.name,
          button: 'Rename',
          then: (name) => renameLayer(store.getState(), id, name),
        });
      else
        setQuestion({
          title: `A note on “${layer.name}”`,
          label: 'Note',
          text: layer.note ?? '',
          button: 'Keep the note',
          lines: 4,
          blank: true,
          then: (note) => noteOnLayer(store.getState(), id, note),
        });
    },
    [store],
  );
  return [ask, <AskWords key="question" question={question} onDone={() => setQuestion(null)} />];
}
