/**
 * Windows, browsers' storage, network and server in which every wait is a task that a schedule may take up, delay or lose: the keeper,
 * the outbox, the editing and the merging are the real ones; the server keeps by the functions that the real one keeps by.
 */
import {
  addEntry,
  adjustmentLayer,
  emptyDocument,
  patch,
  sameValue,
  travel,
  type Entry,
  type Recipe,
  type UmboDocument,
} from '@umbo/core/document';
import type { Accepted, Base, Batch, DocumentState, SinceState } from '@umbo/data';
import { checkDocument } from '../../../data/src/documents';
import { createEditing, type Editing, type EditState } from '../../src/bench/keeping/editing';
import { createKeeper, type Conflict, type Followed, type Keeper, type KeepStatus, type Refusal } from '../../src/bench/keeping/keeper';
import type { SetAside } from '../../src/bench/keeping/setAside';
import type { StoredOutbox } from '../../src/bench/keeping/outbox';
import type { Shelf } from '../../src/bench/keeping/shelf';

const refusal = (status: number, message: string): Refusal => Object.assign(new Error(message), { status });
const copy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/** The server's side: revisions, a history, batches taken once. */
export class Server {
  revision = 1;
  position = 0;
  entries: Entry[] = [];
  readonly batches = new Map<string, number>();
  document: UmboDocument;
  readonly first: UmboDocument;

  constructor(document: UmboDocument) {
    this.document = this.first = document;
  }

  get state(): DocumentState {
    const { revision, position, document, entries } = this;
    const batch = [...this.batches].find(([, of]) => of === revision)?.[0] ?? null;
    return copy({ revision, batch, position, document, labels: entries.map(({ label }) => label) });
  }

  isOfAnotherPast({ base, after }: Base): boolean {
    return !!after && this.batches.get(after) !== base;
  }

  since(base: Base): SinceState {
    return { ...this.state, anotherPast: this.isOfAnotherPast(base) };
  }

  /** A backup, and what puts it back. */
  backup(): () => void {
    const { revision, position, entries, document } = this;
    const batches = [...this.batches];
    return () => {
      Object.assign(this, { revision, position, entries, document });
      this.batches.clear();
      for (const [id, of] of batches) this.batches.set(id, of);
    };
  }

  change(batch: Batch): Accepted {
    const known = this.batches.get(batch.id);
    if (known !== undefined) return { revision: known, repeated: true };
    if (batch.base !== this.revision || this.isOfAnotherPast(batch)) throw refusal(409, 'changed');
    let { document, position, entries } = this;
    for (const change of batch.changes) {
      if (change.type === 'edit') {
        document = addEntry(document, change.entry);
        entries = [...entries.slice(0, position++), change.entry];
      } else {
        if (change.from !== position) throw refusal(409, 'changed');
        const passed = entries.slice(Math.min(position, change.to), Math.max(position, change.to));
        if (passed.length !== Math.abs(change.to - position)) throw refusal(400, 'no such place');
        document = travel(document, passed, change.to < position ? 'back' : 'forth');
        position = change.to;
      }
    }
    try {
      checkDocument(document, this.document);
    } catch (error) {
      throw refusal(400, (error as Error).message);
    }
    Object.assign(this, { document, position, entries, revision: this.revision + 1 });
    this.batches.set(batch.id, this.revision);
    return { revision: this.revision, repeated: false };
  }

  /** Every document of the history, from the first to the last. */
  walk(): UmboDocument[] {
    const states = [this.first];
    for (const entry of this.entries) states.push(addEntry(states.at(-1)!, entry));
    return states;
  }
}

interface Task {
  window: Window;
  kind: 'request' | 'answer' | 'timer' | 'write' | 'told';
  run: () => void;
  /** What losing it does; what has none cannot be lost. */
  lose?: () => void;
}

export class World {
  readonly server: Server;
  tasks: Task[] = [];
  windows: Window[] = [];
  /** The browser's database: outboxes by the names of their windows. */
  readonly storage = new Map<string, string>();
  readonly locks = new Set<string>();
  /** Changes that were refused, in the browser's database. */
  readonly asides = new Map<string, SetAside>();
  /** Names of everything that anyone was asked about. */
  readonly asked = new Set<string>();
  #ids = 0;

  constructor(layers: readonly string[]) {
    const document = {
      ...emptyDocument({ width: 10, height: 10 }),
      layers: layers.map((id) => adjustmentLayer(id, 'hueSaturation', id.toUpperCase())),
    };
    this.server = new Server(document);
  }

  newId = (): string => `i${++this.#ids}`;

  open(): Window {
    const window = new Window(this);
    this.windows.push(window);
    return window;
  }

  take(task: Task, how: 'run' | 'lose' = 'run'): void {
    this.tasks.splice(this.tasks.indexOf(task), 1);
    if (how === 'lose') task.lose!();
    else task.run();
  }

  /** Lets everything happen that can, until nothing is left. */
  async quiet(): Promise<void> {
    for (let i = 0; i < 3000; i++) {
      await pause();
      for (const window of this.windows) if (window.conflict) window.decide('mine');
      await pause();
      const task = this.tasks.find(({ kind }) => kind !== 'timer') ?? this.tasks[0];
      if (!task) return;
      this.take(task);
    }
    throw new Error('It never becomes quiet');
  }
}

/** Until all that follows from what has happened has happened. */
export const pause = (): Promise<void> => new Promise((done) => setImmediate(done));

/** One window: its edit, what its engine shows, and its keeper. */
export class Window {
  readonly name: string;
  readonly world: World;
  state: EditState;
  /** What the engine was told to show. */
  engine: UmboDocument;
  alive = true;
  status: KeepStatus = { state: 'kept' };
  conflict: Conflict | null = null;
  asides: readonly SetAside[] = [];
  readonly followed: Followed['why'][] = [];
  readonly notices: string[] = [];
  /** Set to make the browser's database fail. */
  storageFails = false;
  readonly editing: Editing;
  readonly keeper: Keeper;
  /** Writes into the browser's database that are not done. */
  #unwritten = 0;

  constructor(world: World) {
    this.world = world;
    this.name = world.newId();
    world.locks.add(this.name);
    const initial = world.server.state;
    this.state = {
      document: initial.document,
      committed: initial.document,
      history: { labels: initial.labels, position: initial.position },
    };
    this.engine = copy(initial.document);
    this.editing = createEditing({
      get: () => this.state,
      set: (values) => (this.state = { ...this.state, ...values }),
      show: (patches) => (this.engine = patch(this.engine, copy(patches))),
      push: (step, document) => {
        this.keeper.push(step, document);
      },
      fetchEntries: async (from, to) => {
        await this.keeper.whenKept();
        const revision = this.keeper.revision();
        return this.#request(() => {
          if (revision !== world.server.revision) throw refusal(409, 'changed');
          return copy(world.server.entries.slice(from, to));
        });
      },
      say: (notice) => this.notices.push(notice),
      newId: world.newId,
    });
    this.keeper = createKeeper(
      initial,
      {
        status: (status) => (this.status = status),
        aside: (changes) => (this.asides = changes),
        conflict: (conflict) => {
          this.conflict = conflict;
          conflict?.names.forEach((one) => world.asked.add(one));
        },
        follow: (followed) => {
          this.followed.push(followed.why);
          this.editing.follow(followed);
        },
      },
      {
        database: 'd',
        send: (batch) => this.#request(() => world.server.change(copy(batch))),
        read: (base) => this.#request(() => world.server.since(base)),
        tell: (revision) => {
          for (const other of world.windows)
            if (other !== this && other.alive)
              this.#later({ window: other, kind: 'told', run: () => other.keeper.heard(revision), lose: () => undefined });
        },
        shelf: this.#shelf(),
        newId: world.newId,
        after: (_ms, work) => {
          const task: Task = { window: this, kind: 'timer', run: work };
          this.#later(task);
          return () => {
            const at = world.tasks.indexOf(task);
            if (at >= 0) world.tasks.splice(at, 1);
          };
        },
      },
    );
  }

  #later(task: Task): void {
    if (task.window.alive) this.world.tasks.push(task);
  }

  #request<T>(work: () => T): Promise<T> {
    return new Promise((resolve, reject) => {
      const away = (): void => reject(refusal(0, 'The server cannot be reached.'));
      const arrive = (): void => {
        let settle: () => void;
        try {
          const answer = work();
          settle = () => resolve(answer);
        } catch (error) {
          settle = () => reject(error as Error);
        }
        this.#later({ window: this, kind: 'answer', run: settle, lose: away });
      };
      this.#later({ window: this, kind: 'request', run: arrive, lose: away });
    });
  }

  #shelf(): Shelf {
    const { storage, locks, asides } = this.world;
    const write = (work: () => void): Promise<void> =>
      new Promise((resolve, reject) => {
        const fails = this.storageFails;
        this.#later({
          window: this,
          kind: 'write',
          run: () => {
            if (fails) return reject(new Error('full'));
            work();
            if (this.alive) resolve();
          },
        });
      });
    const put = (name: string, { snapshot, log, acknowledged, base, baseBatch, sent, next }: StoredOutbox): void => {
      if (log.length === 0) storage.delete(name);
      else storage.set(name, JSON.stringify({ snapshot, log, acknowledged, base, baseBatch, sent, next }));
    };
    return {
      write: (outbox, instead) => {
        this.#unwritten++;
        return write(() => {
          put(this.name, outbox);
          if (instead !== undefined) storage.delete(instead);
          this.#unwritten--;
        });
      },
      orphans: async () => [...storage.keys()].filter((name) => name !== this.name),
      withOrphan: async (name, work) => {
        if (!this.alive) return new Promise(() => undefined);
        if (locks.has(name) || !storage.has(name)) return;
        locks.add(name);
        this.#held.add(name);
        try {
          await work(JSON.parse(storage.get(name)!) as StoredOutbox);
        } finally {
          if (this.alive) {
            locks.delete(name);
            this.#held.delete(name);
          }
        }
      },
      rewrite: (name, outbox) =>
        write(() => {
          if (outbox) put(name, outbox);
          else storage.delete(name);
        }),
      setAside: async (change) => void asides.set(change.id, copy(change)),
      asides: async () => [...asides.values()],
      forget: async (id) => void asides.delete(id),
      close: () => locks.delete(this.name),
    };
  }
  readonly #held = new Set<string>();

  /** Whether everything would survive a crash. */
  get isSafe(): boolean {
    return this.#unwritten === 0;
  }

  set(layer: string, setting: 'hue' | 'saturation', value: number): boolean {
    return this.editing.commit(`${setting} ${value}`, recipe(layer, setting, value));
  }

  decide(side: 'mine' | 'theirs'): void {
    this.keeper.decide(side);
  }

  /** The browser goes down: nothing of the window is left but what is in the storage. @param written how many waiting writes still happen */
  crash(written: number): void {
    this.alive = false;
    const own = this.world.tasks.filter(({ window }) => window === this);
    for (const task of own.filter(({ kind }) => kind === 'write').slice(0, written)) task.run();
    // A request that is on its way may arrive after its sender is gone.
    const requests = own.filter(({ kind }) => kind === 'request');
    this.world.tasks = this.world.tasks.filter(({ window }) => window !== this);
    for (const request of requests) if (written % 2 === 0) request.run();
    this.#gone();
  }

  /**
   * The window is closed as a person closes it.
   * @param written how many waiting writes still happen: a page that goes away may leave the others
   * @returns whether all that was done in it is safe
   */
  close(written = Infinity): boolean {
    const batch = this.keeper.lastWord();
    const writes = this.world.tasks.filter(({ window, kind }) => window === this && kind === 'write');
    for (const task of writes.slice(0, written)) task.run();
    let safe = this.isSafe;
    if (batch)
      try {
        this.world.server.change(copy(batch));
        safe ||= sameValue(this.world.server.document, this.state.committed);
      } catch {
        // it meets another revision: the outbox is found at the next opening
      }
    this.keeper.close();
    this.alive = false;
    this.world.tasks = this.world.tasks.filter(({ window }) => window !== this);
    this.#gone();
    return safe;
  }

  #gone(): void {
    for (const name of [this.name, ...this.#held]) this.world.locks.delete(name);
    this.world.windows = this.world.windows.filter((window) => window !== this);
  }
}

export const recipe =
  (layer: string, setting: 'hue' | 'saturation', value: number): Recipe =>
  (draft) => {
    const found = draft.layers.find(({ id }) => id === layer);
    if (found) Object.assign(found.what.settings, { [setting]: value });
  };

export const valueOf = (document: UmboDocument, layer: string, setting: 'hue' | 'saturation' = 'hue'): number =>
  (document.layers.find(({ id }) => id === layer)!.what.settings as unknown as Record<string, number>)[setting]!;
