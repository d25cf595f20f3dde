'use client';
import type { Recipe } from '@umbo/core/document';
import { Slider } from '@/ui/controls/Slider';
import { useBenchStore } from '../state/context';

interface Props {
  label: string;
  name?: string;
  stacked?: boolean;
  bare?: boolean;
  /** 0..1 */
  value: number;
  /** For the history, such as "Opacity 40 % on Shoulder". */
  words: (percent: string) => string;
  recipe: (share: number) => Recipe;
}

/** A share of something, in percent: live while it is dragged, one step of the history in the end. */
export function ShareSlider({ value, words, recipe, ...look }: Props) {
  const store = useBenchStore();
  return (
    <Slider
      {...look}
      value={value * 100}
      min={0}
      max={100}
      step={1}
      neutral={100}
      unit="%"
      onPreview={(v) => store.getState().preview(recipe(v / 100))}
      onCommit={(v) => store.getState().commit(words(`${Math.round(v)} %`), recipe(v / 100))}
    />
  );
}
