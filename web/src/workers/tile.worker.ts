/** A tile worker: takes bands of the picture from a shared counter and renders them into shared memory. */
import { createKernels } from '@umbo/kernels';
import { accelerate, keyOf, type LoadedPicture, type Pictures } from '@umbo/core/base';
import { patch, peekAt, type Peek, type UmboDocument } from '@umbo/core/document';
import { answer } from './inside/questions';
import { performTileJob } from './inside/tileRender';
import type { FromTile, Proof, SharedViewport, ToTile } from './protocol';

let document: UmboDocument;
let viewport: SharedViewport;
let proof: Proof | null = null;
let peek: Peek = { solo: null, upTo: null };
let shown: { document: UmboDocument; edit: UmboDocument } | null = null;
const loaded = new Map<string, LoadedPicture>();
const pictures: Pictures = { find: (need) => loaded.get(keyOf(need)) ?? null };
accelerate(createKernels());

class Stopped extends Error {}

/** Between steps, a progress is told this often at most. */
const TELL_AFTER_MS = 200;

function answerTo({ id, question, control }: Extract<ToTile, { type: 'question' }>, port: MessagePort): FromTile {
  let told = performance.now();
  const step = (share: number): void => {
    if (Atomics.load(control, 1) !== 0) throw new Stopped();
    if (performance.now() - told < TELL_AFTER_MS) return;
    told = performance.now();
    port.postMessage({ type: 'progress', id, share } satisfies FromTile);
  };
  try {
    return { type: 'answer', id, answer: answer({ document, peek, pictures }, question, { step }) };
  } catch (error) {
    if (error instanceof Stopped) return { type: 'stopped', id };
    return { type: 'error', id, message: error instanceof Error ? error.message : String(error) };
  }
}

function listen(port: MessagePort): void {
  port.onmessage = ({ data }: MessageEvent<ToTile>) => {
    if (data.type === 'document') document = data.document;
    else if (data.type === 'patches') document = patch(document, data.patches);
    else if (data.type === 'peek') peek = data.peek;
    else if (data.type === 'shown') shown = data.shown;
    else if (data.type === 'viewport') viewport = data.viewport;
    else if (data.type === 'proof') proof = data.proof;
    else if (data.type === 'picture') loaded.set(keyOf(data.need), data.picture);
    else if (data.type === 'question') port.postMessage(answerTo(data, port));
    else {
      let answer: FromTile = { type: 'done', id: data.id };
      try {
        performTileJob(
          { viewport, proof, edit: shown?.edit ?? document, document: shown?.document ?? peekAt(document, peek), pictures },
          data.job,
          data.control,
          data.bandHeight,
        );
      } catch (error) {
        answer = { type: 'error', id: data.id, message: error instanceof Error ? error.message : String(error) };
      }
      port.postMessage(answer);
    }
  };
}

addEventListener('message', ({ data }: MessageEvent<MessagePort>) => listen(data), { once: true });
