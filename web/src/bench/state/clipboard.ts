'use client';
/** Layers on their way to another photograph, and edits as files. */
import {
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
import { pasteLayers } from './actions';
import { hashOfShoot } from './hashOf';
import type { BenchState } from './benchState';

const KEY = 'umbo-layers';

/** Takes the selected layers along; their positions are fitted when they are pasted. */
export function copySelected(state: BenchState): void {
  const layers = topmost(state.committed, new Set(state.selection));
  if (layers.length === 0) return;
  const document: UmboDocument = {
    ...emptyDocument(state.photograph),
    layers: layers.map((layer) => withoutLinks(layer, state.committed)),
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

/** A layer whose mask does not need the layers that stay behind. */
function withoutLinks(layer: Layer, document: UmboDocument): Layer {
  const copy = structuredClone(layer);
  const visit = (one: Layer): void => {
    if (one.where.link !== undefined && !findLayer({ ...document, layers: [copy] }, one.where.link)) unlink(document, one);
    if ('layers' in one.what) one.what.layers.forEach(visit);
  };
  visit(copy);
  return copy;
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
    const document = await checked(text, state());
    const { layers } = fitDocument(document, state().photograph);
    pasteLayers(state(), layers, layers.length === 1 ? `Paste ${layers[0]!.name}` : `Paste ${layers.length} layers`);
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
