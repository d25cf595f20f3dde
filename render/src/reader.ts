/** A thread that reads one file into the cache of pixels, and ends: files are hostile, and a thread can be ended. */
import { parentPort, workerData } from 'node:worker_threads';
import { Problem, readPictureHere, type PictureRead, type ProblemKind } from '@umbo/data';

export type ToReader = Parameters<typeof readPictureHere>;
export type FromReader =
  | { readonly picture: PictureRead }
  | { readonly problem: { readonly kind: ProblemKind; readonly message: string } }
  | { readonly error: { readonly name: string; readonly message: string; readonly code?: string } };

const answer = (message: FromReader): void => parentPort!.postMessage(message);

try {
  answer({ picture: await readPictureHere(...(workerData as ToReader)) });
} catch (error) {
  const { name, message, code } = error as NodeJS.ErrnoException;
  answer(error instanceof Problem ? { problem: { kind: error.kind, message } } : { error: { name, message, ...(code && { code }) } });
}
