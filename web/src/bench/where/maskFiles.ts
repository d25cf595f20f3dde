/** Masks on their way out and in: as greyscale files, and kept with the shoot. */
import { adjustments } from '@umbo/core/adjust';
import { cleanName, shorten } from '@umbo/core/base';
import {
  adjustmentLayer,
  emptyDocument,
  findMaskOwner,
  fitDocument,
  onMaskOwner,
  resolveMask,
  type MaskOwner,
  type UmboDocument,
} from '@umbo/core/document';
import type { Mask } from '@umbo/core/mask';
import type { HandOverSummary, KeptMask } from '@umbo/data';
import { request, requestOnce } from '@/ui/request';
import { onServerEvents } from '@/ui/serverEvents';
import { addPart } from '../state/masks';
import type { BenchState } from '../state/benchState';
import { reach } from '@/ui/reach';

/** Resolves when a hand-over is done. @throws Error with a sentence when it will not be */
async function handedOver(id: number): Promise<void> {
  let stop = (): void => undefined;
  const done = new Promise<void>((resolve, reject) => {
    const look = async (): Promise<void> => {
      const { state, error } = await request<HandOverSummary>('GET', `/api/hand-overs/${id}`);
      if (state === 'done') resolve();
      else if (state === 'cancelled') throw new Error('It was cancelled.');
      else if (state === 'failed') throw new Error(error ?? 'It could not be rendered.');
    };
    stop = onServerEvents((heard) => {
      if (heard === null || heard.some(({ kind, subject }) => kind === 'hand-over' && subject === id)) look().catch(reject);
    });
    look().catch(reject);
  });
  await done.finally(stop);
}

/** Has a mask rendered at full size and hands the file to the browser. */
export async function exportMask(now: () => BenchState, layer: MaskOwner, bits: 8 | 16): Promise<void> {
  const { photograph, set, whenKept } = now();
  const fileName = `${shorten(`${photograph.name.replace(/\.[^.]+$/, '')} - mask of ${cleanName(layer.name.replace(/[/\\]/g, ' '))}`, 200)}.png`;
  set({ notice: `The mask of “${layer.name}” is being rendered at full size…` });
  try {
    await whenKept();
    const { ids } = await request<{ ids: number[] }>('POST', '/api/hand-overs', {
      key: crypto.randomUUID(),
      photographId: photograph.id,
      options: { fileName, format: 'png', bits, space: 'srgb', quality: 90 },
      maskOf: layer.id,
    });
    await handedOver(ids[0]!);
    const link = document.createElement('a');
    link.href = `/api/hand-overs/${ids[0]}/file`;
    link.download = fileName;
    link.click();
    set({ notice: null });
  } catch (error) {
    set({ notice: `The mask was not exported. ${(error as Error).message}` });
  }
}

/** Brings a greyscale file into the shoot and adds it to the selected layer's mask. */
export async function importMask(now: () => BenchState, file: File): Promise<void> {
  const { shoot, set } = now();
  set({ notice: `“${file.name}” is being imported…` });
  try {
    const response = await reach(`/api/shoots/${shoot.id}/photographs?as=mask&name=${encodeURIComponent(file.name)}`, {
      method: 'POST',
      body: file,
      headers: { 'Content-Type': 'application/octet-stream' },
    });
    const answer = (await response.json()) as { id: number; sha256: string; width: number; height: number; detail?: string };
    if (!response.ok) throw new Error(answer.detail ?? 'The server refused it.');
    now().addMaskPicture({
      id: answer.id,
      sha256: answer.sha256,
      name: file.name,
      width: answer.width,
      height: answer.height,
      isFound: false,
    });
    addPart(now(), 'picture', { photograph: answer.sha256, name: shorten(cleanName(file.name), 60) });
    set({ notice: null });
  } catch (error) {
    set({ notice: `“${file.name}” was not imported. ${(error as Error).message}` });
  }
}

/** Keeps a layer's mask with the shoot. */
export async function keepMask(now: () => BenchState, layer: MaskOwner, name: string): Promise<void> {
  const { shoot, photograph, committed, set } = now();
  const only = {
    ...adjustmentLayer('mask', adjustments[0].kind, name),
    where: resolveMask(layer.where, (id) => findMaskOwner(now().committed, id)),
  };
  try {
    await requestOnce(`/api/shoots/${shoot.id}/masks`, {
      name,
      document: { ...emptyDocument(photograph, committed.workingSpace), layers: [only] },
    });
    set({ notice: `The mask is kept with the shoot as “${name}”.` });
  } catch (error) {
    set({ notice: `The mask was not kept. ${(error as Error).message}` });
  }
}

/** A mask that is kept with the shoot, fitted to this photograph; null, and a notice says why, where it cannot be read. */
export async function readKeptMask(now: () => BenchState, kept: KeptMask): Promise<Mask | null> {
  try {
    const { document } = await request<KeptMask & { document: UmboDocument }>('GET', `/api/masks/${kept.id}`);
    return fitDocument(document, now().photograph, now().committed.workingSpace).layers[0]!.where;
  } catch (error) {
    now().set({ notice: `The mask could not be read. ${(error as Error).message}` });
    return null;
  }
}

/** Gives a layer a mask that is kept with the shoot. */
export async function takeMask(now: () => BenchState, layerId: string, kept: KeptMask): Promise<void> {
  const where = await readKeptMask(now, kept);
  const layer = findMaskOwner(now().committed, layerId);
  if (where && layer)
    now().commit(
      `Mask “${kept.name}” on ${layer.name}`,
      onMaskOwner(layerId, (draft) => void (draft.where = structuredClone(where))),
    );
}
