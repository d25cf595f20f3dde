'use client';
/** Finding the regions of a photograph: by a worker of its own, kept with the shoot, added to the edit in one step. */
import { shorten } from '@umbo/core/base';
import { foundIn, putFound, roleName, type Region } from '@umbo/core/document';
import { FINDER } from '@umbo/find/files';
import type { Found, FromFinder, ToFinder } from '../../../workers/findProtocol';
import { request } from '@/ui/request';
import type { BenchState, MaskPicture } from '../benchState';
import { greyOf, hashOf, leftBehind, storeFound, type FoundFile } from './foundFiles';

type Now = () => BenchState;

let running: Worker | null = null;
/** Ends the wait for what it finds. */
let endWait: () => void = () => undefined;

/** Calls off what is being found. */
export function stopFinding(now: Now): void {
  running?.terminate();
  running = null;
  endWait();
  now().set({ finding: null });
}

/** Finds what is in the photograph and adds it to the edit's regions, as it comes. @param wanted what is looked for; left out: everything */
export async function findRegions(now: Now, wanted: ToFinder['wanted'] = null): Promise<void> {
  if (running) return;
  const { photograph, committed } = now();
  const worker = (running = new Worker(new URL('../../../workers/find.worker.ts', import.meta.url), { type: 'module' }));
  now().set({ finding: 0, listed: 'regions' });
  try {
    const { id, sha256, width, height } = photograph;
    const ask = { photograph: { id, sha256, width, height }, readAs: committed.readAs, wanted };
    const isStill = (): boolean => running === worker;
    const found = await answerOf(worker, ask, isStill, now);
    if (!found || !isStill()) return;
    const { regions, hasFaces } = found;
    const notice =
      regions === 0
        ? 'Nothing was found: no face, no sky, and nothing that stands out. Regions can be painted, drawn or picked.'
        : `${regions} ${regions === 1 ? 'region was' : 'regions were'} found.` +
          (hasFaces ? '' : ' No face was found: what there is is a start, to be mended with the brush.');
    now().set({ notice: notice + notHere(now()) });
  } catch (error) {
    const words = now().committed.regions === committed.regions ? 'Regions were not found.' : 'The other regions were not found.';
    if (running === worker) now().set({ notice: `${words} ${(error as Error).message}` });
  } finally {
    worker.terminate();
    if (running === worker) {
      running = null;
      now().set({ finding: null });
    }
  }
}

/** Adds what comes, until all is found. @returns null when it was called off */
function answerOf(worker: Worker, ask: ToFinder, isStill: () => boolean, now: Now): Promise<Extract<FromFinder, { type: 'found' }> | null> {
  return new Promise((resolve, reject) => {
    endWait = () => resolve(null);
    worker.onerror = () => reject(new Error('Its worker could not run. Reload the page.'));
    let added = Promise.resolve();
    worker.onmessage = ({ data }: MessageEvent<FromFinder>) => {
      if (!isStill()) resolve(null);
      else if (data.type === 'progress') now().set({ finding: data.share });
      else if (data.type === 'came') (added = added.then(() => add(now, data.regions, isStill))).catch(reject);
      else if (data.type === 'failed') reject(new Error(data.message));
      else added.then(() => resolve(data), reject);
    };
    worker.postMessage(ask);
  });
}

/** Adds regions to the edit, in one step: they are usable at once, and are kept behind that. */
async function add(now: Now, regions: readonly Found[], isStill: () => boolean): Promise<void> {
  const files = await Promise.all(regions.map((one) => fileOf(now(), one)));
  if (!isStill()) return;
  for (const [i, { sha256, name }] of files.entries()) {
    const { width, height, grey } = regions[i]!;
    now().addMaskPicture({ id: 0, sha256, name, width, height, isFound: true, grey });
  }
  const found = regions.map(({ role, person, sure }, i) => ({ role, person, sure, sha256: files[i]!.sha256 }));
  const { committed, commit, photograph } = now();
  commit(
    `Find regions: ${found.length} found`,
    putFound(committed, found, photograph.sha256, FINDER, () => crypto.randomUUID()),
  );
  void keepFound(now, files);
}

async function fileOf({ photograph }: BenchState, { role, file }: Found): Promise<FoundFile> {
  const name = `${shorten(`${roleName(role)} of ${photograph.name.replace(/\.[^.]+$/, '')}`, 200)}.png`;
  return { sha256: await hashOf(file), name, file };
}

const ownerOf = ({ database, photograph }: BenchState): string => `${database}-${photograph.id}`;

/** Has the server keep what was found, behind what is done with it; hand-overs and all that works there wait for that. */
async function keepFound(now: Now, files: readonly FoundFile[]): Promise<void> {
  const { photograph } = now();
  const kept = storeFound(ownerOf(now()), photograph.id, files);
  now().alsoKeep(kept);
  try {
    for (const { id, sha256 } of await kept) now().nameMaskPicture(sha256, id);
  } catch (error) {
    now().set({ notice: `What was found is in this window only. ${(error as Error).message}` });
  }
}

/** Takes up what an earlier window found and could not bring to the server: it is usable here at once, and is kept there. */
export async function keepLeftBehind(now: Now): Promise<void> {
  const files = await leftBehind(ownerOf(now())).catch(() => []);
  for (const file of files) {
    const { sha256, name } = file;
    now().addMaskPicture({ id: 0, sha256, name, isFound: true, ...(await greyOf(file)) });
  }
  if (files.length > 0) await keepFound(now, files);
}

/** Masks that came into the shoot, such as those that another window or the server found. */
export async function readMasks(now: Now): Promise<void> {
  // Without an answer they come with the next.
  const shoot = await request<{ masks: MaskPicture[] }>('GET', `/api/shoots/${now().shoot.id}`).catch(() => null);
  for (const mask of shoot?.masks ?? []) now().addMaskPicture(mask);
}

/** Names the regions that came along and were not found on this photograph. */
function notHere(state: BenchState): string {
  const names = (state.committed.regions ?? []).filter((region) => isElsewhere(state, region)).map(({ name }) => name);
  return names.length > 0 ? ` Not found here, and still as on the other photograph: ${names.join(', ')}.` : '';
}

/** Whether a region was found on another photograph, and came along with what uses it. */
export function isElsewhere({ photograph }: Pick<BenchState, 'photograph'>, region: Region): boolean {
  const part = foundIn(region);
  return part !== undefined && part.of !== photograph.sha256;
}
