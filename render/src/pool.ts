import { Worker } from 'node:worker_threads';
import type { Answer, Task } from './tasks.ts';

interface Waiting {
  task: Task;
  resolve: (answer: Answer) => void;
  reject: (error: Error) => void;
}

/** How a task is done. */
export interface RunHow {
  /** Ends it, also while it runs: its thread is replaced. */
  readonly signal?: AbortSignal;
  /** Whether all others go first: for parts of a long work, among which somebody waits for a small one. */
  readonly last?: boolean;
}

/** A thread that ends sooner than this after it began has not come up: another one is not tried at once. */
const COME_UP_MS = 1000;

/** A fixed number of threads that take tasks from one queue. A thread that dies fails its task and is replaced. */
export class Pool {
  readonly #queue: Waiting[] = [];
  readonly #last: Waiting[] = [];
  readonly #idle: Worker[] = [];
  readonly #busy = new Map<Worker, Waiting>();
  #closing = false;
  readonly size: number;

  constructor(size: number) {
    this.size = size;
    for (let i = 0; i < size; i++) this.#open();
  }

  /** @throws the signal's reason when it is ended */
  run(task: Task, { signal, last = false }: RunHow = {}): Promise<Answer> {
    const { promise, resolve, reject } = promiseOf<Answer>();
    if (signal?.aborted) return Promise.reject(signal.reason as Error);
    const waiting = { task, resolve, reject };
    const queue = last ? this.#last : this.#queue;
    const end = (): void => {
      reject(signal!.reason as Error);
      const at = queue.indexOf(waiting);
      if (at >= 0) queue.splice(at, 1);
      else for (const [worker, one] of this.#busy) if (one === waiting) void worker.terminate();
    };
    signal?.addEventListener('abort', end, { once: true });
    queue.push(waiting);
    this.#next();
    return promise.finally(() => signal?.removeEventListener('abort', end));
  }

  #open(): void {
    const began = Date.now();
    const worker = new Worker(new URL('./thread.js', import.meta.url));
    worker.on('message', (message: { answer?: Answer; error?: { name: string; message: string } }) => {
      const waiting = this.#busy.get(worker)!;
      this.#busy.delete(worker);
      this.#idle.push(worker);
      if (message.error) waiting.reject(Object.assign(new Error(message.error.message), { name: message.error.name }));
      else waiting.resolve(message.answer!);
      this.#next();
    });
    worker.on('error', (error: Error) => this.#busy.get(worker)?.reject(error));
    worker.on('exit', () => {
      this.#busy.get(worker)?.reject(new Error('A render thread ended unexpectedly'));
      this.#busy.delete(worker);
      const at = this.#idle.indexOf(worker);
      if (at >= 0) this.#idle.splice(at, 1);
      if (!this.#closing) setTimeout(() => !this.#closing && this.#open(), Date.now() - began < COME_UP_MS ? COME_UP_MS : 0);
    });
    this.#idle.push(worker);
    this.#next();
  }

  #next(): void {
    while (this.#idle.length > 0 && this.#queue.length + this.#last.length > 0) {
      const worker = this.#idle.pop()!;
      const waiting = (this.#queue.shift() ?? this.#last.shift())!;
      this.#busy.set(worker, waiting);
      worker.postMessage(waiting.task);
    }
  }

  async close(): Promise<void> {
    this.#closing = true;
    await Promise.all([...this.#idle, ...this.#busy.keys()].map((worker) => worker.terminate()));
  }
}

/** A promise, and what settles it. */
function promiseOf<T>(): { promise: Promise<T>; resolve: (value: T) => void; reject: (error: Error) => void } {
  let [resolve, reject] = [(_: T): void => undefined, (_: Error): void => undefined];
  const promise = new Promise<T>((yes, no) => ([resolve, reject] = [yes, no]));
  return { promise, resolve, reject };
}
