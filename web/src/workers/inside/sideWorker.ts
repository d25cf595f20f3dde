import type { FromTile, Question, ToTile } from '../protocol';

/** Whose turn it is first; what is under way for a later rank is stopped for an earlier one, and begins anew. */
const RANKS = ['urgent', 'usual', 'idle'] as const;
export type Rank = (typeof RANKS)[number];

interface Waiting {
  rank: Rank;
  make: () => Promise<Question>;
  progress: (share: number) => void;
  resolve: (answer: never) => void;
  reject: (error: Error) => void;
}

const isBefore = (a: Waiting, b: Waiting): boolean => RANKS.indexOf(a.rank) < RANKS.indexOf(b.rank);

/** A tile worker that answers questions beside the stage, one after the other. An edit stops what is under way, which then begins anew. */
export class SideWorker {
  readonly #port: MessagePort;
  readonly #queue: Waiting[] = [];
  #control = new Int32Array(new SharedArrayBuffer(8));
  #id = 0;
  #current: Waiting | null = null;

  constructor(port: MessagePort) {
    this.#port = port;
    port.onmessage = ({ data }: MessageEvent<FromTile>) => this.#hear(data);
  }

  /** Whatever it is told changes the answers. */
  tell(message: ToTile): void {
    Atomics.store(this.#control, 1, 1);
    this.#port.postMessage(message);
  }

  /** @param make puts the question together, with the pixels that it needs, when its turn comes */
  ask<T>(make: () => Promise<Question>, progress: (share: number) => void = () => undefined, rank: Rank = 'usual'): Promise<T> {
    return new Promise<T>((resolve, reject) => {
      const waiting = { rank, make, progress, resolve, reject };
      const later = this.#queue.findIndex((one) => isBefore(waiting, one));
      this.#queue.splice(later < 0 ? this.#queue.length : later, 0, waiting);
      if (this.#current && isBefore(waiting, this.#current)) Atomics.store(this.#control, 1, 1);
      void this.#next();
    });
  }

  async #next(): Promise<void> {
    if (this.#current || this.#queue.length === 0) return;
    const waiting = (this.#current = this.#queue.shift()!);
    try {
      const question = await waiting.make();
      this.#control = new Int32Array(new SharedArrayBuffer(8));
      this.#port.postMessage({ type: 'question', id: ++this.#id, question, control: this.#control } satisfies ToTile);
    } catch (error) {
      this.#end(() => waiting.reject(error as Error));
    }
  }

  #hear(message: FromTile): void {
    const waiting = this.#current;
    if (!waiting || message.id !== this.#id) return;
    if (message.type === 'progress') waiting.progress(message.share);
    else if (message.type === 'answer') this.#end(() => waiting.resolve(message.answer as never));
    else if (message.type === 'stopped')
      this.#end(() => {
        // Before all of its rank.
        const same = this.#queue.findIndex((one) => !isBefore(one, waiting));
        this.#queue.splice(same < 0 ? this.#queue.length : same, 0, waiting);
      });
    else if (message.type === 'error') this.#end(() => waiting.reject(new Error(message.message)));
  }

  #end(what: () => void): void {
    this.#current = null;
    what();
    void this.#next();
  }
}
