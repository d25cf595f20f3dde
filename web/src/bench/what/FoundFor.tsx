'use client';
import { repeatable, type Layer } from '@umbo/core/document';
import { ClipboardCheck, Crosshair } from 'lucide-react';
import Link from 'next/link';
import { Button } from '@/ui/controls/Button';
import { useBench, useBenchStore } from '../state/context';
import { numbersOnly, solveAgain } from '../state/solving';
import { letGo } from '@/treatments/onBench';
import { QuietRow } from './editorParts';

/** What a layer's settings were solved for, and the treatment that it came from; nothing for most. */
export function FoundFor({ layer }: { layer: Layer }) {
  const store = useBenchStore();
  const { foundBy, treatment } = layer;
  const solved = foundBy?.kind === 'solver' ? foundBy : null;
  const letters = useBench(({ committed }) =>
    solved && repeatable(committed).some(({ id }) => id === layer.id)
      ? (committed.readings ?? [])
          .filter(({ id }) => solved.readings.some((one) => one.id === id && one.aim.kind !== 'hold'))
          .map(({ letter }) => letter)
          .join(', ')
      : '',
  );
  const isSolving = useBench(({ solving }) => solving !== null);
  return (
    <>
      {solved && letters !== '' && (
        <QuietRow role="group" aria-label="Found for readings">
          <Crosshair size={13} strokeWidth={1.5} aria-hidden />
          <span>Found for {letters}</span>
          <Button isDisabled={isSolving} onPress={() => solveAgain(store.getState, solved)}>
            Solve again
          </Button>
          <Button onPress={() => numbersOnly(store.getState(), layer)}>Numbers only</Button>
        </QuietRow>
      )}
      {treatment && (
        <QuietRow role="group" aria-label="Treatment">
          <ClipboardCheck size={13} strokeWidth={1.5} aria-hidden />
          <span>
            <Link href={`/treatments?show=${treatment.id}`}>Treatment</Link>, version {treatment.version}
          </span>
          <Button onPress={() => letGo(store.getState(), layer)}>Let go</Button>
        </QuietRow>
      )}
    </>
  );
}
