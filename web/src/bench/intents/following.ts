/** Leads through an intent, step by step. */
import type { BenchStore, Guide } from '../state/benchState';
import type { Step } from './intent';
import { intents } from './intents';

export const stepOf = ({ intent, step }: Guide): Step | undefined => intents.find(({ id }) => id === intent)?.steps[step];

/** The guide one step on; null when there is none. */
export function next(guide: Guide): Guide | null {
  const following = { ...guide, step: guide.step + 1 };
  return stepOf(following) ? following : null;
}

/** Goes on to the next step as soon as one is done, and does what follows from it. @returns what ends it */
export const follow = (store: BenchStore): (() => void) =>
  store.subscribe((now) => {
    const step = now.guide && stepOf(now.guide);
    if (!now.guide || !step?.isDone(now, now.guide.began)) return;
    store.getState().set({ guide: next(now.guide) });
    step.after?.(store.getState, now.guide.began);
  });
