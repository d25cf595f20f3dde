'use client';
import { useEffect } from 'react';
import { keysOf, shortcuts } from './shortcuts';
import { isControl } from './stage/isControl';
import { useBenchStore } from './state/context';

/** A press of Space that is shorter than this moves nothing. */
const TAP_MS = 300;

/** The keys of the bench, wherever the focus is but in a text. @param onSheet opens the list of keys; it stays the same */
export function useBenchKeys(onSheet: (shown: boolean) => void): void {
  const store = useBenchStore();
  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      const keys = keysOf(event);
      // Single keys belong to a control that has the focus; undo and redo work everywhere but in a text.
      if (event.target instanceof HTMLInputElement && event.target.type === 'text') return;
      const inOverlay = document.querySelector('[role=dialog], [role=alertdialog], [role=menu], [role=listbox]') !== null;
      // With a control in focus, Delete is meant for it and not for the layer.
      if (inOverlay || (keys === 'delete' && isControl(event.target))) return;
      if (keys === '?') {
        event.preventDefault();
        onSheet(true);
        return;
      }
      // What is marked on the page is copied by the browser.
      if (keys === 'mod+c' && getSelection()?.isCollapsed === false) return;
      const shortcut = shortcuts.find((candidate) => candidate.keys === keys);
      if (!shortcut) return;
      event.preventDefault();
      shortcut.run(store.getState(), store);
    };
    // Buttons, lists and cards would keep a letter to themselves: on the bench letters are keys, wherever the focus was left.
    const pressOnControl = (event: KeyboardEvent): void => {
      const onControl = event.target instanceof HTMLElement && event.target.closest('button, [role=row], [role=grid]') !== null;
      if (!onControl || !/^\S$/.test(event.key) || event.ctrlKey || event.metaKey || event.altKey) return;
      event.stopPropagation();
      press(event);
    };
    // Held, Space moves the photograph; a short press of nothing but it opens the field that finds everything.
    let spaceAt: number | null = null;
    const space = (event: KeyboardEvent): void => {
      const isShort = spaceAt !== null && event.timeStamp - spaceAt < TAP_MS;
      if (event.code !== 'Space' || isControl(event.target)) spaceAt = null;
      else if (event.type === 'keydown') spaceAt = event.repeat ? spaceAt : event.timeStamp;
      else {
        spaceAt = null;
        if (isShort) store.getState().set({ searching: true });
      }
    };
    const notAlone = (): void => void (spaceAt = null);
    addEventListener('keydown', pressOnControl, { capture: true });
    addEventListener('keydown', space);
    addEventListener('keyup', space);
    addEventListener('pointerdown', notAlone, { capture: true });
    addEventListener('keydown', press);
    return () => {
      removeEventListener('keydown', pressOnControl, { capture: true });
      removeEventListener('keydown', space);
      removeEventListener('keyup', space);
      removeEventListener('pointerdown', notAlone, { capture: true });
      removeEventListener('keydown', press);
    };
  }, [store, onSheet]);
}
