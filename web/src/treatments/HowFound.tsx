'use client';
import type { Layer } from '@umbo/core/document';
import { Choice } from '@/ui/controls/Choice';

/** How the settings of a layer that can be found anew are found, in a word. */
export const foundAnewWords = ({ foundBy }: Layer): string => (foundBy?.kind === 'solver' ? 'Solved anew' : 'Measured anew');

/** Whether a layer's settings are found anew on each photograph, or stay as numbers. */
export function HowFound({ layer, isAnew, onChange }: { layer: Layer; isAnew: boolean; onChange: (isAnew: boolean) => void }) {
  return (
    <Choice
      label={`Settings of ${layer.name}`}
      value={isAnew ? 'anew' : 'numbers'}
      options={[
        ['anew', foundAnewWords(layer)],
        ['numbers', 'As numbers'],
      ]}
      onChange={(to) => onChange(to === 'anew')}
    />
  );
}
