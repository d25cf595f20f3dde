/** A thread that finds the regions of one photograph, and ends. */
import { readFile } from 'node:fs/promises';
import { parentPort, workerData } from 'node:worker_threads';
import type { Size } from '@umbo/core/base';
import type { FoundRegionFile } from '@umbo/core/document';
import { readLevelRows } from '@umbo/files';
import { findRegions, loadNets, startRuntime, type Wanted } from '@umbo/find';

/** The level of the photograph's pyramid in which is found. */
export interface ToFinder {
  readonly file: string;
  readonly size: Size;
  /** What is looked for; null: everything. */
  readonly wanted: Wanted;
}

/** A mask, 0..255. */
export interface FoundMask extends Omit<FoundRegionFile, 'sha256'> {
  readonly size: Size;
  readonly data: Uint8ClampedArray<ArrayBuffer>;
}

export type FromFinder = { readonly share: number } | { readonly found: readonly FoundMask[] };

const send = (message: FromFinder): void => parentPort!.postMessage(message);

const { file, size, wanted } = workerData as ToFinder;
const models = new URL('./models/', import.meta.url).pathname;
await startRuntime(models);
const nets = await loadNets(async (name) => new Uint8Array(await readFile(models + name)));
const rows = await readLevelRows(file, size.width, 0, size.height);
const pixels = new Uint16Array(rows.buffer, rows.byteOffset, size.width * size.height * 3);
const picture = { ...size, data: new Float32Array(pixels).map((v) => v / 65535) };
const told = (share: number): Promise<void> => {
  send({ share });
  return Promise.resolve();
};
const { regions } = await findRegions(picture, nets, told, wanted);
const found = regions.map(({ role, person, sure, mask: { width, height, data } }) => ({
  role,
  person,
  sure,
  size: { width, height },
  data: new Uint8ClampedArray(new Float64Array(data).map((v) => v * 255)), // the array rounds
}));
send({ found });
