/** Single cases of keeping, step by step; `keeping.test.ts` tries them in every order. */
import 'fake-indexeddb/auto';
import { adjustmentLayer, emptyDocument, everywhere, insertLayers, onLayer, type Recipe, type Region } from '@umbo/core/document';
import { maskPartKind, type BrushPart } from '@umbo/core/mask';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { strokeRecipe, strokeTarget } from '../../src/bench/state/strokes';
import { emptyOutbox, restored, sealed, withSteps, type StoredOutbox } from '../../src/bench/keeping/outbox';
import { openShelf } from '../../src/bench/keeping/shelf';
import { pause, valueOf, World } from './world';

const labels = (world: World): string[] => world.server.entries.map(({ label }) => label);

/** Two windows, each with a change of the hue of layer s and one of its own; the second is asked. */
async function clash(): Promise<{ world: World; one: ReturnType<World['open']>; two: ReturnType<World['open']> }> {
  const world = new World(['a', 'b', 's']);
  const [one, two] = [world.open(), world.open()];
  one.set('s', 'hue', 30);
  one.editing.commit(
    'opacity',
    onLayer('s', ({ how }) => void (how.opacity = 0.25)),
  );
  two.set('s', 'hue', 40);
  two.set('b', 'hue', 9);
  two.editing.commit('New layer', insertLayers([adjustmentLayer('mine', 'exposure', 'Mine')], null));
  for (let i = 0; i < 40 && !two.conflict; i++) {
    await pause();
    const task = world.tasks.find(({ window, kind }) => window === (world.server.revision === 1 ? one : two) && kind !== 'told');
    if (task) world.take(task);
  }
  expect(two.conflict).toMatchObject({ names: ['S'], fault: null });
  return { world, one, two };
}

describe('a question between two versions', () => {
  it.each([
    ['mine', 40],
    ['theirs', 30],
  ] as const)('answered with %s keeps all else of both sides, and the other version in the history', async (side, hue) => {
    const { world, one, two } = await clash();
    two.set('a', 'hue', 99); // the end of a stroke that was under way
    two.decide(side);
    await world.quiet();
    const { document } = world.server;
    expect(valueOf(document, 's')).toBe(hue);
    expect([valueOf(document, 'a'), valueOf(document, 'b')]).toEqual([99, 9]);
    expect(document.layers.find(({ id }) => id === 's')!.how.opacity).toBe(0.25);
    expect(document.layers.some(({ id }) => id === 'mine')).toBe(true);
    const hues = world.server.walk().map((state) => valueOf(state, 's'));
    expect(hues).toContain(30);
    expect(hues).toContain(40);
    expect(one.state.committed).toEqual(document);
    expect(two.state.committed).toEqual(document);
  });

  it('is asked before anything is let go of when both together are beyond a limit', async () => {
    const world = new World(['a']);
    const [one, two] = [world.open(), world.open()];
    const many = (of: string) => Array.from({ length: 260 }, (_, i) => adjustmentLayer(`${of}${i}`, 'exposure', of));
    one.editing.commit('260 layers', insertLayers(many('x'), null));
    two.editing.commit('260 layers', insertLayers(many('y'), null));
    for (let i = 0; i < 60 && !one.conflict && !two.conflict; i++) {
      await pause();
      if (world.tasks[0]) world.take(world.tasks[0]);
    }
    const asked = one.conflict ? one : two;
    expect(asked.conflict!.fault).toMatch(/more than 500 layers/);
    asked.decide('theirs');
    await world.quiet();
    expect(world.server.document.layers).toHaveLength(261);
    expect(new Set(world.server.walk().map(({ layers }) => layers.at(0)!.id))).toEqual(new Set(['a', 'x0', 'y0']));
  });
});

describe('what the server does not take', () => {
  const regions = (of: string): Region[] => Array.from({ length: 60 }, (_, i) => ({ id: `${of}${i}`, name: of, where: everywhere() }));
  const step: Recipe = (draft) => void draft.layers[0]!.where.refine.push({ kind: 'contrast', black: 0, white: 100, middle: 50 });

  it('is not made in the window either: limits are those of the schema', async () => {
    const world = new World(['a', 'b']);
    const window = world.open();
    const done = Array.from({ length: 21 }, () => window.editing.commit('Contrast', step));
    expect(done.filter((one) => !one)).toHaveLength(1);
    expect(window.notices).toEqual([expect.stringContaining('more than 20 refining steps')]);
    await world.quiet();
    expect([window.status.state, world.server.document.layers[0]!.where.refine.length]).toEqual(['kept', 20]);
  });

  it('is asked about where two windows come to it together only', async () => {
    const world = new World(['a']);
    const [one, two] = [world.open(), world.open()];
    for (const [window, of] of [
      [one, 'm'],
      [two, 't'],
    ] as const)
      // prettier-ignore
      window.editing.commit('60 regions', (draft) => void (draft.regions = [...(draft.regions ?? []), ...regions(of)]));
    const asked: (string | null)[] = [];
    for (let i = 0; i < 60; i++) {
      await pause();
      for (const window of [one, two]) if (window.conflict) asked.push(window.conflict.fault);
      if (world.tasks[0]) world.take(world.tasks[0]);
    }
    expect(asked[0]).toBe('it has more than 100 regions in one place');
    await world.quiet();
    expect([one.status.state, two.status.state, world.server.document.regions!.length]).toEqual(['kept', 'kept', 60]);
  });

  it('is set aside as a file, whatever it is; what was done before, after and since goes on, also after a reload', async () => {
    const world = new World(['a', 'b', 's']);
    const window = world.open();
    window.set('a', 'hue', 11);
    // A window of another version may let through what this server does not.
    const odd: Recipe = (draft) => void Object.assign(draft.layers[2]!.how, { opacity: 7 });
    window.editing.commit('Opacity 700 %', odd);
    window.set('b', 'hue', 12);
    window.crash(9);
    const again = world.open();
    again.set('a', 'saturation', 13);
    await world.quiet();
    const { document } = world.server;
    expect([valueOf(document, 'a'), valueOf(document, 'b'), valueOf(document, 'a', 'saturation')]).toEqual([11, 12, 13]);
    expect([again.status.state, again.state.committed, document.layers[2]!.how.opacity]).toEqual(['kept', document, 1]);
    expect(again.asides).toMatchObject([{ label: expect.stringMatching(/Opacity|restored/) as string, reason: expect.stringMatching(/opacity/) as string }]); // prettier-ignore
    expect(again.asides[0]!.document.layers[2]!.how.opacity).toBe(7);
    again.crash(9);
    const last = world.open();
    await world.quiet();
    expect([last.asides.length, last.status.state]).toEqual([1, 'kept']);
    await last.keeper.forget(last.asides[0]!.id);
    expect(last.asides).toEqual([]);
  });

  it('a database that was set back is no newer one: what it has and what the window had are both kept, and one goes on', async () => {
    for (const side of ['mine', 'theirs'] as const) {
      const world = new World(['a', 'b']);
      const window = world.open();
      window.set('a', 'hue', 1);
      await world.quiet();
      const restore = world.server.backup();
      window.set('a', 'hue', 2);
      await world.quiet();
      restore();
      const other = world.open();
      for (const hue of [5, 6, 7]) {
        other.set('b', 'hue', hue);
        for (let i = 0; i < 20; i++) {
          await pause();
          const task = world.tasks.find((one) => one.window === other);
          if (task) world.take(task);
        }
      }
      for (let i = 0; i < 20 && !window.conflict; i++) {
        await pause();
        if (world.tasks[0]) world.take(world.tasks[0]);
      }
      expect(window.conflict!.fault).toMatch(/set back/);
      window.decide(side);
      await world.quiet();
      const states = world.server.walk().map((document) => [valueOf(document, 'a'), valueOf(document, 'b')]);
      expect(states).toContainEqual([2, 0]);
      expect(states).toContainEqual([1, 7]);
      expect(states.at(-1)).toEqual(side === 'mine' ? [2, 0] : [1, 7]);
      expect(window.state.committed).toEqual(world.server.document);
    }
  });
});

describe('a change during a live preview', () => {
  const brushed = (): World => {
    const world = new World(['a', 'b']);
    const part = { ...maskPartKind('brush').create('br', 'add', { width: 10, height: 10 }), combine: 'add' } as BrushPart;
    world.server.document.layers[1]!.where.parts = [part];
    return world;
  };
  it('leaves stage and edit equal, and the stroke goes on', async () => {
    const world = brushed();
    const window = world.open();
    const layer = window.state.committed.layers[1]!;
    const target = strokeTarget(layer, 'br', false, null, () => undefined);
    const stroke = (points: number[]) =>
      strokeRecipe(target, { id: 's1', size: 3, hardness: 1, flow: 1, opacity: 1, erase: false, points }, [1, 0, 0], 0);
    const strokes = (): number[] => (window.engine.layers[1]!.where.parts[0] as BrushPart).strokes.map(({ points }) => points.length / 3);

    window.editing.preview(stroke([1, 1, 1, 2, 2, 1]));
    window.editing.commit(
      'Multiply',
      onLayer('b', ({ how }) => void (how.mode = 'multiply')),
    );
    expect(window.engine).toEqual(window.state.document);
    expect([strokes(), window.engine.layers[1]!.how.mode]).toEqual([[2], 'multiply']);
    window.editing.preview(stroke([1, 1, 1, 2, 2, 1, 3, 3, 1]));
    window.editing.commit('Paint', stroke([1, 1, 1, 2, 2, 1, 3, 3, 1, 4, 4, 1]));
    expect(strokes()).toEqual([4]);
    expect(window.engine).toEqual(window.state.committed);

    window.editing.preview(stroke([5, 5, 1]));
    window.editing.commit(
      'Off',
      onLayer('a', (draft) => void (draft.on = false)),
    );
    window.editing.cancelPreview();
    expect(window.engine).toEqual(window.state.committed);
    await world.quiet();
    expect(labels(world)).toEqual(['Multiply', 'Paint', 'Off']);
  });

  it('an undo that has to fetch what it undoes gives way to a change that is made meanwhile', async () => {
    const world = new World(['a', 'b']);
    const first = world.open();
    for (const hue of [1, 2, 3]) first.set('a', 'hue', hue);
    await world.quiet();
    first.close();
    const window = world.open();
    const going = window.editing.go(2);
    await pause();
    window.set('b', 'hue', 5);
    await world.quiet();
    await going;
    expect([valueOf(world.server.document, 'a'), valueOf(world.server.document, 'b')]).toEqual([3, 5]);
    expect(window.state.committed).toEqual(world.server.document);
    const again = window.editing.go(1);
    await world.quiet();
    await again;
    expect(valueOf(world.server.document, 'a')).toBe(1);
    expect(window.state.committed).toEqual(world.server.document);
  });

  it('presses of undo that come while the history is still read add up', async () => {
    const world = new World(['a', 'b']);
    const first = world.open();
    for (const hue of [1, 2, 3, 4]) first.set('a', 'hue', hue);
    await world.quiet();
    first.close();
    const window = world.open();
    const steps = [window.editing.step(-1), window.editing.step(-1), window.editing.step(-1), window.editing.step(1)];
    await world.quiet();
    await Promise.all(steps);
    expect([window.state.history.position, valueOf(world.server.document, 'a')]).toEqual([2, 2]);
  });
});

describe('what a window leaves behind', () => {
  it('survives a window that works before it is found, and is no conflict with itself', async () => {
    const world = new World(['a', 'b']);
    const lost = world.open();
    lost.set('a', 'hue', 77);
    lost.crash(9);
    const heir = world.open();
    heir.set('b', 'hue', 5);
    heir.set('b', 'hue', 6);
    await world.quiet();
    expect([valueOf(world.server.document, 'a'), valueOf(world.server.document, 'b')]).toEqual([77, 6]);
    expect(heir.followed).toEqual(['joined']);

    heir.set('a', 'hue', 10);
    await pause();
    for (const task of world.tasks.filter(({ kind }) => kind === 'write' || kind === 'timer')) world.take(task);
    await pause();
    for (const task of world.tasks.filter(({ kind }) => kind === 'write')) world.take(task);
    heir.crash(0); // its batch arrives, its answer does not
    const other = world.open();
    other.set('a', 'hue', 20);
    await world.quiet();
    const last = world.open();
    await world.quiet();
    expect(last.followed).toEqual([]);
    expect(valueOf(world.server.document, 'a')).toBe(20);
    expect(world.storage.size).toBeLessThanOrEqual(1);
  });

  it('nothing, when it was closed with all its changes on the server: the next opening says nothing', async () => {
    const world = new World(['a']);
    const window = world.open();
    window.set('a', 'hue', 12);
    window.close();
    const again = world.open();
    await world.quiet();
    expect(again.followed).toEqual([]);
    expect(valueOf(again.state.committed, 'a')).toBe(12);
    expect([...world.storage.keys()]).toEqual([]);
  });

  it.each([0, 1, 2])(
    'is no conflict with itself, when the page went away after %i of its writes and its last batch arrived',
    async (written) => {
      const world = new World(['a']);
      const window = world.open();
      window.set('a', 'hue', 12);
      window.set('a', 'hue', 13);
      world.take(world.tasks.find(({ kind }) => kind === 'write')!);
      window.close(written);
      expect(valueOf(world.server.document, 'a')).toBe(13);
      const again = world.open();
      again.set('a', 'hue', 14);
      await world.quiet();
      expect([...world.asked]).toEqual([]);
      expect(valueOf(world.server.document, 'a')).toBe(14);
      expect(again.state.committed).toEqual(world.server.document);
      expect(again.state.history.labels).toHaveLength(3);
    },
  );

  it('goes on when its last batch arrives only after the next window took it over', async () => {
    const world = new World(['a', 'b']);
    const window = world.open();
    window.set('a', 'hue', 12);
    for (const task of world.tasks.filter(({ kind }) => kind === 'write')) world.take(task);
    window.set('a', 'hue', 13);
    const late = window.keeper.lastWord()!;
    window.crash(0);
    const again = world.open();
    await pause(); // it has taken over what was written down
    expect(valueOf(again.state.committed, 'a')).toBe(12);
    world.server.change(late);
    again.set('b', 'hue', 5);
    await world.quiet();
    expect([...world.asked]).toEqual([]);
    expect([valueOf(world.server.document, 'a'), valueOf(world.server.document, 'b')]).toEqual([13, 5]);
    expect(again.state.committed).toEqual(world.server.document);
  });
});

it('says when the browser cannot keep a copy', async () => {
  const world = new World(['a']);
  const window = world.open();
  window.storageFails = true;
  window.set('a', 'hue', 1);
  world.take(world.tasks.find(({ kind }) => kind === 'write')!);
  await pause();
  expect(window.status).toMatchObject({ state: 'waiting', reason: expect.stringMatching(/could not keep a copy \(full\)/) as string });
  world.take(world.tasks.find(({ kind }) => kind === 'timer')!);
  await pause();
  world.take(
    world.tasks.find(({ kind }) => kind === 'request')!,
    'lose',
  );
  await pause();
  expect(window.status).toMatchObject({ reason: expect.stringMatching(/leave the window open; trying again/) as string });
});

describe('the shelf, on the browser’s database', () => {
  const held = new Set<string>();
  vi.stubGlobal('navigator', {
    locks: {
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
    },
  });
  afterEach(() => held.clear());

  it('writes what was added, reads it back, leaves living windows alone, and keeps databases apart', async () => {
    const document = { ...emptyDocument({ width: 10, height: 10 }), layers: [adjustmentLayer('a', 'hueSaturation', 'A')] };
    const window = new World(['a']).open();
    const mine = openShelf('one-1');
    let outbox = emptyOutbox({ revision: 4, batch: 'four', document }, 'batch');
    for (const hue of [1, 2, 3]) {
      window.set('a', 'hue', hue);
      const change = {
        id: `e${hue}`,
        label: `hue ${hue}`,
        patches: [{ op: 'replace' as const, path: ['layers', 0, 'what', 'settings', 'hue'], value: hue }],
        inverse: [],
      };
      outbox = withSteps(outbox, [{ change: { type: 'edit', entry: change }, patches: change.patches }], document);
      await mine.write(outbox);
    }
    await mine.write(sealed(outbox, 'next'));
    const heir = openShelf('one-1');
    const [name] = await heir.orphans();
    const found: StoredOutbox[] = [];
    await heir.withOrphan(name!, async (stored) => void found.push(stored));
    expect(found).toEqual([]); // it lives
    mine.close();
    await pause();
    await heir.withOrphan(name!, async (stored) => void found.push(stored));
    expect(found[0]).toMatchObject({ base: 4, baseBatch: 'four', acknowledged: 0, sent: { id: 'batch', count: 3 }, next: 'next' });
    expect(valueOf(restored(found[0]!, 'later').document, 'a')).toBe(3);
    expect(await openShelf('two-1').orphans()).toEqual([]);
    await heir.write(outbox, name);
    expect(await openShelf('one-1').orphans()).toHaveLength(1);
    await heir.write(emptyOutbox({ revision: 5, batch: null, document }, 'batch'));
    expect(await openShelf('one-1').orphans()).toEqual([]);

    const refused = (id: string) => ({ id, label: id, reason: 'Too much', document });
    for (const id of ['x', 'y']) await heir.setAside(refused(id));
    await heir.forget('x');
    expect([await openShelf('one-1').asides(), await openShelf('two-1').asides()]).toEqual([[refused('y')], []]);
  });
});
