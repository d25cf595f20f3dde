'use client';
import type { RefObject } from 'react';
import styled from 'styled-components';
import { MAGNIFIED } from '../../workers/protocol';
import { useBench } from '../state/context';
import { Picture } from '../desk/Thumbnails';

/** Pixels of the screen for one of the picture. */
const TIMES = 8;
const SIDE = MAGNIFIED * TIMES;
const GAP = 20;

const Glass = styled.div`
  position: absolute;
  width: ${SIDE}px;
  height: ${SIDE}px;
  border-radius: 50%;
  overflow: hidden;
  border: 2px solid #fff;
  box-shadow: 0 0 0 1px #000;
  background: var(--stage);
  pointer-events: none;
  canvas {
    image-rendering: pixelated;
  }
  &::after {
    content: '';
    position: absolute;
    left: ${(SIDE - TIMES) / 2 - 1}px;
    top: ${(SIDE - TIMES) / 2 - 1}px;
    width: ${TIMES}px;
    height: ${TIMES}px;
    outline: 1px solid #fff;
    box-shadow: 0 0 0 2px #000;
  }
`;

/** The pixels under the pointer, enlarged, beside it. */
export function Magnifier({ at, box }: { at: { x: number; y: number }; box: RefObject<HTMLElement | null> }) {
  const around = useBench((state) => state.probe?.around ?? null);
  if (!around) return null;
  const { width } = box.current!.getBoundingClientRect();
  const left = at.x + GAP + SIDE < width ? at.x + GAP : at.x - GAP - SIDE;
  const top = at.y - GAP - SIDE > 0 ? at.y - GAP - SIDE : at.y + GAP;
  return (
    <Glass aria-hidden data-testid="magnifier" style={{ left, top }}>
      <Picture picture={around} />
    </Glass>
  );
}
