'use client';
/** What happens on the server, in every window of the browser over one connection: browsers keep few open to one server. */
import { useEffect, useRef } from 'react';
import type { ServerEvent } from '@umbo/data';

/** What happened; null: something may have happened while nobody listened. */
export type Heard = readonly ServerEvent[] | null;

const listeners = new Set<(heard: Heard) => void>();
/** After a refusal. */
const AGAIN_MS = 3000;
let isListening = false;

const tellAll = (heard: Heard): void => listeners.forEach((listener) => listener(heard));

/** One window listens and passes on what it hears; when it goes, the next takes over. */
function listen(): void {
  isListening = true;
  const others = new BroadcastChannel('umbo-events');
  others.onmessage = ({ data }: MessageEvent<Heard>) => tellAll(data);
  const hear = (heard: Heard): void => {
    tellAll(heard);
    others.postMessage(heard);
  };
  const connect = (): void => {
    const source = new EventSource('/api/events');
    // Also after it was interrupted.
    source.onopen = () => hear(null);
    source.onmessage = ({ data }: MessageEvent<string>) => hear(JSON.parse(data) as ServerEvent[]);
    // Browsers try again by themselves, but not after an answer that was an error.
    source.onerror = () => {
      if (source.readyState === EventSource.CLOSED) setTimeout(connect, AGAIN_MS);
    };
  };
  void navigator.locks.request('umbo-events', () => {
    connect();
    return new Promise(() => undefined);
  });
}

/** @returns what ends it */
export function onServerEvents(listener: (heard: Heard) => void): () => void {
  listeners.add(listener);
  if (!isListening) listen();
  return () => void listeners.delete(listener);
}

/** Calls `look` when something of a kind happened, or may have. */
export function useServerEvents(isAbout: (happening: ServerEvent) => boolean, look: () => void): void {
  const latest = useRef({ isAbout, look });
  useEffect(() => {
    latest.current = { isAbout, look };
  });
  useEffect(
    () =>
      onServerEvents((heard) => {
        const { isAbout: concerns, look: act } = latest.current;
        if (heard === null || heard.some(concerns)) act();
      }),
    [],
  );
}
