'use client';
/** The state of one bench: its slices put together, and what is attached to it while it is on a page. */
import type { DocumentState } from '@umbo/data';
import { createStore } from 'zustand';
import type { Keeper, KeeperEvents } from '../keeping/keeper';
import type { BenchState, BenchStore, PhotographInfo, ShootInfo } from './benchState';
import { wordsFor } from './carrying';
import type { CameAlong } from './copied';
import type { Engine, Heard } from './engine';
import { deskSlice } from './slices/desk';
import { editSlice } from './slices/edit';
import { engineSlice } from './slices/engine';
import { readingSlice } from './slices/readings';
import { selectionSlice } from './slices/selection';
import { shootSlice } from './slices/shoot';
import type { Bench } from './slices/slice';
import { toolSlice } from './slices/tools';
import { sendLook, viewSlice } from './slices/view';

/** What a bench needs of the world. */
export interface BenchPorts extends Pick<Bench, 'read' | 'newId'> {
  /** Starts the engine, with its canvas in a place of the page. */
  startEngine: (place: HTMLElement, state: BenchState, hear: (message: Heard) => void) => Engine;
  startKeeper: (state: BenchState, initial: DocumentState, events: KeeperEvents) => Keeper;
  /** Brings masks here that come into the shoot, and to the server those that an earlier window found and could not. @returns what ends it */
  followMasks: (now: () => BenchState) => () => void;
}

export function createBench(
  database: string,
  photograph: PhotographInfo,
  shoot: ShootInfo,
  initial: DocumentState,
  { startEngine, startKeeper, followMasks, read, newId }: BenchPorts,
  carried: CameAlong | null = null,
): BenchStore {
  const store = createStore<BenchState>()((set, get, { subscribe }) => {
    const bench: Bench = { get, set, read, newId, engine: null, keeper: null, storing: new Set() };
    const edit = editSlice(bench, photograph, initial);
    return {
      database,
      photograph,
      folded: [],
      offering: null,
      notice: null,
      guide: null,
      searching: false,
      pasting: null,
      carried,
      carrying: null,
      treating: null,
      listed: carried ? 'regions' : 'history',
      leavingTo: null,
      ...edit.slice,
      ...selectionSlice(bench, initial.document),
      ...toolSlice(bench, photograph),
      ...readingSlice(bench),
      ...deskSlice(bench),
      ...viewSlice(bench, photograph),
      ...engineSlice(bench),
      ...shootSlice(bench, photograph, shoot),
      set: (values) => set(values),
      attach(place) {
        const begin = (): Engine => {
          const engine = (bench.engine = startEngine(place, get(), get().hear));
          sendLook(bench);
          engine.setCards(get().cardsInSight);
          return engine;
        };
        let engine = begin();
        const keeper = (bench.keeper = startKeeper(get(), initial, edit.events));
        const endMasks = followMasks(get);
        // The photograph's pixels are those of its space: where that is another, all begins anew.
        const endRestarts = subscribe(({ document: now }, { document: before }) => {
          if (now.workingSpace === before.workingSpace && now.readAs === before.readAs) return;
          engine.close();
          engine = begin();
          get().stageAgain();
        });
        const close = (): void => {
          endRestarts();
          endMasks();
          keeper.close();
          engine.close();
          if (bench.engine === engine) bench.engine = bench.keeper = null;
        };
        return () => {
          if (get().measuring === 0) return close();
          // What is being measured is written into the edit before all ends.
          const end = subscribe(({ measuring }) => {
            if (measuring > 0) return;
            end();
            setTimeout(() => void keeper.whenKept().finally(close));
          });
        };
      },
    };
  });
  const first = carried?.masks.find((mask) => wordsFor(store.getState(), mask) !== null);
  if (first) store.getState().select(first.id);
  store.subscribe((state, before) => {
    if (state.document !== before.document || state.committed !== before.committed || state.tool !== before.tool) state.framingChanged();
  });
  return store;
}
