import type { FromTile, TileJob, ToTile } from '../protocol';

/** The tile workers as one: jobs are split among them, one job at a time. */
export class TilePool {
  readonly #ports: MessagePort[];
  #control = new Int32Array(new SharedArrayBuffer(8));
  #id = 0;
  #waiting = 0;
  #failure: string | null = null;
  #resolve: ((finished: boolean) => void) | null = null;
  #reject: ((error: Error) => void) | null = null;

  constructor(ports: MessagePort[]) {
    this.#ports = ports;
    for (const port of ports) port.onmessage = ({ data }: MessageEvent<FromTile>) => this.#answer(data);
  }

  get size(): number {
    return this.#ports.length;
  }

  tell(message: ToTile): void {
    for (const port of this.#ports) port.postMessage(message);
  }

  /** @returns whether the job was finished, false when it was called off */
  run(job: TileJob, bandHeight: number): Promise<boolean> {
    this.#control = new Int32Array(new SharedArrayBuffer(8));
    this.#waiting = this.#ports.length;
    this.#failure = null;
    this.tell({ type: 'job', id: ++this.#id, job, control: this.#control, bandHeight });
    return new Promise((resolve, reject) => {
      this.#resolve = resolve;
      this.#reject = reject;
    });
  }

  callOff(): void {
    Atomics.store(this.#control, 1, 1);
  }

  #answer(message: FromTile): void {
    if (message.id !== this.#id) return;
    if (message.type === 'error') {
      this.#failure = message.message;
      this.callOff();
    }
    if (--this.#waiting > 0) return;
    if (this.#failure !== null) this.#reject?.(new Error(this.#failure));
    else this.#resolve?.(Atomics.load(this.#control, 1) === 0);
  }
}
