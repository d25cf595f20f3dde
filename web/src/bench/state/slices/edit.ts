import { findLayer, type Entry, type UmboDocument } from '@umbo/core/document';
import type { DocumentState } from '@umbo/data';
import { createEditing, type EditState } from '../../keeping/editing';
import type { Followed, KeeperEvents } from '../../keeping/keeper';
import type { EditSlice, PhotographInfo } from '../benchState';
import { hiddenBecause } from '../hidden';
import { keepSelection } from './selection';
import type { Bench } from './slice';

const WHY: Record<Followed['why'], string> = {
  newer: 'This photograph was changed in another window; its newest state is shown.',
  joined: 'This photograph was changed in another window, too; both sets of changes are joined.',
  decided: 'Both versions are in the history.',
  'set aside': 'One change could not be kept. It is set aside as a file (below); everything else goes on.',
  restored: 'Changes that had not reached the server before were found in this browser and are kept now.',
};

/** The edit, and what the keeper is to tell. */
export function editSlice(
  bench: Bench,
  photograph: PhotographInfo,
  { document, labels, position }: DocumentState,
): { slice: EditSlice; events: KeeperEvents } {
  const { get, set, read, newId } = bench;
  const initial: EditState = { document, committed: document, history: { labels, position } };
  const editing = createEditing({
    // The state is only there once all slices are.
    get: () => get() ?? initial,
    set,
    show: (patches) => bench.engine?.patch(patches),
    push: (step, next) => bench.keeper?.push(step, next),
    async fetchEntries(from, to) {
      await bench.keeper?.whenKept();
      const query = `from=${from}&to=${to}&revision=${bench.keeper?.revision()}`;
      return read<Entry[]>(`/api/photographs/${photograph.id}/entries?${query}`);
    },
    say: (notice) => set({ notice }),
    newId,
  });
  /** Selections of what is gone end. */
  const moved = <T>(result: T): T => {
    keepSelection(bench, get().committed);
    return result;
  };
  let told: string | null = null;
  /** Says, once, that what was changed is not seen. */
  const tellHidden = (before: UmboDocument): void => {
    const { committed, layerId, notice } = get();
    const [then, now] = [findLayer(before, layerId), findLayer(committed, layerId)];
    if (!then || !now || then === now || then.on !== now.on) return;
    const why = hiddenBecause(committed, now.id);
    if (why !== null && why !== told && notice === null) set({ notice: `Changed, but it does not show: ${why}.` });
    told = why;
  };
  return {
    slice: {
      ...initial,
      status: { state: 'kept' },
      conflict: null,
      asides: [],
      preview: (recipe) => editing.preview(recipe),
      commit(label, recipe) {
        const before = get().committed;
        const done = moved(editing.commit(label, recipe));
        if (done) tellHidden(before);
        return done;
      },
      cancelPreview: () => editing.cancelPreview(),
      go: async (to) => moved(await editing.go(to)),
      step: async (by) => moved(await editing.step(by)),
      async whenKept() {
        await Promise.all([bench.keeper?.whenKept(), ...bench.storing]);
      },
      alsoKeep(storing) {
        const end = (): void => void bench.storing.delete(storing);
        bench.storing.add(storing);
        storing.then(end, end);
      },
      decide: (side) => bench.keeper?.decide(side),
      forget: (id) => bench.keeper?.forget(id) ?? Promise.resolve(),
    },
    events: {
      status: (status) => set({ status }),
      follow(followed) {
        editing.follow(followed);
        keepSelection(bench, followed.document);
        set({ notice: WHY[followed.why] });
      },
      conflict: (conflict) => set({ conflict }),
      aside: (asides) => set({ asides }),
    },
  };
}
