'use client';
import type { SpaceId } from '@umbo/core/base';
import { request } from '@/ui/request';
import { onServerEvents } from '@/ui/serverEvents';
import { othersOf } from '@/workers/protocol';
import { keepInBrowser } from '../keeping/browser';
import { startEngine } from './engine';
import { keepLeftBehind, readMasks } from './found/finding';
import { hashOfShoot } from './hashOf';
import type { BenchPorts } from './store';

/** A canvas of more than sRGB is put on the screen rightly only where that shows more; sRGB is always shown rightly. */
const displayFor = (workingSpace: SpaceId): PredefinedColorSpace =>
  workingSpace !== 'srgb' && matchMedia('(color-gamut: p3)').matches ? 'display-p3' : 'srgb';

/** A bench in a browser's window. */
export const browserPorts: BenchPorts = {
  read: (address) => request('GET', address),
  followMasks(now) {
    void keepLeftBehind(now);
    return onServerEvents((heard) => {
      if (heard?.some(({ kind, subject }) => kind === 'shoot' && subject === now().shoot.id)) void readMasks(now);
    });
  },
  newId: () => crypto.randomUUID(),
  startEngine(place, { photograph, shoot, document: edit }, hear) {
    // A canvas can be handed to a worker once only: each engine gets its own.
    const canvas = document.createElement('canvas');
    place.append(canvas);
    const { id, sha256, width, height } = photograph;
    const engine = startEngine(canvas, { id, sha256, width, height }, othersOf(shoot), edit, displayFor(edit.workingSpace), hear);
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
