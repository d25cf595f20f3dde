/** How a document moves along its history. The server and every window do it by these functions, so that they cannot disagree. */
import { produce } from 'immer';
import { difference, sameValue } from './difference.ts';
import { patch, type Entry, type Patch } from './edit.ts';
import type { UmboDocument } from './types.ts';

/** One change: a new entry of the history, or a step of undo or redo from one place in it to another. */
export type Change = { readonly type: 'edit'; readonly entry: Entry } | { readonly type: 'go'; readonly from: number; readonly to: number };

/** How many entries the steps of undo and redo in one batch may pass. */
export const TRAVEL_LIMIT = 20_000;

/** The document after an entry. @throws Error when its patches do not fit, or when its inverse does not lead back */
export function addEntry(document: UmboDocument, { patches, inverse }: Entry): UmboDocument {
  const next = checked(document, patches);
  if (!sameValue(checked(next, inverse), document)) throw new Error('The inverse does not lead back');
  return next;
}

/**
 * The document at another place of its history.
 * @param passed the entries between the two places, in their order
 * @example
 * const begun = emptyDocument({ width: 60, height: 40 });
 * const done = after(begun, (draft) => void (draft.strength = 0.5));
 * travel(done, [entryBetween('e', 'Half', begun, done)], 'back').strength; // → undefined
 */
export function travel(document: UmboDocument, passed: readonly Entry[], direction: 'back' | 'forth'): UmboDocument {
  return direction === 'forth'
    ? passed.reduce((state, { patches }) => checked(state, patches), document)
    : passed.reduceRight((state, { inverse }) => checked(state, inverse), document);
}

/**
 * Applies patches of unknown origin, as {@link patch} does, one after the other.
 * @throws Error when one names a place that is not there: a list grows by one element at its end, and shrinks by elements only
 */
function checked(document: UmboDocument, patches: readonly Patch[]): UmboDocument {
  return produce(document, (draft) => {
    for (const one of patches) {
      expectPlace(draft, one);
      patch(draft, [one]);
    }
  });
}

function expectPlace(document: UmboDocument, { op, path }: Patch): void {
  let at: unknown = document;
  for (const [i, key] of path.entries()) {
    const last = i === path.length - 1;
    if (typeof at !== 'object' || at === null) throw new Error(`A change names the place ${path.join('/')}, which is not there`);
    if (Array.isArray(at)) {
      if (!Number.isInteger(key) || Number(key) < 0 || Number(key) > at.length - (last && op === 'add' ? 0 : 1))
        throw new Error(`A change names element ${key} of a list of ${at.length} at ${path.join('/')}`);
    } else if (!Object.hasOwn(at, key) && !(last && op === 'add'))
      throw new Error(`A change names the setting ${path.join('/')}, which is not there`);
    at = (at as Record<string | number, unknown>)[key];
  }
  if (path.length === 0) throw new Error('A change names no place');
}

/** An entry that leads from one state to another. */
export function entryBetween(id: string, label: string, from: UmboDocument, to: UmboDocument): Entry {
  return { id, label, patches: difference(from, to), inverse: difference(to, from) };
}
