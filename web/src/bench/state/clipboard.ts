'use client';
/** Layers on their way to another photograph, and edits as files. */
import { type Carried, markDrawn, presentOf, takeAlong } from '@umbo/core/carry';
import { eachLayer, emptyDocument, fitDocument, replaceWith, topmost, upgradeDocument, type UmboDocument } from '@umbo/core/document';
import { request } from '@/ui/request';
import { saveFile } from '@/ui/saveFile';
import { pasteLayers } from './actions';
import { lightOf, measureShares, ownersIn, report } from './carrying';
import type { Copied } from './copied';
import { findRegions, isElsewhere } from './found/finding';
import { hashOfShoot } from './hashOf';
import { sampleAnew } from './sampling';
import type { BenchState } from './benchState';

type Now = () => BenchState;

const KEY = 'umbo-copied';

/** Takes the selected layers along; their positions are fitted when they are pasted. */
export function copySelected(now: Now): void {
  const state = now();
  const layers = topmost(state.committed, new Set(state.selection));
  if (layers.length === 0) return;
  const carried = takeAlong(state.committed, layers);
  const document: UmboDocument = {
    ...emptyDocument(state.photograph, state.committed.workingSpace),
    layers: carried.layers,
    ...(carried.regions.length > 0 && { regions: carried.regions }),
    // All of an edit goes with its strength.
    ...(layers.length === state.committed.layers.length &&
      state.committed.strength !== undefined && { strength: state.committed.strength }),
  };
  const copied: Copied = { document, of: state.photograph.sha256, shares: {} };
  const text = JSON.stringify(copied);
  try {
    localStorage.setItem(KEY, text);
    state.set({
      notice: `${layers.length === 1 ? `“${layers[0]!.name}” is` : `${layers.length} layers are`} copied. Paste on any photograph.`,
    });
  } catch {
    state.set({ notice: 'These layers are too large to be copied: they hold more strokes than the browser keeps for that.' });
    return;
  }
  // What its masks cover here is told beside what they cover there; until it is known, the copy is good without.
  Promise.all([measureShares(now, ownersIn(document)), lightOf(now)]).then(
    ([shares, light]) => {
      if (localStorage.getItem(KEY) === text) localStorage.setItem(KEY, JSON.stringify({ ...copied, shares, light }));
    },
    () => undefined,
  );
}

/** An edit from elsewhere, on the photograph of this bench. @throws Error with a sentence when it is no edit */
async function arrived(text: string, state: BenchState): Promise<UmboDocument> {
  let value: unknown;
  try {
    value = upgradeDocument(JSON.parse(text), hashOfShoot(state));
  } catch {
    throw new Error('This is not an edit: it is not JSON.');
  }
  return fitDocument(await request<UmboDocument>('POST', '/api/edits/check', value), state.photograph, state.committed.workingSpace);
}

/**
 * Pastes. On another photograph than they were on, what was drawn is marked to be looked at, what was found is found anew, and what became
 * of the masks is told.
 */
export async function pasteCopied(now: Now, { document, of, shares, light }: Copied, present?: ReadonlyMap<string, string>): Promise<void> {
  const carried: Carried = structuredClone({ layers: document.layers, regions: document.regions ?? [], readings: [] });
  const isFromElsewhere = of !== now().photograph.sha256;
  if (isFromElsewhere) markDrawn([...eachLayer(carried.layers), ...carried.regions]);
  const { layers, regions } = pasteLayers(now(), carried, present);
  if (!isFromElsewhere) return;
  const elsewhere = regions.filter((region) => isElsewhere(now(), region)).flatMap(({ role }) => role ?? []);
  if (elsewhere.length > 0) await findRegions(now, new Set(elsewhere));
  const there = [...eachLayer(carried.layers)];
  const from = new Map(Array.from(eachLayer(layers), ({ id }, i) => [id, there[i]!.id]));
  for (const { id } of regions) from.set(id, id);
  await sampleAnew(now, [...from.keys()]);
  await report(now, from, shares, light);
}

export async function paste(state: Now): Promise<void> {
  const text = localStorage.getItem(KEY);
  if (!text) {
    state().set({ notice: 'Nothing is copied yet. Select layers and copy them first.' });
    return;
  }
  try {
    const { document, ...rest } = JSON.parse(text) as Copied;
    const fitted = await arrived(JSON.stringify(document), state());
    const copied: Copied = { document: fitted, ...rest };
    const { committed, set } = state();
    const present = new Map(Array.from(presentOf(committed, fitted.layers), ([there, { id }]) => [there, id]));
    if (present.size > 0) return set({ pasting: { copied, present } });
    const isFirst = committed.layers.length === 0;
    const pasted = pasteCopied(state, copied);
    if (isFirst && fitted.strength !== undefined)
      state().commit(`Whole edit ${Math.round(fitted.strength * 100)} %`, (draft) => void (draft.strength = fitted.strength!));
    await pasted;
  } catch (error) {
    state().set({ notice: `Nothing was pasted. ${(error as Error).message}` });
  }
}

/** Hands the edit to the browser as a file. */
export function saveEdit({ committed, photograph }: BenchState): void {
  saveFile(`${photograph.name.replace(/\.[^.]+$/, '')}.umbo.json`, JSON.stringify(committed, null, 1), 'application/json');
}

/** Replaces the layers by those of an edit in a file; one step of the history. */
export async function openEdit(state: Now, file: File): Promise<void> {
  try {
    state().commit(`Open ${file.name}`, replaceWith(await arrived(await file.text(), state())));
  } catch (error) {
    state().set({ notice: `“${file.name}” was not opened. ${(error as Error).message}` });
  }
}
