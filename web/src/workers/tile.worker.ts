/** A tile worker: takes bands of the picture from a shared counter and renders them into shared memory. */
import { createKernels } from '@umbo/kernels';
import { accelerate, patch, type UmboDocument } from '@umbo/core';
import { performTileJob } from './inside/tileRender';
import type { FromTile, SharedFrame, ToTile } from './protocol';

let document: UmboDocument;
let frame: SharedFrame;
accelerate(createKernels());

function listen(port: MessagePort): void {
  port.onmessage = ({ data }: MessageEvent<ToTile>) => {
    if (data.type === 'document') document = data.document;
    else if (data.type === 'patches') document = patch(document, data.patches);
    else if (data.type === 'frame') frame = data.frame;
    else {
      let answer: FromTile = { type: 'done', id: data.id };
      try {
        performTileJob(frame, document, data.job, data.control, data.bandHeight);
      } catch (error) {
        answer = { type: 'error', id: data.id, message: error instanceof Error ? error.message : String(error) };
      }
      port.postMessage(answer);
    }
  };
}

addEventListener('message', ({ data }: MessageEvent<MessagePort>) => listen(data), { once: true });
