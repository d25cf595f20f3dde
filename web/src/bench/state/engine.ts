'use client';
/** The bench's side of the engine: starts the workers and passes messages. */
import type { Size } from '@umbo/core/base';
import type { Patch, UmboDocument } from '@umbo/core/document';
import type { Ask, FromEngine, Look, Other, ComparedSide, ToEngine, View } from '../../workers/protocol';

/** What a bench hears: what the engine says, and that a picture that is waited for takes longer. */
export type Heard = FromEngine | { type: 'late' };

/** A picture that takes longer than this is said to be rendered. */
const LATE_MS = 150;

export interface Engine {
  setSize: (size: Size) => void;
  setView: (view: View) => void;
  setLook: (look: Look) => void;
  patch: (patches: Patch[]) => void;
  tell: (side: ComparedSide, document: UmboDocument) => void;
  probe: (x: number, y: number, around: boolean) => void;
  /** @throws Error when there is no answer, also when the bench closes before there is one */
  ask: <T>(question: Ask) => Promise<T>;
  alternatives: (setId: string | null) => void;
  addOther: (other: Other) => void;
  setCards: (ids: readonly string[]) => void;
  close: () => void;
}

/**
 * @param display the space of the canvas
 * @param listen is told everything that the engine says, and when a picture is late
 */
export function startEngine(
  canvas: HTMLCanvasElement,
  photograph: Other,
  others: Other[],
  document: UmboDocument,
  display: PredefinedColorSpace,
  listen: (message: Heard) => void,
): Engine {
  const engine = new Worker(new URL('../../workers/engine.worker.ts', import.meta.url), { type: 'module' });
  const tiles = Array.from(
    { length: 1 + Math.max(1, Math.min(8, navigator.hardwareConcurrency || 2)) },
    () => new Worker(new URL('../../workers/tile.worker.ts', import.meta.url), { type: 'module' }),
  );
  for (const worker of [engine, ...tiles])
    worker.onerror = () => listen({ type: 'failed', message: 'A worker of the engine could not run. Reload the page.' });
  const waiting = new Map<number, { resolve: (answer: unknown) => void; reject: (error: Error) => void }>();
  engine.onmessage = ({ data }: MessageEvent<FromEngine>) => {
    if (data.type === 'painted') watch(data.seq);
    if (data.type !== 'answered' && data.type !== 'unanswered') return listen(data);
    const asked = waiting.get(data.id);
    waiting.delete(data.id);
    if (data.type === 'answered') asked?.resolve(data.answer);
    else asked?.reject(new Error(data.message));
  };
  // One more than there are cores: it answers questions beside the stage.
  const [side, ...ports] = tiles.map((worker) => {
    const { port1, port2 } = new MessageChannel();
    worker.postMessage(port2, [port2]);
    return port1;
  }) as [MessagePort, ...MessagePort[]];
  let seq = 0;
  let question = 0;
  let late: ReturnType<typeof setTimeout> | undefined;
  /** @param painted the newest picture on the stage; left out: another one is waited for */
  const watch = (painted?: number): void => {
    canvas.dataset.sharp = String(painted === seq);
    if (painted === undefined && late !== undefined) return;
    clearTimeout(late);
    late = painted === seq ? undefined : setTimeout(() => listen({ type: 'late' }), LATE_MS);
  };
  const show = (message: ToEngine): void => {
    send(message);
    watch();
  };
  const send = (message: ToEngine, transfer: Transferable[] = []): void => engine.postMessage(message, transfer);
  const offscreen = canvas.transferControlToOffscreen();
  send({ type: 'open', canvas: offscreen, display, ports, side, photograph, others, document }, [offscreen, side, ...ports]);
  return {
    setSize: (size) => send({ type: 'size', size }),
    setView: (view) => show({ type: 'view', view, seq: ++seq }),
    setLook: (look) => show({ type: 'look', look, seq: ++seq }),
    patch: (patches) => show({ type: 'patches', patches, seq: ++seq }),
    tell: (side, document) => show({ type: 'told', side, document, seq: ++seq }),
    probe: (x, y, around) => send({ type: 'probe', x, y, id: ++question, around }),
    ask: (ask) =>
      new Promise((resolve, reject) => {
        waiting.set(++question, { resolve: resolve as (answer: unknown) => void, reject });
        send({ type: 'ask', ask, id: question });
      }),
    alternatives: (setId) => send({ type: 'alternatives', setId }),
    addOther: (other) => send({ type: 'other', other }),
    setCards: (ids) => send({ type: 'cards', ids }),
    close() {
      clearTimeout(late);
      [engine, ...tiles].forEach((worker) => worker.terminate());
      for (const { reject } of waiting.values()) reject(new Error('The bench is closed.'));
    },
  };
}
