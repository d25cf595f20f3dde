import { Worker } from 'node:worker_threads';
import type { Answer, Task } from './tasks.ts';

interface Waiting {
  task: Task;
  resolve: (answer: Answer) => void;
  reject: (error: Error) => void;
}

/** A fixed number of threads that take tasks from one queue. A thread that dies fails its task and is replaced. */
export class Pool {
  readonly #queue: Waiting[] = [];
  readonly #idle: Worker[] = [];
  readonly #busy = new Map<Worker, Waiting>();
  #closing = false;
  readonly size: number;

  constructor(size: number) {
    this.size = size;
    for (let i = 0; i < size; i++) this.#open();
  }

  run(task: Task): Promise<Answer> {
    return new Promise((resolve, reject) => {
      this.#queue.push({ task, resolve, reject });
      this.#next();
    });
  }

  #open(): void {
    const worker = new Worker(new URL('./thread.js', import.meta.url));
    worker.on('message', (message: { answer?: Answer; error?: string }) => {
      const waiting = this.#busy.get(worker)!;
      this.#busy.delete(worker);
      this.#idle.push(worker);
      if (message.error !== undefined) waiting.reject(new Error(message.error));
      else waiting.resolve(message.answer!);
      this.#next();
    });
    worker.on('error', (error: Error) => this.#busy.get(worker)?.reject(error));
    worker.on('exit', () => {
      this.#busy.get(worker)?.reject(new Error('A render thread ended unexpectedly'));
      this.#busy.delete(worker);
      const at = this.#idle.indexOf(worker);
      if (at >= 0) this.#idle.splice(at, 1);
      if (!this.#closing) this.#open();
    });
    this.#idle.push(worker);
    this.#next();
  }

  #next(): void {
    while (this.#idle.length > 0 && this.#queue.length > 0) {
      const worker = this.#idle.pop()!;
      const waiting = this.#queue.shift()!;
      this.#busy.set(worker, waiting);
      worker.postMessage(waiting.task);
    }
  }

  async close(): Promise<void> {
    this.#closing = true;
    await Promise.all([...this.#idle, ...this.#busy.keys()].map((worker) => worker.terminate()));
  }
}
