'use client';
import type { Rect } from '@umbo/core/base';
import { X } from 'lucide-react';
import { useEffect, useRef, useState, type PointerEvent } from 'react';
import styled from 'styled-components';
import { BareButton } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Select } from '@/ui/controls/Select';
import { useBench, useBenchStore } from '../state/context';
import { applySample, meanColour, sampleArea, SAMPLE_SIZES, smallPicture } from '../state/samples';
import type { Sibling } from '../state/benchState';

const Column = styled.aside`
  position: relative;
  height: 100%;
  border-left: 1px solid var(--line);
  overflow-y: auto;
  min-height: 0;
  padding: 10px 12px;
  display: flex;
  flex-direction: column;
  gap: 10px;
  scrollbar-width: thin;
`;
const Picture = styled.figure`
  margin: 0;
  figcaption {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 6px;
    min-height: 22px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  > div {
    position: relative;
    background: var(--stage);
    touch-action: none;
    cursor: crosshair;
  }
  canvas {
    display: block;
    width: 100%;
  }
  i {
    position: absolute;
    border: 1px solid #fff;
    box-shadow: 0 0 0 1px #000a;
    pointer-events: none;
  }
`;
/** Other photographs of the shoot, as they came, to take colours from. */
export function References() {
  const store = useBenchStore();
  const open = useBench((state) => state.references) ?? [];
  const photographs = useBench((state) => state.shoot.photographs);
  const size = useBench((state) => state.sampleSize);
  const closed = photographs.filter(({ id }) => !open.includes(id));
  return (
    <Column aria-label="References">
      <Select
        label="Open a reference"
        hideLabel
        value="none"
        options={[
          ['none', closed.length > 0 ? 'Open a photograph…' : 'No other photograph'],
          ...closed.map(({ id, name }) => [String(id), name] as const),
        ]}
        onChange={(id) => id !== 'none' && store.getState().set({ references: [...open, Number(id)] })}
      />
      <Choice label="Sample size" value={size} options={SAMPLE_SIZES} onChange={(sampleSize) => store.getState().set({ sampleSize })} />
      {open.length === 0 && <p style={{ color: 'var(--ink2)' }}>Click on a photograph opened here to take a colour from it.</p>}
      {photographs
        .filter(({ id }) => open.includes(id))
        .map((photograph) => (
          <Reference
            key={photograph.id}
            photograph={photograph}
            close={() => store.getState().set({ references: open.filter((id) => id !== photograph.id) })}
          />
        ))}
    </Column>
  );
}

function Reference({ photograph, close }: { photograph: Sibling; close: () => void }) {
  const store = useBenchStore();
  const canvas = useRef<HTMLCanvasElement>(null);
  const from = useRef<[number, number] | null>(null);
  const [area, setArea] = useState<Rect | null>(null);
  const size = useBench((state) => state.sampleSize);
  const fail = (error: unknown): void => store.getState().set({ notice: (error as Error).message });

  useEffect(() => {
    let alive = true;
    void smallPicture(photograph, 420)
      .then((image) => {
        const target = canvas.current;
        if (!alive || !target) return;
        target.width = image.width;
        target.height = image.height;
        target.getContext('2d')!.putImageData(image, 0, 0);
      })
      .catch((error: Error) => store.getState().set({ notice: error.message }));
    return () => void (alive = false);
  }, [photograph, store]);

  const place = (event: PointerEvent): [number, number] => {
    const box = canvas.current!.getBoundingClientRect();
    return [((event.clientX - box.left) / box.width) * photograph.width, ((event.clientY - box.top) / box.height) * photograph.height];
  };
  const show = (event: PointerEvent): void => {
    if (from.current) setArea(sampleArea(size, from.current, place(event), photograph));
  };
  const percent = (v: number, of: number): string => `${(v / of) * 100}%`;
  return (
    <Picture>
      <figcaption>
        {photograph.name}
        <BareButton aria-label={`Close ${photograph.name}`} onPress={close}>
          <X size={13} strokeWidth={1.5} />
        </BareButton>
      </figcaption>
      <div
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          from.current = place(event);
          show(event);
        }}
        onPointerMove={show}
        onPointerUp={(event) => {
          if (!from.current) return;
          const wanted = sampleArea(size, from.current, place(event), photograph);
          from.current = null;
          if (wanted.width < 1 || wanted.height < 1) return;
          meanColour(photograph, wanted).then((colour) => applySample(store.getState(), colour, false), fail);
        }}
      >
        <canvas
          ref={canvas}
          role="img"
          aria-label={`Reference ${photograph.name}`}
          style={{ aspectRatio: `${photograph.width} / ${photograph.height}` }}
        />
        {area && (
          <i
            style={{
              left: percent(area.x, photograph.width),
              top: percent(area.y, photograph.height),
              width: percent(area.width, photograph.width),
              height: percent(area.height, photograph.height),
              minWidth: 5,
              minHeight: 5,
            }}
          />
        )}
      </div>
    </Picture>
  );
}
