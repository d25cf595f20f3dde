'use client';
/**
 * Files of masks that were found, on their way to the server: the bench uses the masks meanwhile. They lie in the browser's database until the
 * server has them, so that neither a reload nor a crash loses one that the edit names.
 */
import { createStore, del, entries, set } from 'idb-keyval';
import { RequestProblem } from '@/ui/request';

export interface FoundFile {
  sha256: string;
  name: string;
  file: Blob;
}

/** What the server made of it. */
export interface StoredFile {
  id: number;
  sha256: string;
}

const store = () => createStore('umbo-found', 'files');
const keyOf = (owner: string, { sha256 }: Pick<FoundFile, 'sha256'>): string => `${owner} ${sha256}`;

export const hashOf = async (file: Blob): Promise<string> =>
  Array.from(new Uint8Array(await crypto.subtle.digest('SHA-256', await file.arrayBuffer())), (byte) =>
    byte.toString(16).padStart(2, '0'),
  ).join('');

/** Those that another window, or an earlier one, left behind. */
export async function leftBehind(owner: string): Promise<FoundFile[]> {
  const all = await entries<string, FoundFile>(store());
  return all.filter(([key]) => key.startsWith(`${owner} `)).map(([, file]) => file);
}

/** The values of a mask's file, 0..255. */
export async function greyOf({ file }: FoundFile): Promise<{ width: number; height: number; grey: Uint8Array }> {
  const picture = await createImageBitmap(file, { colorSpaceConversion: 'none' });
  const { width, height } = picture;
  const context = new OffscreenCanvas(width, height).getContext('2d')!;
  context.drawImage(picture, 0, 0);
  picture.close();
  const { data } = context.getImageData(0, 0, width, height);
  const grey = new Uint8Array(width * height);
  for (let i = 0; i < grey.length; i++) grey[i] = data[4 * i]!;
  return { width, height, grey };
}

const RETRY_MS = [1000, 4000, 15_000];

/** Has the server keep files, in one request; asked again while it cannot be reached. @throws Error when it refuses */
export async function storeFound(owner: string, photographId: number, files: readonly FoundFile[]): Promise<StoredFile[]> {
  await Promise.all(files.map((file) => set(keyOf(owner, file), file, store()).catch(() => undefined)));
  for (let attempt = 0; ; attempt++) {
    const answer = await ask(photographId, files).catch((error: unknown) => {
      if (!(error instanceof RequestProblem) || (error.status !== 0 && error.status < 500)) throw error;
      return null;
    });
    if (answer) {
      await Promise.all(files.map((file) => del(keyOf(owner, file), store()).catch(() => undefined)));
      return answer;
    }
    await new Promise((again) => setTimeout(again, RETRY_MS[Math.min(attempt, RETRY_MS.length - 1)]));
  }
}

async function ask(photographId: number, files: readonly FoundFile[]): Promise<StoredFile[]> {
  const body = new FormData();
  for (const { name, file } of files) body.append('mask', file, name);
  const response = await fetch(`/api/photographs/${photographId}/found`, { method: 'POST', body }).catch(() => {
    throw new RequestProblem(0, 'The server cannot be reached.');
  });
  const answer = (await response.json().catch(() => null)) as (StoredFile[] & { detail?: string }) | null;
  if (!response.ok || !answer)
    throw new RequestProblem(response.status, answer?.detail ?? `The server answered with an error (${response.status}).`);
  return answer;
}
