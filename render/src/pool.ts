import { FixedQueue, Piscina, queueOptionsSymbol, type TaskQueue } from 'piscina';
import type { Answer, Task } from './tasks.ts';

/** How a task is done. */
export interface RunHow {
  /** Ends it, also while it runs: its thread is replaced. */
  readonly signal?: AbortSignal;
  /** Whether all others go first: for parts of a long work, among which somebody waits for a small one. */
  readonly last?: boolean;
}

/** Threads that take tasks from one queue. */
export interface Pool {
  readonly size: number;
  /** @throws the signal's reason when it is ended; what went wrong, also with its thread */
  run: (task: Task, how?: RunHow) => Promise<Answer>;
  close: () => Promise<void>;
}

/** What a thread says of a task: errors with their names, which cloning an error loses. */
export type Outcome = { readonly answer: Answer } | { readonly error: { readonly name: string; readonly message: string } };

/** Those that go last wait until no other is left. */
function createQueue(): TaskQueue {
  const [first, last] = [new FixedQueue(), new FixedQueue()];
  const queueOf = (task: Parameters<TaskQueue['push']>[0]): FixedQueue => (task[queueOptionsSymbol] ? last : first);
  return {
    get size() {
      return first.size + last.size;
    },
    push: (task) => queueOf(task).push(task),
    // What no thread could take after all keeps its place.
    unshift: (task) => queueOf(task).unshift(task),
    shift: () => first.shift() ?? last.shift(),
    remove: (task) => queueOf(task).remove(task),
  };
}

/** A thread that dies fails its task, and is replaced. */
export function createPool(size: number): Pool {
  const pool = new Piscina<Task, Outcome>({
    filename: new URL('./thread.js', import.meta.url).href,
    minThreads: size,
    maxThreads: size,
    taskQueue: createQueue(),
    // A thread that waits does something all the same: it gives its memory back.
    atomics: 'disabled',
  });
  return {
    size,
    async run(task, { signal, last = false } = {}) {
      const outcome = await pool
        .run({ ...task, ...(last && { [queueOptionsSymbol]: { last } }) }, { signal: signal ?? null })
        .catch((error) => {
          throw signal?.aborted ? signal.reason : error;
        });
      if ('error' in outcome) throw Object.assign(new Error(outcome.error.message), { name: outcome.error.name });
      return outcome.answer;
    },
    close: () => pool.destroy(),
  };
}
