'use client';
import { useRef } from 'react';
import styled from 'styled-components';
import { previewAddress } from '@/ui/addresses';
import { useInSight, usePreview } from './previews';

const Place = styled.span`
  display: grid;
  place-items: center;
  width: 100%;
  height: 100%;
  &:empty::after {
    content: '';
    width: 14px;
    height: 14px;
    border: 1.5px solid #8c8c8c;
    border-radius: 50%;
  }
`;

/** A small picture of an edit, as soon as there is one; that of an earlier state stays until there is one of this. */
export function PreviewPicture({ database, id, revision }: { database: string; id: number; revision: number }) {
  const place = useRef<HTMLSpanElement>(null);
  const shown = usePreview(id, revision, useInSight(place, 100));
  return (
    <Place ref={place} data-there={shown >= revision} aria-hidden>
      {shown > 0 && <img src={previewAddress(database, id, Math.min(shown, revision))} alt="" draggable={false} />}
    </Place>
  );
}
