/** Reads files in threads beside the others, with bounds on time and memory. */
import { Worker } from 'node:worker_threads';
import { Problem } from '@umbo/core/base';
import { type MetadataBlocks, type PictureRead, type ReadPicture } from '@umbo/files';
import type { FromReader, ToReader } from './reader.ts';

/** The largest photograph there can be takes a minute or two on a busy machine; what takes longer has lost its way. */
const PATIENCE_MS = 600_000;
/** Of what a thread holds besides pixels. */
const MEGABYTES = 512;

/** Threads that have read their file, and are there for the next: one takes most of a second to come up. */
const idle: Worker[] = [];

function open(): Worker {
  const thread = new Worker(new URL('./reader.js', import.meta.url), { resourceLimits: { maxOldGenerationSizeMb: MEGABYTES } });
  // What happens to it while it reads is told to whoever has it read; then it is gone.
  thread.on('error', () => undefined);
  thread.on('exit', () => {
    const at = idle.indexOf(thread);
    if (at >= 0) idle.splice(at, 1);
  });
  return thread;
}

/** What came through a message holds plain bytes. */
const asBuffers = ({ exif, xmp, iptc }: MetadataBlocks): MetadataBlocks => {
  const buffer = (block: Uint8Array | null): Buffer | null => block && Buffer.from(block.buffer, block.byteOffset, block.byteLength);
  return { exif: buffer(exif), xmp: buffer(xmp), iptc: buffer(iptc) };
};

export const readInThread: ReadPicture = (...what: ToReader) => {
  const thread = idle.pop() ?? open();
  return new Promise<PictureRead>((resolve, reject) => {
    const end = (settle: () => void): void => {
      clearTimeout(late);
      thread.off('message', hear).off('error', fail).off('exit', lose);
      settle();
    };
    const refuse = (words: string): void => end(() => reject(new Problem('refused', words)));
    const hear = (message: FromReader): void =>
      end(() => {
        idle.push(thread);
        if ('picture' in message) resolve({ ...message.picture, blocks: asBuffers(message.picture.blocks) });
        else if ('problem' in message) reject(new Problem(message.problem.kind, message.problem.message));
        else reject(Object.assign(new Error(message.error.message), message.error));
      });
    const fail = (error: NodeJS.ErrnoException): void =>
      error.code === 'ERR_WORKER_OUT_OF_MEMORY'
        ? refuse('The file takes more memory to be read than there is for it.')
        : end(() => reject(error));
    const lose = (): void => end(() => reject(new Error('The thread that reads a file ended unexpectedly')));
    const late = setTimeout(() => {
      refuse('The file takes too long to be read.');
      void thread.terminate();
    }, PATIENCE_MS);
    thread.on('message', hear).on('error', fail).on('exit', lose);
    thread.postMessage(what);
  });
};
