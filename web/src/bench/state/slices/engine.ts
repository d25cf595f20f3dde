import { project } from '@umbo/core/base';
import { findMaskOwner } from '@umbo/core/document';
import type { AnyTask } from '@umbo/core/measure';
import type { Warning } from '@umbo/core/warnings';
import type { Ask } from '../../../workers/protocol';
import { stageMapping } from '../../../workers/stageMapping';
import type { EngineSlice } from '../benchState';
import type { Bench } from './slice';

/** Takes what the engine says into the state. */
function take({ get, set }: Pick<Bench, 'get' | 'set'>, message: Parameters<EngineSlice['hear']>[0]): void {
  if (message.type === 'painted') set({ painted: message.seq, loading: null, failure: null, rendering: false });
  else if (message.type === 'out of gamut') set({ outOfGamut: message.out });
  else if (message.type === 'late') set({ rendering: true });
  else if (message.type === 'loading') set({ loading: message.share < 1 ? message.share : null });
  else if (message.type === 'measured') set({ census: message.census, histogram: message.histogram });
  else if (message.type === 'region') set({ region: message.region, result: message.result });
  else if (message.type === 'readings') {
    const there = new Set((get().document.readings ?? []).map(({ id }) => id));
    const known = [...get().readings].filter(([id]) => there.has(id));
    set({ readings: new Map([...known, ...message.measured.map(([id, values]) => [id, { values, glimpse: null }] as const)]) });
  } else if (message.type === 'glimpsed') {
    const readings = new Map(get().readings);
    for (const [id, glimpse] of message.colours) {
      const known = readings.get(id);
      if (known) readings.set(id, { ...known, glimpse });
    }
    set({ readings });
  } else if (message.type === 'asking') set({ asking: message.share < 1 ? message.share : null });
  else if (message.type === 'alternatives') {
    const { alternatives } = get();
    if (alternatives?.setId === message.setId)
      set({ alternatives: { setId: message.setId, wanted: message.wanted, pictures: message.pictures } });
  } else if (message.type === 'failed') set({ failure: message.message });
  else if (message.type === 'thumbnails')
    set({
      thumbnails: {
        masks: new Map([...get().thumbnails.masks, ...message.masks.map(({ id, mask }) => [id, mask] as const)]),
        cards: new Map([...get().thumbnails.cards, ...message.cards.map(({ id, picture }) => [id, picture] as const)]),
        original: message.original,
        result: message.result,
      },
    });
  else if (message.type === 'probed') {
    const { before, after, below, mask, around } = message;
    const probe = get().probe;
    if (probe) set({ probe: { ...probe, before, after, below, mask, around } });
  }
}

export function engineSlice(bench: Bench): EngineSlice {
  const { get, set } = bench;
  const ask = async <T>(question: Ask): Promise<T> => {
    if (!bench.engine) throw new Error('The bench is closed.');
    return bench.engine.ask<T>(question);
  };
  /** Where the pointer was on the stage last, in device pixels. */
  let pointer: readonly [number, number] | null = null;
  /** A new picture may lie under a pointer at rest. */
  const lookUnderPointer = (): void => {
    if (!pointer) return;
    const { view, photograph } = get();
    const [x, y] = project(stageMapping(view).toPhotograph, ...pointer);
    if (x >= 0 && y >= 0 && x < photograph.width && y < photograph.height) get().askProbe(x, y, pointer);
  };
  return {
    failure: null,
    loading: null,
    asking: null,
    rendering: false,
    measuring: 0,
    outOfGamut: null,
    census: null,
    histogram: null,
    region: null,
    result: null,
    probe: null,
    thumbnails: { masks: new Map(), cards: new Map(), original: null, result: null },
    painted: 0,
    cardsInSight: [],
    alternatives: null,
    health: null,
    hear(message) {
      take(bench, message);
      if (message.type === 'painted') lookUnderPointer();
    },
    askProbe(x, y, stagePoint) {
      const known = get().probe ?? { before: [0, 0, 0] as const, after: [0, 0, 0] as const, below: null, mask: null, around: null };
      set({ probe: { ...known, x, y } });
      pointer = stagePoint;
      bench.engine?.probe(...stagePoint, get().tool === 'sample');
    },
    askSample: (area, below) => ask({ kind: 'sample', area, below }),
    warnings: [],
    async findWarnings() {
      const of = get().committed;
      const warnings = await ask<Warning[]>({ kind: 'warnings' });
      if (get().committed === of) set({ warnings });
    },
    askBehind: (key) => ask({ kind: 'behind', key }),
    solve: (task) => ask({ kind: 'solve', ...task }),
    async measure(task, layerId, { of = 'below', quietly = false } = {}) {
      if (!quietly) set({ measuring: get().measuring + 1 });
      try {
        return await ask({ kind: 'measure', task: task as AnyTask, layerId, of });
      } finally {
        if (!quietly) set({ measuring: get().measuring - 1 });
      }
    },
    checkMask(layerId, share) {
      const layer = findMaskOwner(get().document, layerId);
      set({ health: layer ? { layerId: layer.id, of: layer.where, share, found: null } : null });
      if (!layer) return;
      get()
        .measure({ kind: 'maskHealth', settings: { share } }, layer.id)
        .then(
          (found) => {
            const { health } = get();
            if (health?.layerId === layer.id && health.of === layer.where) set({ health: { ...health, found } });
          },
          (error: Error) => set({ health: null, notice: `The mask was not looked over: ${error.message}` }),
        );
    },
    showCards(ids) {
      set({ cardsInSight: ids });
      bench.engine?.setCards(ids);
    },
    showAlternatives(setId) {
      set({ alternatives: setId === null ? null : { setId, wanted: 1, pictures: [] } });
      bench.engine?.alternatives(setId);
    },
  };
}
