/** Raw files of cameras: which they are, and how they are developed, each in a thread of its own that ends with it. */
import type { FileHandle } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { Worker } from 'node:worker_threads';
import { Problem } from '@umbo/core/base';
import { withFile } from './sniff.ts';
import { isRawTiff } from './tiffPages.ts';

/** The decoder holds a picture several times over. */
const MEGAPIXEL_LIMIT = 64;
/** A thread that takes longer has lost its way. */
const PATIENCE_MS = 240_000;

export interface Developed {
  width: number;
  height: number;
  /** Interleaved linear ProPhoto RGB, 0..65535. */
  samples: Uint16Array;
  /** Maker and model of the camera. */
  camera: string;
  /** Seconds since 1970 by the camera's clock; 0: not known. */
  takenAt: number;
}

const text = (bytes: Buffer, from: number, to: number): string => bytes.toString('latin1', from, to);
/** How raw files begin that are no plain TIFF: Canon, Fujifilm, Olympus, Panasonic. */
const MAGIC: readonly ((bytes: Buffer) => boolean)[] = [
  (b) => text(b, 8, 10) === 'CR' && text(b, 0, 2) === 'II',
  (b) => text(b, 4, 12) === 'ftypcrx ',
  (b) => text(b, 0, 15) === 'FUJIFILMCCD-RAW',
  (b) => ['IIRO', 'IIRS', 'MMOR'].includes(text(b, 0, 4)),
  (b) => text(b, 0, 4) === 'IIU\0',
];

/** Whether a file begins as a raw file that is no plain TIFF. */
export const beginsAsRaw = (file: FileHandle): Promise<boolean> =>
  file.read(Buffer.alloc(32), 0, 32, 0).then(({ buffer, bytesRead }) => bytesRead === 32 && MAGIC.some((is) => is(buffer)));

export const isRaw = (path: string): Promise<boolean> =>
  withFile(path, async (file, size) => (await beginsAsRaw(file)) || (await isRawTiff(file, size)));

/**
 * Settings of the decoder: the camera's white balance, brightness as it was exposed, no curve, ProPhoto primaries, 16 bits. Of its two-number
 * curve it takes no notice: it wants all six.
 */
const SETTINGS = { useCameraWb: true, noAutoBright: true, adjustMaximumThr: 0, outputBps: 16, gamm: [1, 1, 0, 0, 0, 0], outputColor: 4 };

/** What the thread does. As text, because it is run by itself, wherever this file is bundled into. */
const THREAD = `
const { parentPort, workerData } = require('node:worker_threads');
const { readFileSync } = require('node:fs');
const develop = async () => {
  const { default: make } = await import(workerData.engine);
  const { LibRaw } = await make({ wasmBinary: readFileSync(workerData.wasm) });
  const raw = new LibRaw();
  raw.open(new Uint8Array(readFileSync(workerData.path)), workerData.settings);
  const facts = raw.metadata(true);
  const megapixels = (facts.raw_width * facts.raw_height) / 1e6;
  if (megapixels > workerData.limit) return { tooLarge: Math.round(megapixels) };
  const { width, height, colors, bits, data } = raw.imageData();
  if (colors !== 3 || bits !== 16) return {};
  const samples = new Uint16Array(data.buffer.slice(data.byteOffset, data.byteOffset + width * height * 6));
  const camera = [facts.camera_make, facts.camera_model].filter((one) => typeof one === 'string').join(' ').trim();
  const taken = facts.timestamp instanceof Date ? facts.timestamp.getTime() / 1000 : Number(facts.timestamp);
  return { width, height, samples, camera, takenAt: Number.isFinite(taken) ? taken : 0 };
};
develop().then((made) => parentPort.postMessage(made, made.samples ? [made.samples.buffer] : []), () => parentPort.postMessage({}));
`;

/** @throws Problem 'refused' with a sentence that says why */
export function develop(path: string): Promise<Developed> {
  const folder = dirname(createRequire(import.meta.url).resolve('libraw-wasm'));
  const workerData = {
    path,
    settings: SETTINGS,
    limit: MEGAPIXEL_LIMIT,
    engine: pathToFileURL(join(folder, 'libraw.js')).href,
    wasm: join(folder, 'libraw.wasm'),
  };
  const thread = new Worker(THREAD, { eval: true, workerData, resourceLimits: { maxOldGenerationSizeMb: 1024 } });
  return new Promise<Developed>((resolve, reject) => {
    const refuse = (words: string): void => reject(new Problem('refused', words));
    const timer = setTimeout(() => refuse('The raw file takes too long to be developed.'), PATIENCE_MS);
    thread.on('message', (made: Partial<Developed> & { tooLarge?: number }) => {
      clearTimeout(timer);
      if (made.samples) resolve(made as Developed);
      else if (made.tooLarge) refuse(`The raw file has ${made.tooLarge} megapixels; raw files of up to ${MEGAPIXEL_LIMIT} are developed.`);
      else refuse('The raw file is damaged, or of a camera that is not known here. Save it as a TIFF with 16 bits and try again.');
    });
    thread.on('error', () => refuse('The raw file could not be developed. Save it as a TIFF with 16 bits and try again.'));
    thread.on('exit', () => clearTimeout(timer));
  }).finally(() => void thread.terminate());
}
