'use client';
import type { SettingsOf } from '@umbo/core/adjust';
import { Button } from '@/ui/controls/Button';
import { useBenchStore } from '../state/context';
import { measureInto } from '../state/measuring';
import type { ContentProps } from './contentProps';
import { Line, Quiet } from './editorParts';

export function HazeEditor({ layer }: ContentProps<SettingsOf<'haze'>>) {
  const store = useBenchStore();
  const find = (): void => void measureInto(store.getState, layer, { kind: 'hazeLight', settings: {} }, 'Colour of the haze');
  return (
    <>
      <Quiet>To the right haze is taken away, to the left it is added.</Quiet>
      <Line>
        <Button onPress={find}>Find the haze’s colour</Button>
      </Line>
    </>
  );
}
