import { Piscina } from 'piscina';
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

interface Waiting {
  readonly task: Task;
  readonly signal: AbortSignal | undefined;
  readonly resolve: (answer: Answer) => void;
  readonly reject: (reason: unknown) => void;
}

/** A thread that dies fails its task, and is replaced. @param thread the file that does tasks */
export function createPool(size: number, thread = new URL('./thread.js', import.meta.url)): Pool {
  const threads = new Piscina<Task, Outcome>({
    filename: thread.href,
    minThreads: size,
    maxThreads: size,
    // A thread that waits does something all the same: it gives its memory back.
    atomics: 'disabled',
  });
  // Whoever waits for a task hears of it; what no one waits for, such as a thread that does not come up, shows at the next task.
  threads.on('error', () => undefined);

  // Tasks that can be ended go past a queue that the package is given: it gets no more than it has threads for.
  const first: Waiting[] = [];
  const last: Waiting[] = [];
  let running = 0;
  const begin = async ({ task, signal, resolve, reject }: Waiting): Promise<void> => {
    running++;
    try {
      const outcome = await threads.run(task, { signal: signal ?? null });
      if ('error' in outcome) reject(Object.assign(new Error(outcome.error.message), { name: outcome.error.name }));
      else resolve(outcome.answer);
    } catch (error) {
      reject(signal?.aborted ? signal.reason : error);
    }
    running--;
    next();
  };
  const next = (): void => {
    while (running < size) {
      const waiting = first.shift() ?? last.shift();
      if (!waiting) return;
      void begin(waiting);
    }
  };
  return {
    size,
    async run(task, { signal, last: goesLast = false } = {}) {
      signal?.throwIfAborted();
      const queue = goesLast ? last : first;
      let end = (): void => undefined;
      try {
        return await new Promise<Answer>((resolve, reject) => {
          const waiting = { task, signal, resolve, reject };
          queue.push(waiting);
          end = () => {
            const at = queue.indexOf(waiting);
            if (at < 0) return;
            queue.splice(at, 1);
            reject(signal!.reason);
          };
          signal?.addEventListener('abort', end, { once: true });
          next();
        });
      } finally {
        // What has ended is held by nothing, however long the signal lives.
        signal?.removeEventListener('abort', end);
      }
    },
    close: () => threads.destroy(),
  };
}
