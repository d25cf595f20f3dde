/**
 * What is edited: the kept edit, a live preview on top of it, and the history. The engine is told every difference of what is shown,
 * so that it never shows anything else than `document`.
 */
import { shorten } from '@umbo/core/base';
import {
  after,
  difference,
  edit,
  newFault,
  sameValue,
  travel,
  TRAVEL_LIMIT,
  type Entry,
  type Patch,
  type Recipe,
  type UmboDocument,
} from '@umbo/core/document';
import type { Followed } from './keeper';
import type { Step } from './outbox';

/** Entries are fetched this many at a time when someone goes back further than this window knows. */
const PAGE = 50;

/** A minus before a number is no hyphen; two long names make a label longer than the history takes. */
const labelOf = (words: string): string => shorten(words.replace(/(^|[\s(])-(?=\d)/g, '$1−'), 200);

export interface EditState {
  /** What is shown: the kept edit, or a live preview of the change that is being made. */
  document: UmboDocument;
  /** The edit without the change that is being made. */
  committed: UmboDocument;
  history: { labels: string[]; position: number };
}

export interface EditingPorts {
  get: () => EditState;
  set: (values: Partial<EditState>) => void;
  /** Tells the engine what changes on the stage. */
  show: (patches: Patch[]) => void;
  push: (step: Step, document: UmboDocument) => void;
  /** Entries of the history as this window knows it. @throws Error when the server has another one */
  fetchEntries: (from: number, to: number) => Promise<Entry[]>;
  say: (notice: string) => void;
  newId: () => string;
}

export interface Editing {
  preview: (recipe: Recipe) => void;
  commit: (label: string, recipe: Recipe) => boolean;
  cancelPreview: () => void;
  go: (position: number) => Promise<void>;
  /** Steps back (-1) or on (1); presses that come while the history is read add up. */
  step: (by: 1 | -1) => Promise<void>;
  /** Goes on from what the keeper found elsewhere. */
  follow: (followed: Followed) => void;
}

/** The entries of the history with their patches, as far as this window has them. */
function createEntries(get: EditingPorts['get'], fetchEntries: EditingPorts['fetchEntries']) {
  let entries: (Entry | null)[] = get().history.labels.map(() => null);
  return {
    /** The newest at a place; those behind it are gone. */
    add: (entry: Entry, position: number): void => void (entries = [...entries.slice(0, position), entry]),
    /** Another history: there are so many, and none is known. */
    forget: (count: number): void => void (entries = Array.from({ length: count }, () => null)),
    /** Those `from` to `to`; null when the history has become another one while they were fetched. */
    async between(from: number, to: number): Promise<Entry[] | null> {
      if (entries.slice(from, to).some((entry) => entry === null)) {
        const { history, committed } = get();
        const first = Math.max(0, from - PAGE);
        const last = Math.min(entries.length, to + PAGE);
        const fetched = await fetchEntries(first, last);
        if (get().history !== history || get().committed !== committed) return null;
        entries = entries.map((entry, i) => entry ?? fetched[i - first] ?? null);
      }
      return entries.slice(from, to) as Entry[];
    },
  };
}

export function createEditing({ get, set, show, push, fetchEntries, say, newId }: EditingPorts): Editing {
  const entries = createEntries(get, fetchEntries);
  /** The change that is being made. */
  let running: Recipe | null = null;
  /** The place in the history that is on its way; null when none is. */
  let wanted: number | null = null;

  /** Shows a document, and tells the engine the difference. */
  const display = (document: UmboDocument): void => {
    const patches = difference(get().document, document);
    if (patches.length > 0) show(patches);
    set({ document });
  };
  /** Another kept edit; a change that is being made stays on top of it. */
  const keep = (committed: UmboDocument): void => {
    set({ committed });
    display(running ? after(committed, running) : committed);
  };
  const remember = (entry: Entry): void => {
    const { labels, position } = get().history;
    entries.add(entry, position);
    set({ history: { labels: [...labels.slice(0, position), entry.label], position: position + 1 } });
  };

  /** @returns false when a change came in between: it is not what was to be undone */
  const travelTo = async (position: number): Promise<boolean> => {
    const from = get().history.position;
    const [low, high] = position < from ? [position, from] : [from, position];
    const passed = await entries.between(low, high);
    if (!passed || get().document !== get().committed) return false;
    for (let at = from; at !== position;) {
      const to = position < from ? Math.max(position, at - TRAVEL_LIMIT) : Math.min(position, at + TRAVEL_LIMIT);
      const part = passed.slice(Math.min(at, to) - low, Math.max(at, to) - low);
      const before = get().committed;
      const next = travel(before, part, to < at ? 'back' : 'forth');
      keep(next);
      set({ history: { ...get().history, position: to } });
      push({ change: { type: 'go', from: at, to }, patches: difference(before, next) }, next);
      at = to;
    }
    return true;
  };

  const go = async (position: number): Promise<void> => {
    const { history, document, committed } = get();
    if (document !== committed || position < 0 || position > history.labels.length) return;
    const underWay = wanted !== null;
    wanted = position;
    if (underWay) return;
    try {
      while (wanted !== get().history.position) if (!(await travelTo(wanted))) return;
    } catch (error) {
      say(`The history could not be read: ${(error as Error).message}`);
    } finally {
      wanted = null;
    }
  };

  return {
    preview(recipe) {
      running = recipe;
      display(after(get().committed, recipe));
    },
    commit(label, recipe) {
      const { document: next, patches, inverse } = edit(get().committed, recipe);
      // What the server would refuse must not come into being here either.
      const fault = patches.length > 0 ? newFault(next, get().committed) : null;
      // A change that comes to the same on top of the preview is what was previewed; any other comes in between.
      if (fault || (running && sameValue(after(get().document, recipe), next))) running = null;
      if (fault) {
        display(get().committed);
        say(`This was not done, because of the edit that would come out: ${fault}.`);
        return false;
      }
      keep(next);
      if (patches.length === 0) return true;
      const entry: Entry = { id: newId(), label: labelOf(label), patches, inverse };
      remember(entry);
      push({ change: { type: 'edit', entry }, patches }, next);
      return true;
    },
    cancelPreview() {
      running = null;
      display(get().committed);
    },
    go,
    step: (by) => go((wanted ?? get().history.position) + by),
    follow({ state, steps, document }) {
      if (state) {
        entries.forget(state.labels.length);
        set({ history: { labels: state.labels, position: state.position } });
      }
      for (const { change } of steps) {
        if (change.type === 'edit') remember(change.entry);
        else set({ history: { ...get().history, position: change.to } });
      }
      keep(document);
    },
  };
}
