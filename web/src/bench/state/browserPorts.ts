'use client';
import { request } from '@/ui/request';
import { keepInBrowser } from '../keeping/browser';
import { startEngine } from './engine';
import { hashOfShoot } from './hashOf';
import type { BenchPorts } from './store';

/** A bench in a browser's window. */
export const browserPorts: BenchPorts = {
  read: (address) => request('GET', address),
  newId: () => crypto.randomUUID(),
  startEngine(place, { photograph, shoot, document: edit }, hear) {
    // A canvas can be handed to a worker once only: each engine gets its own.
    const canvas = document.createElement('canvas');
    place.append(canvas);
    const { id, sha256, width, height } = photograph;
    const others = [...shoot.photographs, ...shoot.masks].map((other) => ({
      id: other.id,
      sha256: other.sha256,
      width: other.width,
      height: other.height,
    }));
    const engine = startEngine(canvas, { id, sha256, width, height }, others, edit, hear);
    return {
      ...engine,
      close() {
        engine.close();
        canvas.remove();
      },
    };
  },
  startKeeper: (state, initial, events) =>
    keepInBrowser({ database: state.database, photographId: state.photograph.id }, initial, events, hashOfShoot(state)),
};
