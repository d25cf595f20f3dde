/** Keeping, by random schedules of two windows, a browser's storage, a network and a server. */
import { sameValue } from '@umbo/core/document';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pause, recipe, valueOf, World, type Window } from './world';

/** Layer a is changed by the first window alone, b by the second, s by both. */
const OWN = ['a', 'b'] as const;

/** What happened to one window's place, over crashes and reloads. */
interface Place {
  window: Window;
  /** Values of its own layer in the order in which they were committed, and how many of them must survive. */
  values: number[];
  safe: number;
  /** The newest value that this window committed. */
  newest: number;
}

async function run(decisions: readonly number[], undoing: boolean): Promise<void> {
  const world = new World(['a', 'b', 's']);
  const places = OWN.map((): Place => ({ window: world.open(), values: [0], safe: 0, newest: 0 }));
  /** Values of the shared layer between which someone decided: both must be in the history. */
  let versions: { window: Window; value: number }[] = [];
  let value = 1;
  let decision = 0;
  const choose = (n: number): number => decisions[decision++ % decisions.length]! % n;

  const decide = (window: Window): void => {
    const before = { value: valueOf(window.state.committed, 's'), answers: window.followed.length };
    window.decide(choose(2) === 0 ? 'mine' : 'theirs');
    if (window.followed.length > before.answers) versions.push({ window, value: before.value });
  };
  const note = (place: Place): void => {
    const { window } = place;
    if (place.newest > place.safe && window.isSafe) place.safe = place.newest;
  };
  const reopen = (place: Place): void => {
    place.window = world.open();
    place.newest = 0;
  };
  const act = (place: Place, i: number): void => {
    const { window } = place;
    const action = choose(undoing ? 13 : 10);
    if (action < 3) {
      if (window.set(OWN[i]!, 'hue', value % 180)) place.newest = place.values.push(value % 180) - 1;
      value++;
    } else if (action === 3) window.set('s', 'hue', value++ % 180);
    else if (action === 4) window.set('s', 'saturation', value++ % 100);
    else if (action === 5) window.editing.preview(recipe(OWN[i]!, 'saturation', value++ % 100));
    else if (action === 6) window.editing.cancelPreview();
    else if (action === 7) {
      if (window.conflict) decide(window);
    } else if (action === 8) {
      note(place);
      if (!window.isSafe) versions = versions.filter((version) => version.window !== window);
      window.crash(choose(4));
      reopen(place);
    } else if (action === 9) {
      note(place);
      window.editing.cancelPreview();
      const safe = window.close(choose(2) === 0 ? Infinity : choose(4));
      if (safe) place.safe = Math.max(place.safe, place.newest);
      else versions = versions.filter((version) => version.window !== window);
      reopen(place);
    } else void window.editing.go(window.state.history.position + (action === 10 ? 1 : action === 11 ? -1 : -3));
  };

  const settle = async (): Promise<void> => {
    await world.quiet();
    // As when someone comes back to a window: what it was not told of, it sees then.
    places.forEach(({ window }) => window.keeper.heard(Infinity));
    await world.quiet();
    places.forEach(note);
  };

  for (decision = 0; decision < decisions.length;) {
    const lot = choose(10);
    if (lot < 4 || world.tasks.length === 0) {
      const i = choose(2);
      act(places[i]!, i);
    } else {
      const task = world.tasks[choose(world.tasks.length)]!;
      // Writes of one window happen in their order.
      const first = task.kind === 'write' ? world.tasks.find((one) => one.kind === 'write' && one.window === task.window)! : task;
      world.take(first, first.lose && lot === 9 ? 'lose' : 'run');
    }
    await pause();
    for (const place of places) {
      note(place);
      if (!sameValue(place.window.engine, place.window.state.document)) throw new Error('The engine shows something else');
    }
  }

  for (const { window } of places) window.editing.cancelPreview();
  await settle();
  // What is left behind is found by the next opening, over and over.
  for (let i = 0; world.storage.size > 0 && i < 6; i++) {
    places.forEach(({ window }) => window.close());
    places.forEach(reopen);
    await settle();
  }
  expect([...world.storage.keys()].filter((name) => !world.locks.has(name))).toEqual([]);

  const { server } = world;
  for (const { window } of places) {
    expect(window.status).toEqual({ state: 'kept' });
    expect(window.conflict).toBeNull();
    expect(window.state.document).toEqual(window.state.committed);
    expect(window.state.committed).toEqual(server.document);
    expect(window.engine).toEqual(server.document);
    expect(window.state.history).toEqual({ labels: server.entries.map(({ label }) => label), position: server.position });
  }
  const walk = server.walk();
  expect(walk[server.position]).toEqual(server.document);
  if (undoing) return;
  for (const [i, { values, safe }] of places.entries()) {
    const last = valueOf(server.document, OWN[i]!);
    // What a crash may take is what the browser had not written down.
    // Where someone was asked, either answer is right.
    const asked = world.asked.has(OWN[i]!.toUpperCase());
    expect(asked ? values : values.slice(safe), `layer ${OWN[i]}`).toContain(last);
  }
  const seen = new Set(walk.map((document) => valueOf(document, 's')));
  for (const version of versions) expect([...seen]).toContain(version.value);
}

describe('windows, storage, network and server agree when they are quiet, and nothing disappears unasked', () => {
  const decisions = fc.array(fc.nat({ max: 9999 }), { minLength: 30, maxLength: 160, size: 'max' });
  it('whatever is changed, previewed, delayed, lost, closed and crashed', async () => {
    await fc.assert(
      fc.asyncProperty(decisions, (list) => run(list, false)),
      { numRuns: 1600 },
    );
  });
  it('with undo and redo in between', async () => {
    await fc.assert(
      fc.asyncProperty(decisions, (list) => run(list, true)),
      { numRuns: 1200 },
    );
  });
});
