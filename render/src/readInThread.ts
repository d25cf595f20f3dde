/** Reads files in threads of their own, with bounds on time and memory. */
import { Worker } from 'node:worker_threads';
import { Problem, type MetadataBlocks, type PictureRead, type ReadPicture } from '@umbo/data';
import type { FromReader, ToReader } from './reader.ts';

/** The largest photograph there can be takes a minute or two on a busy machine; what takes longer has lost its way. */
const PATIENCE_MS = 600_000;
/** Of what a thread holds besides pixels. */
const MEGABYTES = 512;

/** What came through a message holds plain bytes. */
const asBuffers = ({ exif, xmp, iptc }: MetadataBlocks): MetadataBlocks => {
  const buffer = (block: Uint8Array | null): Buffer | null => block && Buffer.from(block.buffer, block.byteOffset, block.byteLength);
  return { exif: buffer(exif), xmp: buffer(xmp), iptc: buffer(iptc) };
};

export const readInThread: ReadPicture = (...what) =>
  new Promise<PictureRead>((resolve, reject) => {
    const workerData: ToReader = what;
    const thread = new Worker(new URL('./reader.js', import.meta.url), {
      workerData,
      resourceLimits: { maxOldGenerationSizeMb: MEGABYTES },
    });
    const refuse = (words: string): void => reject(new Problem('refused', words));
    const timer = setTimeout(() => {
      refuse('The file takes too long to be read.');
      void thread.terminate();
    }, PATIENCE_MS);
    thread.on('message', (message: FromReader) => {
      if ('picture' in message) resolve({ ...message.picture, blocks: asBuffers(message.picture.blocks) });
      else if ('problem' in message) reject(new Problem(message.problem.kind, message.problem.message));
      else reject(Object.assign(new Error(message.error.message), message.error));
      void thread.terminate();
    });
    thread.on('error', (error: NodeJS.ErrnoException) =>
      error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? refuse('The file takes more memory to be read than there is for it.') : reject(error),
    );
    thread.on('exit', () => {
      clearTimeout(timer);
      reject(new Error('The thread that reads a file ended unexpectedly'));
    });
  });
