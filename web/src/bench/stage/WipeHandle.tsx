'use client';
import styled from 'styled-components';
import { useBenchStore } from '../state/context';

const Wipe = styled.div`
  position: absolute;
  top: 0;
  bottom: 0;
  width: 15px;
  margin-left: -7px;
  cursor: ew-resize;
  outline: none;
  &::before {
    content: '';
    position: absolute;
    left: 7px;
    top: 0;
    bottom: 0;
    border-left: 1px solid #fff;
    box-shadow: 0 0 0 0.5px #0008;
  }
  &::after {
    content: '‹ ›';
    position: absolute;
    top: 50%;
    left: -5px;
    width: 25px;
    height: 22px;
    border-radius: 11px;
    background: #fff;
    color: #191919;
    text-align: center;
    font: 600 12px/20px var(--sans);
    box-shadow: 0 0 0 1px #0006;
  }
  &:focus-visible::after {
    outline: 2px solid #191919;
    outline-offset: 1px;
  }
`;
/** Where one picture ends and the other begins. */
export function WipeHandle({ wipe, box }: { wipe: number; box: React.RefObject<HTMLElement | null> }) {
  const store = useBenchStore();
  const set = (share: number): void => store.getState().setLook({ wipe: Math.max(0.02, Math.min(0.98, share)) });
  return (
    <Wipe
      role="slider"
      tabIndex={0}
      aria-label="Wipe between before and after"
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(wipe * 100)}
      style={{ left: `${wipe * 100}%` }}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event) => {
        event.stopPropagation();
        if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
        const { left, width } = box.current!.getBoundingClientRect();
        set((event.clientX - left) / width);
      }}
      onKeyDown={(event) => {
        const by = event.key === 'ArrowLeft' ? -0.01 : event.key === 'ArrowRight' ? 0.01 : 0;
        if (by !== 0) set(wipe + by * (event.shiftKey ? 10 : 1));
      }}
    />
  );
}
