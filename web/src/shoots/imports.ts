'use client';
/** Files on their way into shoots. Lives outside the pages, so that moving between them stops nothing. */
import { create } from 'zustand';

const PARALLEL = 2;

export interface Import {
  id: number;
  shootId: number;
  name: string;
  file: File;
  state: 'waiting' | 'sending' | 'reading' | 'done' | 'refused' | 'cancelled';
  /** Share of the file that is on the server. */
  sent: number;
  /** Why it was refused. */
  reason: string | null;
  /** What there is to know of one that was taken. */
  note: string | null;
  cancel: (() => void) | null;
}

interface Imports {
  list: Import[];
  add: (shootId: number, files: readonly File[]) => void;
  cancel: (id: number) => void;
  /** Takes what has ended off the list. */
  clear: () => void;
}

/** The same picture may be wanted twice; by accident, it is not. */
function sameWords(answer: string): string | null {
  const { same = [] } = JSON.parse(answer) as { same?: string[] };
  return same.length > 0 ? `The same as “${same[0]}”, which was here already.` : null;
}

let next = 1;

export const useImports = create<Imports>()((set, get) => {
  const change = (id: number, values: Partial<Import>): void =>
    set(({ list }) => ({ list: list.map((item) => (item.id === id ? { ...item, ...values } : item)) }));

  const pump = (): void => {
    const { list } = get();
    const active = list.filter(({ state }) => state === 'sending' || state === 'reading').length;
    for (const item of list.filter(({ state }) => state === 'waiting').slice(0, PARALLEL - active)) send(item);
  };

  // XMLHttpRequest, because fetch does not tell how much of a body has been sent.
  const send = ({ id, shootId, file }: Import): void => {
    const request = new XMLHttpRequest();
    const end = (values: Partial<Import>): void => {
      change(id, { cancel: null, ...values });
      pump();
    };
    request.upload.onprogress = (event) => change(id, { sent: event.total > 0 ? event.loaded / event.total : 1 });
    request.upload.onload = () => change(id, { sent: 1, state: 'reading' });
    request.onload = () => {
      if (request.status < 300) return end({ state: 'done', note: sameWords(request.responseText) });
      let reason = `The server answered with an error (${request.status}).`;
      try {
        reason = (JSON.parse(request.responseText) as { detail?: string }).detail ?? reason;
      } catch {
        // not a problem response: the sentence above stands
      }
      end({ state: 'refused', reason });
    };
    request.onerror = () => end({ state: 'refused', reason: 'The server cannot be reached. Nothing of this file was kept.' });
    request.onabort = () => end({ state: 'cancelled' });
    request.open('POST', `/api/shoots/${shootId}/photographs?name=${encodeURIComponent(file.name)}`);
    change(id, { state: 'sending', cancel: () => request.abort() });
    request.send(file);
  };

  return {
    list: [],
    add: (shootId, files) => {
      const items = files.map((file): Import => ({
        id: next++,
        shootId,
        name: file.name,
        file,
        state: 'waiting',
        sent: 0,
        reason: null,
        note: null,
        cancel: null,
      }));
      set(({ list }) => ({ list: [...list, ...items] }));
      pump();
    },
    cancel: (id) => {
      const item = get().list.find((candidate) => candidate.id === id);
      if (item?.cancel) item.cancel();
      else change(id, { state: 'cancelled' });
    },
    clear: () =>
      set(({ list }) => ({ list: list.filter(({ state }) => state === 'waiting' || state === 'sending' || state === 'reading') })),
  };
});
