/** A bench whose engine and keeper only take notes. */
import { adjustmentLayer, emptyDocument, patch, sourceLayer, type UmboDocument } from '@umbo/core/document';
import type { BenchState, BenchStore } from '../src/bench/state/benchState';
import type { Engine } from '../src/bench/state/engine';
import { createBench } from '../src/bench/state/store';
import type { KeeperEvents } from '../src/bench/keeping/keeper';
import type { Step } from '../src/bench/keeping/outbox';
import type { Ask, Look, View } from '../src/workers/protocol';

export const photograph = { id: 1, sha256: 'a'.repeat(64), name: 'One', width: 400, height: 300, bits: 8, profile: 'sRGB' };
export const shoot = { id: 1, name: 'Shoot', photographs: [], masks: [] };
export const first: UmboDocument = {
  ...emptyDocument(photograph),
  layers: [adjustmentLayer('a', 'hueSaturation', 'A'), adjustmentLayer('b', 'exposure', 'B'), sourceLayer('p', 'paint', 'P', photograph)],
};

export interface World {
  store: BenchStore;
  now: () => BenchState;
  /** The edit as the engine has it. */
  shown: () => UmboDocument;
  /** What was closed. */
  closed: string[];
  looks: Look[];
  views: View[];
  pushed: Step[];
  probed: number[][];
  asked: { ask: Ask; answer: (value: unknown) => void; fail: (error: Error) => void }[];
  events: KeeperEvents;
  close: () => void;
}

/** Opens a bench on an edit; what it does is noted. */
export function open(reads: Record<string, unknown> = {}, document: UmboDocument = first): World {
  const world = {
    closed: [] as string[],
    looks: [] as Look[],
    views: [] as View[],
    pushed: [] as Step[],
    probed: [] as number[][],
    asked: [] as World['asked'],
  };
  let shown = document;
  let events!: KeeperEvents;
  let id = 0;
  const engine: Partial<Engine> = {
    setSize: () => undefined,
    setCards: () => undefined,
    setView: (view) => void world.views.push(view),
    setLook: (look) => void world.looks.push(look),
    patch: (patches) => void (shown = patch(shown, patches)),
    tell: () => undefined,
    probe: (x, y) => void world.probed.push([x, y]),
    ask: (ask) => new Promise((answer, fail) => world.asked.push({ ask, answer: answer as (value: unknown) => void, fail })),
    close: () => void world.closed.push('engine'),
  };
  const store = createBench(
    'db',
    photograph,
    shoot,
    { revision: 1, batch: null, position: 0, document, labels: [] },
    {
      read: (address) => (address in reads ? Promise.resolve(reads[address] as never) : Promise.reject(new Error('It is gone.'))),
      newId: () => `e${++id}`,
      startEngine: () => engine as Engine,
      followMasks: () => () => undefined,
      startKeeper(_state, _initial, told) {
        events = told;
        return {
          push: (step: Step) => void world.pushed.push(step),
          whenKept: () => Promise.resolve(),
          revision: () => 1,
          close: () => void world.closed.push('keeper'),
        } as never;
      },
    },
  );
  const close = store.getState().attach(null as never);
  return { store, now: store.getState, shown: () => shown, events, close, ...world };
}
