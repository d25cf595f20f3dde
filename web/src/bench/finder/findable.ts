'use client';
/** Everything that the bench can do, as one list that is searched by words. */
import { adjustments } from '@umbo/core/adjust';
import { blendModes } from '@umbo/core/blend';
import { sources } from '@umbo/core/content';
import { eachLayer, findMaskOwner } from '@umbo/core/document';
import { maskPartKinds } from '@umbo/core/mask';
import { beginIntent } from '../intents/intent';
import { intents } from '../intents/intents';
import { shortcuts, showKeys } from '../shortcuts';
import { addLayer, setBlendMode } from '../state/actions';
import type { BenchState, BenchStore } from '../state/benchState';
import { addPart } from '../state/masks';

export interface Findable {
  readonly id: string;
  readonly words: string;
  /** Where on the bench it lives. */
  readonly lives: string;
  /** Other words that it is found by. */
  readonly alike?: string;
  readonly keys?: string;
  readonly run: (store: BenchStore) => void;
}

interface Controlled {
  readonly controls: readonly { readonly label: string }[];
}
const labelsOf = ({ controls }: Controlled): string => controls.map(({ label }) => label).join(' ');

/** What can be done now, what people come for first. */
export function findables(state: BenchState): Findable[] {
  const owner = findMaskOwner(state.document, state.layerId);
  const layer = [...eachLayer(state.document.layers)].find(({ id }) => id === state.layerId);
  return [
    ...intents.map((intent): Findable => {
      const { id, words, explains, alike } = intent;
      return { id: `intent ${id}`, words, lives: `What is to be done: ${explains}`, alike, run: ({ getState }) => beginIntent(getState, intent) }; // prettier-ignore
    }),
    ...[...adjustments, ...sources].map((kind): Findable => ({
      id: `layer ${kind.kind}`,
      words: kind.name,
      lives: `New layer: ${kind.explains.toLowerCase()}`,
      alike: labelsOf(kind as Controlled),
      run: ({ getState }) => addLayer(getState(), kind.kind),
    })),
    ...(owner
      ? maskPartKinds
          .filter((kind: { comesByItself?: true }) => !kind.comesByItself)
          .map((kind): Findable => ({
            id: `part ${kind.kind}`,
            words: kind.name,
            lives: `Where: part of the mask of ${owner.name}`,
            alike: `mask ${labelsOf(kind as Controlled)}`,
            run: ({ getState }) => void addPart(getState(), kind.kind),
          }))
      : []),
    ...(layer
      ? blendModes.map(({ id, name }): Findable => ({
          id: `mode ${id}`,
          words: name,
          lives: `How: blend mode of ${layer.name}`,
          alike: 'blend mode blending',
          run: ({ getState }) => setBlendMode(getState(), layer.id, id),
        }))
      : []),
    ...(state.document.regions ?? []).map(({ id, name }): Findable => ({
      id: `region ${id}`,
      words: name,
      lives: 'Regions',
      alike: 'mask region',
      run: ({ getState }) => getState().select(id),
    })),
    ...Array.from(eachLayer(state.document.layers), ({ id, name }): Findable => ({
      id: `go ${id}`,
      words: name,
      lives: 'Layers of this edit',
      run: ({ getState }) => getState().select(id),
    })),
    ...shortcuts.map(({ keys, words, group, run }): Findable => ({
      id: `keys ${keys}`,
      words,
      lives: group,
      keys: showKeys(keys),
      run: (store) => run(store.getState(), store),
    })),
  ];
}

const wordsOf = (text: string): string[] => text.toLowerCase().match(/[\p{L}\p{N}%]+/gu) ?? [];

/** Words of which one begins as the other are of one kind from so many letters on: red, redder, reddish. */
const STEM = 3;

/** How well a word that is looked for is met: 0 not at all. */
function met(wanted: string, words: readonly string[]): number {
  if (words.some((word) => word === wanted)) return 3;
  if (words.some((word) => word.startsWith(wanted))) return 2;
  return words.some((word) => word.length >= STEM && wanted.startsWith(word)) ? 1 : 0;
}

/** What meets all words of a search, the best first; those that are equally good stay in their order. */
export function search(list: readonly Findable[], text: string): Findable[] {
  const wanted = wordsOf(text);
  if (wanted.length === 0) return list.filter(({ id }) => id.startsWith('intent '));
  const scored = list.flatMap((one) => {
    const [own, lives, alike] = [wordsOf(one.words), wordsOf(one.lives), wordsOf(one.alike ?? '')];
    const scores = wanted.map((word) => Math.max(3 * met(word, own), 2 * met(word, alike), met(word, lives)));
    return scores.includes(0) ? [] : [{ one, score: scores.reduce((sum, score) => sum + score, 0) }];
  });
  return scored.sort((a, b) => b.score - a.score).map(({ one }) => one);
}
