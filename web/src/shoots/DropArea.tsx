'use client';
import type { ReactNode } from 'react';
import { DropZone, type FileDropItem } from 'react-aria-components';
import styled from 'styled-components';

const Zone = styled(DropZone)<{ $filled: boolean }>`
  position: relative;
  min-height: 100vh;
  ${(p) => p.$filled && 'height: 100vh;'}
  display: flex;
  flex-direction: column;
  > .veil {
    display: none;
  }
  &[data-drop-target] > .veil {
    display: grid;
    place-items: center;
    position: fixed;
    inset: 8px;
    z-index: 40;
    border: 2px dashed var(--ink);
    border-radius: var(--radius);
    background: color-mix(in srgb, var(--panel) 88%, transparent);
    font: 650 18px/24px var(--sans);
    pointer-events: none;
  }
`;

/** A page on which files may be dropped anywhere. @param filled it is as high as the window, and what is on it scrolls by itself */
export function DropArea(props: { words: string; filled?: boolean; onFiles: (files: File[]) => void; children: ReactNode }) {
  const { words, filled = false, onFiles, children } = props;
  return (
    <Zone
      aria-label={words}
      $filled={filled}
      getDropOperation={() => 'copy'}
      onDrop={(event) => {
        const files = event.items.filter((item): item is FileDropItem => item.kind === 'file');
        void Promise.all(files.map((item) => item.getFile())).then((found) => found.length > 0 && onFiles(found));
      }}
    >
      {children}
      <div className="veil" aria-hidden>
        {words}
      </div>
    </Zone>
  );
}
