/** Keeping through trouble, with a server that can be made to fail in every way, and a browser's database. */
import 'fake-indexeddb/auto';
import { adjustmentLayer, edit, emptyDocument, onLayer, patch, type UmboDocument } from '@umbo/core';
import type { Batch, Change, DocumentState } from '@umbo/data';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { createKeeper, type Conflict, type Keeper, type KeepStatus } from '../src/bench/keeper';

/** Locks that end with their window, as navigator.locks gives them. */
function fakeLocks() {
  const held = new Set<string>();
  return {
    drop: () => held.clear(),
    request: async (name: string, ...args: unknown[]): Promise<unknown> => {
      const work = args.at(-1) as (lock: object | null) => unknown;
      if (held.has(name)) return work(null);
      held.add(name);
      try {
        return await work({ name });
      } finally {
        held.delete(name);
      }
    },
  };
}

/** The server's side: revisions, batches taken once, and trouble on demand. */
class Server {
  state: DocumentState;
  lastBatch = '';
  received: Batch[] = [];
  trouble: 'none' | 'away' | 'answer lost' | 'refuses' = 'none';

  constructor(document: UmboDocument) {
    this.state = { revision: 1, position: 0, document, labels: [] };
  }

  change(batch: Batch): void {
    for (const change of batch.changes) {
      if (change.type !== 'edit') continue;
      const { position, labels, document } = this.state;
      this.state = {
        ...this.state,
        document: patch(document, change.entry.patches),
        labels: [...labels.slice(0, position), change.entry.label],
        position: position + 1,
      };
    }
    this.state = { ...this.state, revision: this.state.revision + 1 };
    this.lastBatch = batch.id;
    this.received.push(batch);
  }

  fetch = async (_path: string, init: RequestInit): Promise<Response> => {
    if (this.trouble === 'away') throw new TypeError('network');
    if (init.method === 'GET') return Response.json({ edit: this.state });
    const batch = JSON.parse(init.body as string) as Batch;
    if (this.trouble === 'refuses') return Response.json({ detail: 'The edit is not valid.' }, { status: 400 });
    if (batch.id !== this.lastBatch) {
      if (batch.base !== this.state.revision) return Response.json({ detail: 'changed', revision: this.state.revision }, { status: 409 });
      this.change(batch);
    }
    if (this.trouble === 'answer lost') throw new TypeError('network');
    return Response.json({ revision: this.state.revision });
  };
}

let photographId = 100;
let server: Server;
let locks: ReturnType<typeof fakeLocks>;
const windows: Window[] = [];

/** One window: a document, and what its keeper told it. */
class Window {
  document: UmboDocument;
  statuses: KeepStatus[] = [];
  conflict: Conflict | null = null;
  adopted = 0;
  restored: Change[] = [];
  keeper: Keeper;
  #entry = 0;

  constructor() {
    this.document = server.state.document;
    this.keeper = createKeeper(photographId, server.state, {
      status: (status) => this.statuses.push(status),
      conflict: (conflict) => (this.conflict = conflict),
      restore: (changes, document) => {
        this.restored = changes;
        this.document = document;
      },
      adopt: (state, ours) => {
        this.adopted++;
        this.document = state.document;
        if (ours) this.set('joined', (draft) => void (draft.layers = structuredClone(ours.layers)));
      },
    });
    windows.push(this);
  }

  set(label: string, recipe: (draft: UmboDocument) => void): void {
    const { document, patches, inverse } = edit(this.document, recipe);
    this.document = document;
    this.keeper.push({ type: 'edit', entry: { id: `${label}${this.#entry++}`, label, patches, inverse } }, document);
  }
  hue(layer: string, value: number): void {
    this.set(
      `hue ${value}`,
      onLayer(layer, ({ what }) => void Object.assign(what.settings, { hue: value })),
    );
  }
}
const eventually = (check: () => void): Promise<void> => vi.waitFor(check, { timeout: 60_000 });

const hueOf = (document: UmboDocument, layer: string): number =>
  (document.layers.find(({ id }) => id === layer)!.what.settings as { hue: number }).hue;

beforeEach(() => {
  photographId++;
  const layers = ['a', 'b'].map((id) => adjustmentLayer(id, 'hueSaturation', id.toUpperCase()));
  server = new Server({ ...emptyDocument({ width: 10, height: 10 }), layers });
  locks = fakeLocks();
  const events = new EventTarget();
  vi.stubGlobal('addEventListener', events.addEventListener.bind(events));
  vi.stubGlobal('removeEventListener', events.removeEventListener.bind(events));
  vi.stubGlobal('navigator', { locks });
  vi.stubGlobal('fetch', (path: string, init: RequestInit) => server.fetch(path, init));
});
afterEach(async () => {
  server.trouble = 'none';
  for (const window of windows.splice(0)) window.keeper.close();
  await new Promise((done) => setTimeout(done, 20));
  vi.unstubAllGlobals();
});

describe('the keeper', () => {
  it('sends changes in order and as few batches, and says when all is kept', async () => {
    const window = new Window();
    for (const hue of [1, 2, 3]) window.hue('a', hue);
    await window.keeper.settled();
    window.hue('b', 9);
    await window.keeper.settled();
    expect(server.received.map(({ base, changes }) => [base, changes.length])).toEqual([
      [1, 3],
      [2, 1],
    ]);
    expect(server.state.document).toEqual(window.document);
    expect(window.statuses.at(-1)).toEqual({ state: 'kept' });
  });

  it('tries again while the server is away, and takes a lost answer for what it is', async () => {
    const window = new Window();
    server.trouble = 'away';
    window.hue('a', 10);
    const settled = window.keeper.settled();
    await eventually(() => expect(window.statuses.at(-1)?.state).toBe('waiting'));
    server.trouble = 'answer lost';
    await eventually(() => expect(server.received).toHaveLength(1));
    window.hue('b', 20);
    server.trouble = 'none';
    await settled;
    await window.keeper.settled();
    expect(server.state.labels).toEqual(['hue 10', 'hue 20']);
    expect(server.state.document).toEqual(window.document);
  });

  it('joins what another window did to other settings, and asks about the same ones', async () => {
    const [one, two] = [new Window(), new Window()];
    one.hue('a', 10);
    two.hue('b', 20);
    await one.keeper.settled();
    await two.keeper.settled();
    expect([hueOf(server.state.document, 'a'), hueOf(server.state.document, 'b')]).toEqual([10, 20]);
    expect(two.conflict).toBeNull();
    await eventually(() => expect(hueOf(one.document, 'b')).toBe(20)); // a window at rest follows

    one.hue('a', 30);
    two.hue('a', 40);
    await one.keeper.settled();
    void two.keeper.settled().catch(() => undefined);
    await eventually(() => expect(two.conflict?.layers).toEqual(['A']));
    expect(hueOf(server.state.document, 'a')).toBe(30);
    two.keeper.decide(two.conflict!, two.conflict!.mine);
    await eventually(() => expect(hueOf(server.state.document, 'a')).toBe(40));

    one.hue('a', 50);
    two.hue('a', 60);
    await Promise.allSettled([one.keeper.settled(), two.keeper.settled()]);
    const asked = [one, two].find(({ conflict }) => conflict !== null && conflict.theirs.revision === server.state.revision)!;
    asked.keeper.decide(asked.conflict!, null);
    await asked.keeper.settled();
    expect(asked.document).toEqual(server.state.document);
  });

  it('stops at a refusal and says why; nothing is dropped silently', async () => {
    const window = new Window();
    server.trouble = 'refuses';
    window.hue('a', 10);
    await expect(window.keeper.settled()).rejects.toThrow('The edit is not valid.');
    expect(window.statuses.at(-1)).toEqual({ state: 'refused', reason: 'The edit is not valid.' });
    await expect(window.keeper.settled()).rejects.toThrow(/not kept/);
  });

  it('finds what a dead window left, on the state it left and on a newer one, and leaves living windows alone', async () => {
    const lost = new Window();
    server.trouble = 'away';
    lost.hue('a', 77);
    await eventually(() => expect(lost.statuses.at(-1)?.state).toBe('waiting'));
    const beside = new Window();
    await new Promise((done) => setTimeout(done, 60));
    expect(beside.restored).toEqual([]);
    beside.keeper.close();

    locks.drop(); // the windows die
    server.trouble = 'none';
    const heir = new Window();
    await eventually(() => expect(hueOf(server.state.document, 'a')).toBe(77));
    expect(heir.restored).toHaveLength(1);
    expect(server.state.labels.filter((label) => label === 'hue 77')).toHaveLength(1);
  });
});
