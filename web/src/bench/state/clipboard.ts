'use client';
/** Layers on their way to another photograph, and edits as files. */
import {
  eachLayer,
  emptyDocument,
  findLayer,
  fitDocument,
  replaceWith,
  topmost,
  unlink,
  upgradeDocument,
  type Layer,
  type UmboDocument,
} from '@umbo/core/document';
import { request } from '@/ui/request';
import { saveFile } from '@/ui/saveFile';
import { originOf, pasteLayers } from './actions';
import { hashOfShoot } from './hashOf';
import type { BenchState } from './benchState';

const KEY = 'umbo-layers';

/** Takes the selected layers along; their positions are fitted when they are pasted. */
export function copySelected(state: BenchState): void {
  const layers = topmost(state.committed, new Set(state.selection));
  if (layers.length === 0) return;
  const document: UmboDocument = {
    ...emptyDocument(state.photograph),
    layers: withoutLinks(layers, state.committed),
    // All of an edit goes with its strength.
    ...(layers.length === state.committed.layers.length &&
      state.committed.strength !== undefined && { strength: state.committed.strength }),
  };
  try {
    localStorage.setItem(KEY, JSON.stringify(document));
    state.set({
      notice: `${layers.length === 1 ? `“${layers[0]!.name}” is` : `${layers.length} layers are`} copied. Paste on any photograph.`,
    });
  } catch {
    state.set({ notice: 'These layers are too large to be copied: they hold more strokes than the browser keeps for that.' });
  }
}

/** Layers whose masks do not need those that stay behind: links among them stay links. */
function withoutLinks(layers: readonly Layer[], document: UmboDocument): Layer[] {
  const copies = structuredClone(layers) as Layer[];
  const taken = { ...document, layers: copies };
  unlink(document, (id) => !findLayer(taken, id), eachLayer(copies));
  return copies;
}

/** @throws Error with a sentence when it is no edit */
const checked = (text: string, state: BenchState): Promise<UmboDocument> => {
  let value: unknown;
  try {
    value = upgradeDocument(JSON.parse(text), hashOfShoot(state));
  } catch {
    throw new Error('This is not an edit: it is not JSON.');
  }
  return request<UmboDocument>('POST', '/api/edits/check', value);
};

export async function paste(state: () => BenchState): Promise<void> {
  const text = localStorage.getItem(KEY);
  if (!text) {
    state().set({ notice: 'Nothing is copied yet. Select layers and copy them first.' });
    return;
  }
  try {
    const fitted = fitDocument(await checked(text, state()), state().photograph);
    const { committed, set } = state();
    const present = new Map(
      fitted.layers.flatMap((layer) => {
        const same = [...eachLayer(committed.layers)].find((one) => originOf(one) === originOf(layer));
        return same ? [[layer.id, same.id] as const] : [];
      }),
    );
    if (present.size > 0) return set({ pasting: { layers: fitted.layers, present } });
    const isFirst = committed.layers.length === 0;
    pasteLayers(state(), fitted.layers);
    if (isFirst && fitted.strength !== undefined)
      state().commit(`Whole stack ${Math.round(fitted.strength * 100)} %`, (draft) => void (draft.strength = fitted.strength!));
  } catch (error) {
    state().set({ notice: `Nothing was pasted. ${(error as Error).message}` });
  }
}

/** Hands the edit to the browser as a file. */
export function saveEdit({ committed, photograph }: BenchState): void {
  saveFile(`${photograph.name.replace(/\.[^.]+$/, '')}.umbo.json`, JSON.stringify(committed, null, 1), 'application/json');
}

/** Replaces the layers by those of an edit in a file; one step of the history. */
export async function openEdit(state: () => BenchState, file: File): Promise<void> {
  try {
    const opened = await checked(await file.text(), state());
    state().commit(`Open ${file.name}`, replaceWith(fitDocument(opened, state().photograph)));
  } catch (error) {
    state().set({ notice: `“${file.name}” was not opened. ${(error as Error).message}` });
  }
}
