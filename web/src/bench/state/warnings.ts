'use client';
/** What a person does with warnings about what may have gone too far. */
import { findLayer, onLayer } from '@umbo/core/document';
import type { Warning } from '@umbo/core/warnings';
import type { BenchState } from './benchState';

export const openWarnings = ({ warnings, dismissed }: Pick<BenchState, 'warnings' | 'dismissed'>): Warning[] =>
  warnings.filter(({ key }) => !dismissed.includes(key));

/** Shows what a warning is about: its layer or region, or the pixels. */
export function showWarning(state: BenchState, { at }: Warning): void {
  if (at === null) state.setLook({ clipped: true, compare: 'after' });
  else {
    state.select(at);
    state.setLook({ maskView: 'contours', compare: 'after' });
  }
}

/** Takes half of the layer behind a warning back; one whose mask catches nothing is switched off. */
export async function easeWarning(now: () => BenchState, { key, layerId, words }: Warning): Promise<void> {
  try {
    const id = layerId ?? (await now().askBehind(key));
    const layer = findLayer(now().committed, id);
    if (!layer) return now().set({ notice: 'No layer by itself is behind this.' });
    const isEmpty = key.startsWith('emptyMask');
    const done = now().commit(
      isEmpty ? `${layer.name} off` : `${layer.name} eased`,
      onLayer(layer.id, (draft) => {
        if (isEmpty) draft.on = false;
        else draft.how.opacity = Math.round(draft.how.opacity * 50) / 100;
      }),
    );
    if (!done) return;
    now().select(layer.id);
    now().set({
      notice: isEmpty ? `“${layer.name}” is switched off.` : `“${layer.name}” is at ${Math.round(layer.how.opacity * 50)} % now.`,
    });
  } catch (error) {
    now().set({ notice: `What is behind it was not found: ${(error as Error).message}. (${words})` });
  }
}
