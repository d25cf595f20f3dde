'use client';
import { AppWindow, Maximize, X, ZoomIn, ZoomOut } from 'lucide-react';
import type { ComponentProps } from 'react';
import { BareButton } from '@/ui/controls/Button';
import { Hint } from '@/ui/controls/Hint';

/** How much larger one press makes it. */
const STEP = 1.5;

interface Props extends ComponentProps<'figcaption'> {
  name: string;
  zoom: number;
  zoomTo: (zoom: number) => void;
  floats: boolean;
  float: (next: boolean) => void;
  close: () => void;
}

/** The name of a reference, and what is done with it. */
export function ReferenceBar({ name, zoom, zoomTo, floats, float, close, ...drag }: Props) {
  return (
    <figcaption {...drag}>
      <span title={name}>{name}</span>
      <Hint text="Larger (Ctrl and wheel)">
        <BareButton aria-label={`Larger ${name}`} onPress={() => zoomTo(zoom * STEP)}>
          <ZoomIn size={13} strokeWidth={1.5} />
        </BareButton>
      </Hint>
      <Hint text="Smaller">
        <BareButton aria-label={`Smaller ${name}`} onPress={() => zoomTo(zoom / STEP)}>
          <ZoomOut size={13} strokeWidth={1.5} />
        </BareButton>
      </Hint>
      <Hint text="All of it">
        <BareButton aria-label={`Fit ${name}`} onPress={() => zoomTo(1)}>
          <Maximize size={12} strokeWidth={1.5} />
        </BareButton>
      </Hint>
      <Hint text={floats ? 'Back beside the stage' : 'Float over the stage'}>
        <BareButton aria-label={`Float ${name}`} aria-pressed={floats} onPress={() => float(!floats)}>
          <AppWindow size={12} strokeWidth={1.5} />
        </BareButton>
      </Hint>
      <BareButton aria-label={`Close ${name}`} onPress={close}>
        <X size={13} strokeWidth={1.5} />
      </BareButton>
    </figcaption>
  );
}
