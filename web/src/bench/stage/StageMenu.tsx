'use client';
import { useEffect, useRef, useState, type RefObject } from 'react';
import { Floating } from '@/ui/controls/Floating';
import { Menu, MenuItem, MenuLine } from '@/ui/controls/Menu';
import { useBenchStore } from '../state/context';
import { addSpot } from '../state/readings';
import { zoomAbout } from '../state/view';
import { onPhotograph } from './overlay';
import { stagePoint } from './useStage';

/** What can be done at a place of the photograph: opened by the second button of the mouse, or the menu key. */
export function StageMenu({ box }: { box: RefObject<HTMLElement | null> }) {
  const store = useBenchStore();
  const anchor = useRef<HTMLSpanElement>(null);
  const [at, setAt] = useState<{ clientX: number; clientY: number } | null>(null);
  useEffect(() => {
    const stage = box.current!;
    const open = (event: MouseEvent): void => {
      event.preventDefault();
      setAt({ clientX: event.clientX, clientY: event.clientY });
    };
    stage.addEventListener('contextmenu', open);
    return () => stage.removeEventListener('contextmenu', open);
  }, [box]);
  if (!at) return <span ref={anchor} />;
  const { left, top } = box.current!.getBoundingClientRect();
  const state = store.getState();
  const device = stagePoint(store, box.current!, at);
  const [x, y] = onPhotograph(device, state.view);
  const { width, height } = state.photograph;
  const isOnIt = x >= 0 && y >= 0 && x < width && y < height;
  return (
    <>
      <span ref={anchor} style={{ position: 'absolute', left: at.clientX - left, top: at.clientY - top, width: 1, height: 1 }} />
      <Floating triggerRef={anchor} isOpen onOpenChange={(isOpen) => !isOpen && setAt(null)} placement="bottom start">
        <Menu aria-label="At this place" autoFocus="first" onClose={() => setAt(null)}>
          {isOnIt && <MenuItem onAction={() => addSpot(state, x, y)}>Pin a reading here</MenuItem>}
          {isOnIt && <MenuItem onAction={() => state.set({ tool: 'sample' })}>Sample a colour</MenuItem>}
          {isOnIt && <MenuLine />}
          <MenuItem onAction={() => state.setView(zoomAbout(state.view, 1, ...device))}>Look at this place at 100 %</MenuItem>
          <MenuItem onAction={() => state.fitView()}>Fit the photograph</MenuItem>
          <MenuItem onAction={() => state.setLook({ compare: state.look.compare === 'before' ? 'after' : 'before' })}>
            {state.look.compare === 'before' ? 'After' : 'Before'}
          </MenuItem>
          <MenuLine />
          <MenuItem onAction={() => state.set({ offering: 'new' })}>New layer…</MenuItem>
          <MenuItem onAction={() => state.set({ searching: true })}>Find anything…</MenuItem>
        </Menu>
      </Floating>
    </>
  );
}
