'use client';
import type { Rect } from '@umbo/core/base';
import { useEffect, useRef, useState, type PointerEvent, type RefObject } from 'react';
import styled from 'styled-components';
import type { Reference as Opened } from '../state/benchState';
import { useBench, useBenchStore } from '../state/context';
import { applySample, sampleArea } from '../state/samples';
import { ReferenceBar } from './ReferenceBar';
import { useFloating } from './useFloating';
import { useReferenceZoom } from './useReferenceZoom';
import { colourOf, nameOf, pixelsOf, sizeOf } from '../state/referencePictures';

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

/** Pixels on each side of what the magnifier shows, and how large it is. */
const [AROUND, GLASS] = [15, 120];
/** Pixels of a picture that is shown small. */
const COARSE = 420;

/** A picture to take colours from: with a zoom of its own, beside the stage or floating over it. */
export function Reference({ reference, close }: { reference: Opened; close: () => void }) {
  const view = useRef<HTMLDivElement>(null);
  const figure = useRef<HTMLElement>(null);
  const { zoom, zoomTo } = useReferenceZoom(view);
  const { floats, float, bar } = useFloating(figure);
  const { width, height } = sizeOf(reference);
  return (
    <Figure
      ref={figure}
      data-floats={floats}
      onKeyDown={(event) => {
        if (event.key === 'Escape' && floats) float(false);
      }}
    >
      <ReferenceBar {...{ name: nameOf(reference), zoom, zoomTo, floats, float, close }} {...bar} />
      <View ref={view} style={floats ? undefined : { aspectRatio: `${width} / ${height}`, maxHeight: '70vh' }}>
        <Picture reference={reference} zoom={zoom} floats={floats} />
      </View>
    </Figure>
  );
}

/** The picture, fine enough for the zoom. @returns its canvas */
function usePainted(reference: Opened, wanted: number): RefObject<HTMLCanvasElement | null> {
  const store = useBenchStore();
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    let alive = true;
    pixelsOf(reference, wanted).then(
      (image) => {
        const target = canvas.current;
        if (!alive || !target) return;
        target.width = image.width;
        target.height = image.height;
        target.getContext('2d')!.putImageData(image, 0, 0);
      },
      (error: Error) => store.getState().set({ notice: error.message }),
    );
    return () => void (alive = false);
  }, [store, reference, wanted]);
  return canvas;
}

/** The pixels around a place of a canvas, drawn large. */
function magnify(lens: CanvasRenderingContext2D, source: HTMLCanvasElement, x: number, y: number): void {
  const from = (AROUND - 1) / 2;
  lens.clearRect(0, 0, AROUND, AROUND);
  lens.drawImage(source, Math.floor(x) - from, Math.floor(y) - from, AROUND, AROUND, 0, 0, AROUND, AROUND);
}

const percent = (v: number, of: number): string => `${(v / of) * 100}%`;

function Picture({ reference, zoom, floats }: { reference: Opened; zoom: number; floats: boolean }) {
  const store = useBenchStore();
  const glass = useRef<HTMLCanvasElement>(null);
  const from = useRef<[number, number] | null>(null);
  const [area, setArea] = useState<Rect | null>(null);
  const [pointer, setPointer] = useState<{ x: number; y: number } | null>(null);
  const sampleSize = useBench((state) => state.sampleSize);
  const size = sizeOf(reference);
  const canvas = usePainted(reference, Math.min(size.width, Math.ceil(COARSE * Math.max(zoom, floats ? 2 : 1))));

  const place = (event: PointerEvent): [number, number] => {
    const box = canvas.current!.getBoundingClientRect();
    return [((event.clientX - box.left) / box.width) * size.width, ((event.clientY - box.top) / box.height) * size.height];
  };
  const point = (event: PointerEvent): void => {
    if (from.current) setArea(sampleArea(sampleSize, from.current, place(event), size));
    setPointer({ x: event.clientX, y: event.clientY });
    const [source, lens] = [canvas.current!, glass.current?.getContext('2d')];
    const [u, v] = place(event);
    if (lens) magnify(lens, source, (u / size.width) * source.width, (v / size.height) * source.height);
  };
  const sample = (event: PointerEvent): void => {
    if (!from.current) return;
    const taken = sampleArea(sampleSize, from.current, place(event), size);
    from.current = null;
    if (taken.width < 1 || taken.height < 1) return;
    colourOf(reference, taken, store.getState().committed.workingSpace).then(
      (colour) => applySample(store.getState(), colour, false),
      (error: Error) => store.getState().set({ notice: error.message }),
    );
  };
  return (
    <>
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
          aria-label={`Reference ${nameOf(reference)}`}
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
    </>
  );
}
