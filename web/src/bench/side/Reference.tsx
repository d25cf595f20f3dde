'use client';
import { clamp, type Rect } from '@umbo/core/base';
import { AppWindow, Maximize, X, ZoomIn, ZoomOut } from 'lucide-react';
import { useEffect, useRef, useState, type PointerEvent } from 'react';
import styled from 'styled-components';
import { BareButton } from '@/ui/controls/Button';
import { Hint } from '@/ui/controls/Hint';
import type { Reference as Opened } from '../state/benchState';
import { useBench, useBenchStore } from '../state/context';
import { applySample, sampleArea } from '../state/samples';
import { colourOf, nameOf, pixelsOf, sizeOf } from './referencePictures';

const Figure = styled.figure`
  margin: 0;
  display: flex;
  flex-direction: column;
  &[data-floats='true'] {
    position: fixed;
    z-index: 5;
    width: 420px;
    height: 340px;
    min-width: 220px;
    min-height: 160px;
    max-width: 90vw;
    max-height: 85vh;
    padding: 4px 8px 8px;
    background: var(--panel);
    border: 1px solid var(--edge);
    border-radius: 4px;
    resize: both;
    overflow: hidden;
  }
  &[data-floats='true'] figcaption {
    cursor: move;
    touch-action: none;
  }
  figcaption {
    display: flex;
    align-items: center;
    min-height: 24px;
  }
  figcaption > span {
    flex: 1;
    min-width: 0;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;
const View = styled.div`
  position: relative;
  flex: 1;
  min-height: 0;
  overflow: auto;
  background: var(--stage);
  scrollbar-width: thin;
  > div {
    position: relative;
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
const Glass = styled.canvas`
  position: fixed;
  z-index: 6;
  border: 2px solid #fff;
  box-shadow: 0 0 0 1px #000;
  border-radius: 50%;
  pointer-events: none;
  image-rendering: pixelated;
`;

/** Shares of the place's width that the picture takes: 1 fits. */
const [LEAST, MOST, STEP] = [1, 16, 1.5];
/** Pixels on each side of what the magnifier shows, and how large it is. */
const [AROUND, GLASS] = [15, 120];
const COARSE = 420;

/** A picture to take colours from: with a zoom of its own, beside the stage or floating over it. */
export function Reference({ reference, close }: { reference: Opened; close: () => void }) {
  const store = useBenchStore();
  const canvas = useRef<HTMLCanvasElement>(null);
  const view = useRef<HTMLDivElement>(null);
  const glass = useRef<HTMLCanvasElement>(null);
  const figure = useRef<HTMLElement>(null);
  const from = useRef<[number, number] | null>(null);
  const held = useRef<{ x: number; y: number } | null>(null);
  const [area, setArea] = useState<Rect | null>(null);
  const [zoom, setZoom] = useState(1);
  const [floats, setFloats] = useState(false);
  const [pointer, setPointer] = useState<{ x: number; y: number } | null>(null);
  const sampleSize = useBench((state) => state.sampleSize);
  const size = sizeOf(reference);
  const name = nameOf(reference);
  const fail = (error: unknown): void => store.getState().set({ notice: (error as Error).message });

  const wanted = Math.min(size.width, Math.ceil(COARSE * Math.max(zoom, floats ? 2 : 1)));
  useEffect(() => {
    let alive = true;
    pixelsOf(reference, wanted).then((image) => {
      const target = canvas.current;
      if (!alive || !target) return;
      target.width = image.width;
      target.height = image.height;
      target.getContext('2d')!.putImageData(image, 0, 0);
    }, fail);
    return () => void (alive = false);
  }, [reference, wanted]);

  /** Another zoom, with what is under a place of the view staying there. */
  const zoomTo = (next: number, x = view.current!.clientWidth / 2, y = view.current!.clientHeight / 2): void => {
    const box = view.current!;
    const held = clamp(next, LEAST, MOST);
    const [u, v] = [(box.scrollLeft + x) / box.scrollWidth, (box.scrollTop + y) / box.scrollHeight];
    setZoom(held);
    requestAnimationFrame(() => box.scrollTo(u * box.scrollWidth - x, v * box.scrollHeight - y));
  };
  // React's wheel listeners are passive: the page must not zoom when the picture does.
  const latest = useRef({ zoom, zoomTo });
  latest.current = { zoom, zoomTo };
  useEffect(() => {
    const box = view.current!;
    const wheel = (event: WheelEvent): void => {
      if (!event.ctrlKey && !event.metaKey) return;
      event.preventDefault();
      const { left, top } = box.getBoundingClientRect();
      latest.current.zoomTo(latest.current.zoom * Math.exp(-event.deltaY / 300), event.clientX - left, event.clientY - top);
    };
    box.addEventListener('wheel', wheel, { passive: false });
    return () => box.removeEventListener('wheel', wheel);
  }, []);

  /** Over the left of the stage at first; beside it, nothing of that is left. */
  const float = (next: boolean): void => {
    const { style } = figure.current!;
    const stage = document.querySelector('main')?.getBoundingClientRect();
    style.left = next ? `${(stage?.left ?? 0) + 16}px` : '';
    style.top = next ? `${(stage?.top ?? 0) + 44}px` : '';
    style.width = style.height = '';
    setFloats(next);
  };
  const place = (event: PointerEvent): [number, number] => {
    const box = canvas.current!.getBoundingClientRect();
    return [((event.clientX - box.left) / box.width) * size.width, ((event.clientY - box.top) / box.height) * size.height];
  };
  const point = (event: PointerEvent): void => {
    if (from.current) setArea(sampleArea(sampleSize, from.current, place(event), size));
    setPointer({ x: event.clientX, y: event.clientY });
    const [source, lens] = [canvas.current!, glass.current?.getContext('2d')];
    const [u, v] = place(event);
    const [x, y] = [(u / size.width) * source.width, (v / size.height) * source.height].map(Math.floor) as [number, number];
    if (!lens) return;
    lens.clearRect(0, 0, AROUND, AROUND);
    lens.drawImage(source, x - (AROUND - 1) / 2, y - (AROUND - 1) / 2, AROUND, AROUND, 0, 0, AROUND, AROUND);
  };
  const sample = (event: PointerEvent): void => {
    if (!from.current) return;
    const taken = sampleArea(sampleSize, from.current, place(event), size);
    from.current = null;
    if (taken.width < 1 || taken.height < 1) return;
    colourOf(reference, taken, store.getState().committed.workingSpace).then(
      (colour) => applySample(store.getState(), colour, false),
      fail,
    );
  };
  const percent = (v: number, of: number): string => `${(v / of) * 100}%`;
  return (
    <Figure
      ref={figure}
      data-floats={floats}
      onKeyDown={(event) => {
        if (event.key === 'Escape' && floats) float(false);
      }}
    >
      <figcaption
        onPointerDown={(event) => {
          if (!floats || event.target instanceof HTMLButtonElement || (event.target as Element).closest('button')) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          const { left, top } = figure.current!.getBoundingClientRect();
          held.current = { x: event.clientX - left, y: event.clientY - top };
        }}
        onPointerMove={(event) => {
          if (!held.current) return;
          const { style, offsetWidth } = figure.current!;
          style.left = `${clamp(event.clientX - held.current.x, 40 - offsetWidth, innerWidth - 40)}px`;
          style.top = `${clamp(event.clientY - held.current.y, 0, innerHeight - 30)}px`;
        }}
        onPointerUp={() => (held.current = null)}
        onPointerCancel={() => (held.current = null)}
      >
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
      <View ref={view} style={floats ? undefined : { aspectRatio: `${size.width} / ${size.height}`, maxHeight: '70vh' }}>
        <div
          style={{ width: `${zoom * 100}%` }}
          onPointerDown={(event) => {
            if (event.button !== 0) return;
            event.currentTarget.setPointerCapture(event.pointerId);
            from.current = place(event);
            point(event);
          }}
          onPointerMove={point}
          onPointerLeave={() => setPointer(null)}
          onPointerUp={sample}
          onPointerCancel={() => (from.current = null)}
        >
          <canvas
            ref={canvas}
            role="img"
            aria-label={`Reference ${name}`}
            style={{ aspectRatio: `${size.width} / ${size.height}`, imageRendering: zoom > 6 ? 'pixelated' : 'auto' }}
          />
          {area && (
            <i
              style={{
                left: percent(area.x, size.width),
                top: percent(area.y, size.height),
                width: percent(area.width, size.width),
                height: percent(area.height, size.height),
                minWidth: 5,
                minHeight: 5,
              }}
            />
          )}
        </div>
      </View>
      <Glass
        ref={glass}
        width={AROUND}
        height={AROUND}
        aria-hidden
        style={{
          width: GLASS,
          height: GLASS,
          left: (pointer?.x ?? 0) - GLASS - 18,
          top: (pointer?.y ?? 0) - GLASS / 2,
          visibility: pointer ? 'visible' : 'hidden',
        }}
      />
    </Figure>
  );
}
