'use client';
/** What is done to the photographs of a shoot, each time with a way back. */
import type { PhotographState, PhotographSummary } from '@umbo/data';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { request } from '@/ui/request';

interface Step {
  words: string;
  back: () => Promise<unknown>;
}

export interface Changes {
  /** What was done last; null when that was put away. */
  last: Step | null;
  problem: string | null;
  /** Runs a piece of work that cannot be taken back. */
  act: (work: () => Promise<unknown>) => Promise<void>;
  mark: (photographs: readonly PhotographSummary[], state: PhotographState) => Promise<void>;
  remove: (photographs: readonly PhotographSummary[]) => Promise<void>;
  move: (photographs: readonly PhotographSummary[], shoot: { id: number; name: string }) => Promise<void>;
  rename: (photograph: PhotographSummary, name: string) => Promise<void>;
  undo: () => Promise<void>;
  dismiss: () => void;
}

const idsOf = (photographs: readonly PhotographSummary[]): number[] => photographs.map(({ id }) => id);
const change = (photographs: readonly number[], values: object): Promise<unknown> =>
  photographs.length === 0 ? Promise.resolve() : request('PATCH', '/api/photographs', { photographs, change: values });
const named = (photographs: readonly PhotographSummary[]): string =>
  photographs.length === 1 ? `“${photographs[0]!.name}”` : `${photographs.length} photographs`;

export function useChanges(shootId: number): Changes {
  const router = useRouter();
  const [steps, setSteps] = useState<readonly Step[]>([]);
  const [shown, setShown] = useState(true);
  const [problem, setProblem] = useState<string | null>(null);

  const act = async (work: () => Promise<unknown>): Promise<void> => {
    setProblem(null);
    await work().catch((error: Error) => setProblem(error.message));
    router.refresh();
  };
  const run = (words: string, forth: () => Promise<unknown>, back: () => Promise<unknown>): Promise<void> =>
    act(async () => {
      await forth();
      setSteps((before) => [...before, { words, back }]);
      setShown(true);
    });

  return {
    last: shown ? (steps.at(-1) ?? null) : null,
    problem,
    act,
    mark: (photographs, state) =>
      run(
        `${named(photographs)} marked as ${state}`,
        () => change(idsOf(photographs), { state }),
        async () => {
          for (const was of ['untouched', 'in work', 'done'] as const)
            await change(idsOf(photographs.filter((one) => one.state === was)), { state: was });
        },
      ),
    remove: (photographs) =>
      run(
        `${named(photographs)} removed`,
        () => change(idsOf(photographs), { removed: true }),
        () => change(idsOf(photographs), { removed: false }),
      ),
    move: (photographs, shoot) =>
      run(
        `${named(photographs)} moved to “${shoot.name}”`,
        () => change(idsOf(photographs), { shootId: shoot.id }),
        () => change(idsOf(photographs), { shootId }),
      ),
    rename: ({ id, name: was }, name) =>
      run(
        `“${was}” renamed`,
        () => request('PATCH', `/api/photographs/${id}`, { name }),
        () => request('PATCH', `/api/photographs/${id}`, { name: was }),
      ),
    undo: async () => {
      const step = steps.at(-1);
      if (!step) return;
      await act(async () => {
        await step.back();
        setSteps((before) => before.filter((one) => one !== step));
      });
    },
    dismiss: () => setShown(false),
  };
}
