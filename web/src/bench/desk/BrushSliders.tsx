'use client';
import { Slider } from '@/ui/controls/Slider';
import { useBench, useBenchStore } from '../state/context';

/** The brush in hand. @param stops whether it can stop at the photograph's edges */
export function BrushSliders({ stops = false }: { stops?: boolean }) {
  const store = useBenchStore();
  const brush = useBench((state) => state.brush);
  const percent = (key: 'hardness' | 'flow' | 'opacity', label: string, neutral: number) => {
    const set = (v: number): void => store.getState().setBrush({ [key]: v / 100 });
    return (
      <Slider label={label} value={brush[key] * 100} min={0} max={100} step={1} neutral={neutral} unit="%" onPreview={set} onCommit={set} />
    );
  };
  const setSize = (size: number): void => store.getState().setBrush({ size });
  return (
    <>
      <Slider
        label="Brush size"
        value={brush.size}
        min={1}
        max={1000}
        step={1}
        neutral={100}
        unit="px"
        onPreview={setSize}
        onCommit={setSize}
      />
      {percent('hardness', 'Hardness', 30)}
      {percent('flow', 'Flow', 20)}
      {percent('opacity', 'Stroke', 100)}
      {stops && (
        <Slider
          label="Only alike"
          value={brush.alike}
          min={0}
          max={40}
          step={1}
          neutral={0}
          unit="ΔE"
          onPreview={(alike) => store.getState().setBrush({ alike })}
          onCommit={(alike) => store.getState().setBrush({ alike })}
        />
      )}
    </>
  );
}
