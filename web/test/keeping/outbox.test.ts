/** What batches are made of, and what an outbox that was written down says. */
import { addEntry, adjustmentLayer, emptyDocument, entryBetween, sourceLayer, TRAVEL_LIMIT, type UmboDocument } from '@umbo/core/document';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  acknowledged,
  batchOf,
  emptyOutbox,
  isEmptyOutbox,
  restored,
  sealed,
  unsent,
  upgradedOutbox,
  waiting,
  withSteps,
  type Outbox,
  type StoredOutbox,
  type Step,
} from '../../src/bench/keeping/outbox';
import { recipe, valueOf } from './world';

const document: UmboDocument = {
  ...emptyDocument({ width: 10, height: 10 }),
  layers: [adjustmentLayer('a', 'hueSaturation', 'A')],
};

/** So many changes of a hue, one after another. */
function changed(from: Outbox, hues: readonly number[], label = 'hue'): Outbox {
  return hues.reduce((outbox, hue, i) => {
    const draft = structuredClone(outbox.document);
    recipe('a', 'hue', hue)(draft);
    const entry = entryBetween(`e${outbox.log.length}-${i}`, label, outbox.document, draft);
    const step: Step = { change: { type: 'edit', entry }, patches: entry.patches };
    return withSteps(outbox, [step], draft);
  }, from);
}
const numbers = (n: number): number[] => Array.from({ length: n }, (_, i) => (i % 170) + 1);
const fresh = (): Outbox => emptyOutbox({ revision: 7, batch: null, document }, 'n0');

describe('a batch', () => {
  it('holds at most 200 changes; the rest goes with the next, which begins where it ended', () => {
    let outbox = sealed(changed(fresh(), numbers(450)), 'n1');
    const sizes: number[] = [];
    for (let revision = 8; ; revision++) {
      const batch = batchOf(outbox, 'd');
      expect(batch).toMatchObject({ base: revision - 1, database: 'd' });
      sizes.push(batch.changes.length);
      outbox = acknowledged(outbox, revision);
      if (isEmptyOutbox(outbox)) break;
      outbox = sealed(outbox, `n${revision}`);
    }
    expect(sizes).toEqual([200, 200, 50]);
    expect(outbox.baseDocument).toEqual(outbox.document);
  });

  it('holds at most four million characters, unless a single change is longer', () => {
    const long = 'x'.repeat(1_500_000);
    const outbox = changed(fresh(), [1, 2, 3, 4], long);
    expect(batchOf(sealed(outbox, 'n'), 'd').changes).toHaveLength(2);
    const huge = changed(changed(fresh(), [1], 'y'.repeat(5_000_000)), [2]);
    expect(batchOf(sealed(huge, 'n'), 'd').changes).toHaveLength(1);
  });

  it('passes no more of the history than the server allows in one', () => {
    const far: Step = { change: { type: 'go', from: TRAVEL_LIMIT, to: 100 }, patches: [] };
    const back: Step = { change: { type: 'go', from: 100, to: TRAVEL_LIMIT }, patches: [] };
    const outbox = withSteps(fresh(), [far, back, far], document);
    expect(batchOf(sealed(outbox, 'n'), 'd').changes).toHaveLength(1);
  });

  it('has an id that was known before it was sealed, and stays the same until it is known what became of it', () => {
    const outbox = changed(fresh(), [1, 2]);
    const sent = sealed(outbox, 'n1');
    expect([batchOf(sent, 'd').id, sent.next]).toEqual(['n0', 'n1']);
    const more = sealed(changed(sent, [3]), 'n2');
    expect(batchOf(more, 'd')).toEqual(batchOf(sent, 'd'));
    expect(batchOf(sealed(unsent(more), 'n3'), 'd')).toMatchObject({ id: 'n1', changes: { length: 3 } });
  });
});

describe('an outbox that was written down', () => {
  const stored = ({ snapshot, log, acknowledged: count, base, baseBatch, sent, next }: Outbox) =>
    JSON.parse(JSON.stringify({ snapshot, log, acknowledged: count, base, baseBatch, sent, next })) as Parameters<typeof restored>[0];

  it('comes back with the documents that follow from it, whatever had become of it', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom('change', 'seal', 'acknowledge', 'refuse'), { maxLength: 40 }), (actions) => {
        let outbox = fresh();
        let [hue, revision, ids] = [1, 7, 1];
        for (const action of actions) {
          if (action === 'change') outbox = changed(outbox, [(hue++ % 170) + 1]);
          else if (action === 'seal') outbox = sealed(outbox, `n${ids++}`);
          else if (action === 'acknowledge' && outbox.sent) outbox = acknowledged(outbox, ++revision);
          else if (action === 'refuse' && outbox.sent) outbox = unsent(outbox);
        }
        const back = restored(stored(outbox), 'later');
        expect(back.document).toEqual(outbox.document);
        expect(back.baseDocument).toEqual(outbox.baseDocument);
        expect([...waiting(back)]).toEqual(JSON.parse(JSON.stringify(waiting(outbox))));
        // Whether its last batch was sent is not known: it goes again as what it would have been.
        if (isEmptyOutbox(outbox)) expect(back.sent).toBeNull();
        else expect(batchOf(back, 'd')).toEqual(JSON.parse(JSON.stringify(batchOf(sealed(outbox, 'x'), 'd'))));
        const reached = batchOf({ ...back, sent: { id: 'all', count: waiting(back).length } }, 'd').changes;
        const after = reached.reduce((at, change) => (change.type === 'edit' ? addEntry(at, change.entry) : at), back.baseDocument);
        expect(after).toEqual(outbox.document);
      }),
      { numRuns: 200 },
    );
  });

  it('lets go of what is acknowledged when nothing waits and the log is long', () => {
    const outbox = acknowledged(sealed(changed(fresh(), numbers(150)), 'n1'), 8);
    expect(outbox.log).toHaveLength(0);
    expect(valueOf(outbox.snapshot, 'a')).toBe(150);
    const short = acknowledged(sealed(changed(fresh(), numbers(20)), 'n1'), 8);
    expect([short.log.length, short.acknowledged, valueOf(short.snapshot, 'a')]).toEqual([20, 20, 0]);
  });
});

it('an outbox that an earlier version wrote down names photographs by content when it is taken over', () => {
  const frame = sourceLayer('f', 'frame', 'F', document.photo);
  const old = JSON.parse(
    JSON.stringify({ ...document, version: 1, layers: [frame] }).replace('"photograph":""', '"photographId":4'),
  ) as UmboDocument;
  const path = ['layers', 0, 'what', 'settings', 'photographId'];
  const [patches, inverse] = [4, 0].map((_, i) => [{ op: 'replace' as const, path, value: [7, 4][i] }]);
  const entry = { id: 'e', label: 'Other', patches: patches!, inverse: inverse! };
  // It knew nothing of batches that make revisions.
  const stored = {
    ...{ snapshot: old, acknowledged: 0, base: 7, sent: null, next: 'n' },
    log: [{ change: { type: 'edit' as const, entry }, patches: patches! }],
  };
  const hash = (letter: string): string => letter.repeat(64);
  const outbox = restored(
    upgradedOutbox(stored as unknown as StoredOutbox, (id) => ({ 4: hash('a'), 7: hash('b') })[id]),
    'later',
  );
  const names = [outbox.baseDocument, outbox.document].map(({ layers }) => layers[0]!.what.settings);
  expect(names).toMatchObject([{ photograph: hash('a') }, { photograph: hash('b') }]);
  const [change] = batchOf(outbox, 'd').changes;
  // The server makes of it what this window has.
  expect(change!.type === 'edit' && addEntry(outbox.baseDocument, change!.entry)).toEqual(outbox.document);
});
