'use client';
/** The bench's side of the engine: starts the workers and passes messages. */
import type { Patch, Rect, Size, UmboDocument } from '@umbo/core';
import type { FromEngine, Look, Other, SolveTask, ToEngine, View } from '../workers/protocol';

export interface Engine {
  setSize: (size: Size) => void;
  setView: (view: View) => void;
  setLook: (look: Look) => void;
  patch: (patches: Patch[]) => void;
  setDocument: (document: UmboDocument) => void;
  setVersion: (document: UmboDocument) => void;
  probe: (x: number, y: number, around: boolean) => void;
  /** Asks for the mean colour of an area of the full photograph. @returns the number of the question */
  sample: (area: Rect, below: string | null) => number;
  /** @returns the number of the question */
  solve: (task: SolveTask, layerId: string | null) => number;
  alternatives: (setId: string) => void;
  health: (layerId: string, side: number) => void;
  addOther: (other: Other) => void;
  close: () => void;
}

/** @param listen is told everything that the engine says */
export function startEngine(
  canvas: HTMLCanvasElement,
  photographId: number,
  full: Size,
  others: Other[],
  document: UmboDocument,
  listen: (message: FromEngine) => void,
): Engine {
  const engine = new Worker(new URL('../workers/engine.worker.ts', import.meta.url), { type: 'module' });
  const tiles = Array.from(
    { length: Math.max(1, Math.min(8, navigator.hardwareConcurrency || 2)) },
    () => new Worker(new URL('../workers/tile.worker.ts', import.meta.url), { type: 'module' }),
  );
  for (const worker of [engine, ...tiles])
    worker.onerror = () => listen({ type: 'failed', message: 'A worker of the engine could not run. Reload the page.' });
  engine.onmessage = ({ data }: MessageEvent<FromEngine>) => listen(data);
  const ports = tiles.map((worker) => {
    const { port1, port2 } = new MessageChannel();
    worker.postMessage(port2, [port2]);
    return port1;
  });
  let seq = 0;
  let question = 0;
  const send = (message: ToEngine, transfer: Transferable[] = []): void => engine.postMessage(message, transfer);
  const offscreen = canvas.transferControlToOffscreen();
  send({ type: 'open', canvas: offscreen, ports, photographId, full, others, document }, [offscreen, ...ports]);
  return {
    setSize: (size) => send({ type: 'size', size }),
    setView: (view) => send({ type: 'view', view, seq: ++seq }),
    setLook: (look) => send({ type: 'look', look, seq: ++seq }),
    patch: (patches) => send({ type: 'patches', patches, seq: ++seq }),
    setDocument: (next) => send({ type: 'document', document: next, seq: ++seq }),
    setVersion: (version) => send({ type: 'version', document: version, seq: ++seq }),
    probe: (x, y, around) => send({ type: 'probe', x, y, id: ++question, around }),
    sample(area, below) {
      send({ type: 'sample', area, below, id: ++question });
      return question;
    },
    solve(task, layerId) {
      send({ type: 'solve', task, layerId, id: ++question });
      return question;
    },
    alternatives: (setId) => send({ type: 'alternatives', setId }),
    addOther: (other) => send({ type: 'other', other }),
    health: (layerId, side) => send({ type: 'health', layerId, side }),
    close: () => [engine, ...tiles].forEach((worker) => worker.terminate()),
  };
}
