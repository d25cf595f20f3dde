/** The engine's side of readings: what is measured when, what is glimpsed meanwhile, and whose turn it is in the worker that answers. */
import { adjustmentLayer, emptyDocument, type UmboDocument } from '@umbo/core/document';
import { expect, it, vi } from 'vitest';
import type { FromEngine, FromTile, PlacedAsk, Question, ToTile } from '../src/workers/protocol';
import { EVERYTHING, type Looked } from '../src/workers/inside/looked';
import { ReadingLoop } from '../src/workers/inside/reading';
import { SideWorker, type Rank } from '../src/workers/inside/sideWorker';
import type { Viewport } from '../src/workers/inside/viewport';

const full = { width: 4, height: 2 };
const reading = { id: 'r', letter: 'A', name: 'Reading A', spot: { x: 1, y: 1, side: 1 as const } };
const document: UmboDocument = { ...emptyDocument(full), layers: [adjustmentLayer('a', 'exposure', 'A')], readings: [reading] };
const look = { peek: EVERYTHING, instead: null, layerId: 'a' } as unknown as Looked['look'];
const area = { x: 0, y: 0, width: 4, height: 2 };

/** A frame in which every pixel is of one grey. */
const frameOf = (grey: number): Viewport =>
  ({ area, scale: { picture: full, full }, rendered: true, rgba: new Uint8ClampedArray(32).fill(grey) }) as unknown as Viewport;
const of = (grey: number) => {
  const side = {
    mean: [grey, grey, grey],
    spread: { hue: 0, chroma: 0, lightness: 0 },
    lightest: [0, 0, 0],
    darkest: [0, 0, 0],
    clipped: 0,
  };
  return { before: side, after: side, below: null, samples: [1.5, 1.5, 2.5, 0.5] };
};

it('readings are measured when all has come to rest, and are what is painted until then', async () => {
  vi.useFakeTimers();
  const sent: FromEngine[] = [];
  const asked: { ask: PlacedAsk; answer: (value: unknown) => void }[] = [];
  const looked: Looked = { full, document, look, told: { before: null, after: null } };
  const loop = new ReadingLoop({
    looked,
    send: (message) => void sent.push(message),
    fail: (error) => {
      throw error;
    },
    question: (ask) => Promise.resolve({ ask, places: new Map() } as Question),
    side: {
      ask: async (make: () => Promise<Question>) => {
        const { ask } = await make();
        return new Promise((answer) => asked.push({ ask: ask as PlacedAsk, answer }));
      },
    } as unknown as SideWorker,
  });
  const edit = (stops: number): void => {
    const layer = adjustmentLayer('a', 'exposure', 'A');
    Object.assign(layer.what.settings, { stops });
    looked.document = { ...looked.document, layers: [layer] };
    loop.changed();
  };
  loop.painted(frameOf(100));
  loop.changed();
  await vi.advanceTimersByTimeAsync(0);
  expect(asked.map(({ ask }) => ask)).toEqual([{ kind: 'read', ids: ['r'], below: 'a' }]);
  asked[0]!.answer([['r', of(0.4)]]);
  await vi.advanceTimersByTimeAsync(0);
  expect(sent.splice(0)).toEqual([{ type: 'readings', measured: [['r', of(0.4)]] }]);
  // Nothing has changed: nothing is glimpsed, and nothing is measured again.
  loop.painted(frameOf(100));
  loop.changed();
  await vi.advanceTimersByTimeAsync(1000);
  expect([sent.length, asked.length]).toEqual([0, 1]);

  // A slider moves: what is painted, moved by as much as the sample was off.
  edit(0.2);
  loop.painted(frameOf(151));
  const [glimpse] = sent.splice(0);
  expect(glimpse).toMatchObject({
    type: 'glimpsed',
    colours: [['r', [expect.closeTo(0.6, 5), expect.closeTo(0.6, 5), expect.closeTo(0.6, 5)]]],
  });
  // Not for every picture.
  loop.painted(frameOf(160));
  expect(sent).toEqual([]);
  await vi.advanceTimersByTimeAsync(100);
  edit(0.3);
  loop.painted(frameOf(160));
  expect(sent.splice(0)).toHaveLength(1);
  await vi.advanceTimersByTimeAsync(249);
  expect(asked).toHaveLength(1);
  await vi.advanceTimersByTimeAsync(1);
  expect(asked).toHaveLength(2);
  // What changed while it was measured is measured again.
  edit(0.4);
  asked[1]!.answer([['r', of(0.7)]]);
  await vi.advanceTimersByTimeAsync(250);
  expect(asked).toHaveLength(3);
  asked[2]!.answer([['r', of(0.8)]]);
  await vi.advanceTimersByTimeAsync(0);
  expect(sent.splice(0)).toHaveLength(2);
  // What is no longer all of the edit says nothing of its readings.
  looked.look = { ...look, peek: { solo: 'a', upTo: null } };
  edit(0.5);
  await vi.advanceTimersByTimeAsync(100);
  loop.painted(frameOf(10));
  expect(sent).toEqual([]);
  vi.useRealTimers();
});

it('what is urgent is answered first; what it stopped begins anew, and nothing is lost', async () => {
  const posted: Extract<ToTile, { type: 'question' }>[] = [];
  const port = { postMessage: (message: Extract<ToTile, { type: 'question' }>) => void posted.push(message), onmessage: null as unknown };
  const side = new SideWorker(port as unknown as MessagePort);
  const hear = (data: FromTile): void => (port.onmessage as (event: { data: FromTile }) => void)({ data });
  const ended: string[] = [];
  const turn = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));
  const ask = (name: string, rank: Rank = 'usual'): void =>
    void side.ask<string>(() => Promise.resolve(name as unknown as Question), undefined, rank).then((answer) => ended.push(answer));
  ask('notes', 'idle');
  await turn();
  ask('small pictures');
  // What has time gives way to everything.
  expect(Atomics.load(posted[0]!.control, 1)).toBe(1);
  hear({ type: 'stopped', id: 1 });
  await turn();
  ask('census');
  await turn();
  ask('readings', 'urgent');
  // It is told to stop, and does.
  expect(Atomics.load(posted[1]!.control, 1)).toBe(1);
  hear({ type: 'stopped', id: 2 });
  await turn();
  expect(posted.map(({ question }) => question as unknown as string)).toEqual(['notes', 'small pictures', 'readings']);
  // Another one that is urgent waits its turn: the one under way is so as well.
  ask('match', 'urgent');
  expect(Atomics.load(posted[2]!.control, 1)).toBe(0);
  const order: string[] = [];
  for (let id = 3; id <= 7; id++) {
    await turn();
    order.push(posted[id - 1]!.question as unknown as string);
    hear({ type: 'answer', id, answer: posted[id - 1]!.question });
  }
  await turn();
  expect(order).toEqual(['readings', 'match', 'small pictures', 'census', 'notes']);
  expect(ended).toEqual(order);
});
