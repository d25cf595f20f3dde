import 'server-only';
import { setTimeout as sleep } from 'node:timers/promises';
import { followEvents, type ServerEvent } from '@umbo/data';
import { db } from './server';

const LOOK_EVERY_MS = 200;
const OUTAGE_MS = 1000;
/** A line now and then keeps whatever is in between from giving the connection up. */
const PULSE_MS = 15_000;
const RETRY_MS = 1000;

type Listener = (happened: readonly ServerEvent[]) => void;

const listeners = new Set<Listener>();
let isWatching = false;

/** Looks for what happens while anyone listens: once for all of them. */
async function watch(): Promise<void> {
  isWatching = true;
  const look = followEvents(db());
  while (listeners.size > 0) {
    try {
      const happened = await look();
      if (happened.length > 0) for (const listener of listeners) listener(happened);
      await sleep(LOOK_EVERY_MS);
    } catch {
      await sleep(OUTAGE_MS); // the database may be back by then; nothing is missed
    }
  }
  isWatching = false;
}

/** @param ended when nobody listens any more */
export function eventStream(ended: AbortSignal): Response {
  const encoder = new TextEncoder();
  let stop = (): void => undefined;
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      // One that is gone without having said so must not keep the others from hearing.
      const write = (text: string): void => {
        try {
          controller.enqueue(encoder.encode(text));
        } catch {
          stop();
        }
      };
      const listener: Listener = (happened) => write(`data: ${JSON.stringify(happened)}\n\n`);
      const pulse = setInterval(() => write(':\n\n'), PULSE_MS);
      stop = () => {
        clearInterval(pulse);
        if (!listeners.delete(listener)) return;
        try {
          controller.close();
        } catch {
          // closed by whoever listened
        }
      };
      ended.addEventListener('abort', stop);
      listeners.add(listener);
      write(`retry: ${RETRY_MS}\n\n`);
      if (!isWatching) void watch();
    },
    cancel: () => stop(),
  });
  return new Response(body, {
    headers: { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store, no-transform', 'X-Content-Type-Options': 'nosniff' },
  });
}
