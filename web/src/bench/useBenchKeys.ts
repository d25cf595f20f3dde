'use client';
import { useEffect } from 'react';
import { keysOf, shortcuts } from './shortcuts';
import { isControl } from './stage/isControl';
import { useBenchStore } from './state/context';

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
    // A closed list would take a letter as the beginning of an option: on the bench letters are keys, wherever the focus was left.
    const pressOnList = (event: KeyboardEvent): void => {
      const onClosedList = event.target instanceof HTMLElement && event.target.closest('button[aria-haspopup=listbox]') !== null;
      if (!onClosedList || !/^\S$/.test(event.key) || event.ctrlKey || event.metaKey) return;
      event.stopPropagation();
      press(event);
    };
    addEventListener('keydown', pressOnList, { capture: true });
    addEventListener('keydown', press);
    return () => {
      removeEventListener('keydown', pressOnList, { capture: true });
      removeEventListener('keydown', press);
    };
  }, [store, onSheet]);
}
