/** A thread that reads files into the cache of pixels, one after the other: files are hostile, and a thread can be ended. */
import { parentPort } from 'node:worker_threads';
import { Problem, type ProblemKind } from '@umbo/core/base';
import { readPictureHere, type PictureRead } from '@umbo/files';

export type ToReader = Parameters<typeof readPictureHere>;
export type FromReader =
  | { readonly picture: PictureRead }
  | { readonly problem: { readonly kind: ProblemKind; readonly message: string } }
  | { readonly error: { readonly name: string; readonly message: string; readonly code?: string } };

const answer = (message: FromReader): void => parentPort!.postMessage(message);

async function read(what: ToReader): Promise<void> {
  try {
    answer({ picture: await readPictureHere(...what) });
  } catch (error) {
    const { name, message, code } = error as NodeJS.ErrnoException;
    answer(error instanceof Problem ? { problem: { kind: error.kind, message } } : { error: { name, message, ...(code && { code }) } });
  }
}
parentPort!.on('message', (what: ToReader) => void read(what));
