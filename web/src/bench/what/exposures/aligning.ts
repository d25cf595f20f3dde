'use client';
/** Laying photographs of a shoot exactly over the one in work. */
import { coveredByBoth } from '@umbo/core/align';
import type { LaidPhotograph } from '@umbo/core/content';
import {
  maskPartKind,
  refineKind,
  type BracketPart,
  type LuminosityPart,
  type MaskPart,
  type RefineStep,
  type WellExposedPart,
} from '@umbo/core/mask';
import { eachLayer, onLayer, type Layer, type Recipe } from '@umbo/core/document';
import type { Aligned, FromAligner, ToAligner } from '../../../workers/alignProtocol';
import type { BenchState } from '../../state/benchState';
import { setCrop } from '../../state/cropping';

type Now = () => BenchState;

let running: Worker | null = null;
let endWait: () => void = () => undefined;

/** Calls off what is being aligned. */
export function stopAligning(now: Now): void {
  running?.terminate();
  running = null;
  endWait();
  now().set({ aligning: null });
}

/** Where the photographs lie that a layer shows. */
const laidIn = ({ what }: Layer): LaidPhotograph[] =>
  (what.kind === 'frame' ? [what.settings] : what.kind === 'joined' ? what.settings.frames : []).filter(
    ({ photograph }) => photograph !== '',
  );

/** The layers that show other photographs of the shoot. */
export const frameLayers = ({ committed }: Pick<BenchState, 'committed'>): Layer[] =>
  Array.from(eachLayer(committed.layers)).filter((layer) => laidIn(layer).length > 0);

/** Lays what layers show exactly over the photograph, in one step, and says how sure that is. */
export async function alignLayers(now: Now, ids: readonly string[], perspective: boolean): Promise<void> {
  if (running) return;
  const recipes: Recipe[] = [];
  const words: string[] = [];
  try {
    const tasks = frameLayers(now())
      .filter(({ id }) => ids.includes(id))
      .flatMap((layer) => laidIn(layer).map(({ photograph }) => ({ id: layer.id, photograph })));
    for (const [i, { id, photograph }] of tasks.entries()) {
      const other = now().shoot.photographs.find(({ sha256 }) => sha256 === photograph);
      if (!other) continue;
      const found = await answerFor(now, other, perspective, (share) => now().set({ aligning: (i + share) / tasks.length }));
      if (found === 'stopped') return;
      if (!found) {
        words.push(`“${other.name}” does not fit: too little of it is the same.`);
        continue;
      }
      const { x, y, rotate, scale, leanX = 0, leanY = 0, places, agree, residual } = found;
      recipes.push(
        onLayer(id, (layer) => {
          for (const laid of laidIn(layer)) if (laid.photograph === photograph) Object.assign(laid, { x, y, rotate, scale, leanX, leanY });
        }),
      );
      words.push(`“${other.name}” is aligned: ${agree} of ${places} places agree, within ${residual.toFixed(2)} px in the mean.`);
    }
    if (recipes.length > 0)
      now().commit(recipes.length === 1 ? 'Align a photograph' : `Align ${recipes.length} photographs`, (draft) =>
        recipes.forEach((recipe) => recipe(draft)),
      );
    now().set({ notice: words.join(' ') });
  } catch (error) {
    now().set({ notice: `Nothing was aligned. ${(error as Error).message}` });
  } finally {
    now().set({ aligning: null });
  }
}

function answerFor(
  now: Now,
  other: BenchState['shoot']['photographs'][number],
  perspective: boolean,
  progress: (share: number) => void,
): Promise<Aligned | null | 'stopped'> {
  const { photograph, committed } = now();
  const worker = (running = new Worker(new URL('../../../workers/align.worker.ts', import.meta.url), { type: 'module' }));
  progress(0);
  return new Promise<Aligned | null | 'stopped'>((resolve, reject) => {
    endWait = () => resolve('stopped');
    worker.onerror = () => reject(new Error('Its worker could not run. Reload the page.'));
    worker.onmessage = ({ data }: MessageEvent<FromAligner>) => {
      if (data.type === 'progress') progress(data.share);
      else if (data.type === 'failed') reject(new Error(data.message));
      else resolve(data.aligned);
    };
    const plain = ({ id, sha256, width, height }: typeof other) => ({ id, sha256, width, height });
    worker.postMessage({ photograph: plain(photograph), readAs: committed.readAs, other: plain(other), perspective } satisfies ToAligner);
  }).finally(() => {
    worker.terminate();
    if (running === worker) running = null;
  });
}

/** Tones of the picture below in which a frame takes over, in percent, and how wide it passes, in percent of the longer side. */
const TAKEN = {
  lights: { range: [92, 99, 100, 100], feather: 5.5, words: 'lights' },
  darks: { range: [0, 0, 10, 35], feather: 2.8, words: 'darks' },
} as const;

/** A frame shows where the picture below it is too light, or too dark: the mask is made for it, and can be changed like any other. */
export function blendIn(now: Now, layer: Layer, tones: keyof typeof TAKEN): void {
  const { range, feather, words } = TAKEN[tones];
  const part = maskPartKind<LuminosityPart>('luminosity').create(crypto.randomUUID(), 'add', now().photograph);
  showSoftly(now, layer, { ...part, tones: 'range', range: [...range] }, feather, `${layer.name} blended in by its ${words}`);
}

/** A frame shows as far as it is better exposed than what is below it. */
export function fuse(now: Now, layer: Layer): void {
  const part = maskPartKind<WellExposedPart>('wellExposed').create(crypto.randomUUID(), 'add', now().photograph);
  showSoftly(now, layer, part, TAKEN.lights.feather, `${layer.name} fused by exposure`);
}

/** Makes a part the mask of a layer, softened; in brackets, so that what is painted beside it stays as hard as it is painted. */
function showSoftly(now: Now, { id }: Layer, part: MaskPart, feather: number, words: string): void {
  const { photograph, commit, select } = now();
  const radius = Math.round((Math.max(photograph.width, photograph.height) * feather) / 100);
  const softly = { ...refineKind('feather').create(), radius } as RefineStep;
  const around = maskPartKind<BracketPart>('bracket').create(crypto.randomUUID(), 'add', photograph);
  const made = commit(
    words,
    onLayer(id, ({ where }) => {
      where.parts = [{ ...around, mask: { ...around.mask, parts: [part], refine: [softly] } }];
      where.refine = [];
    }),
  );
  // The layer, and none of its parts: a stroke of the brush then stands beside them.
  if (made) select(id, null);
}

/** What moved between frames: paints where it is the layer's (add), or that of the picture below (cut), whatever the mask says otherwise. */
export function keepByBrush(now: Now, { id }: Layer, joins: 'add' | 'cut'): void {
  now().select(id, null);
  now().set({ tool: 'paint', joins });
}

/** Cuts the picture to what all frames cover, too. */
export function cropToAll(now: Now): void {
  const { committed, photograph, shoot, commit, set } = now();
  let [left, top, right, bottom] = [0, 0, photograph.width, photograph.height];
  for (const laid of frameLayers({ committed }).flatMap(laidIn)) {
    const other = shoot.photographs.find(({ sha256 }) => sha256 === laid.photograph);
    const covered = other && coveredByBoth(laid, photograph, other);
    if (!covered) return set({ notice: 'There is no place that all of them cover.' });
    [left, top] = [Math.max(left, covered.x), Math.max(top, covered.y)];
    [right, bottom] = [Math.min(right, covered.x + covered.width), Math.min(bottom, covered.y + covered.height)];
  }
  if (right - left < 1 || bottom - top < 1) return set({ notice: 'There is no place that all of them cover.' });
  commit('Crop to what all frames cover', setCrop({ x: left, y: top, width: right - left, height: bottom - top }));
}
