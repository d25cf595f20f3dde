'use client';
import { carriedFrom, carryInto } from '@umbo/core/carry';
import { fitDocument, pictureSizeOf, type UmboDocument } from '@umbo/core/document';
import type { Carry, CarryDetail } from '@umbo/data';
import { useEffect, useRef, useState } from 'react';
import { request } from '@/ui/request';
import { othersOf, type Other } from '../workers/protocol';
import type { FromLineUp, LineUpCell, LinedUp, ToLineUp } from '../workers/lineUpProtocol';

/** The longer side of a first picture. */
const SIDE = 540;

/** What comes along, on a photograph, as it is: nothing is found anew for it. */
const withCarried = (document: UmboDocument, { id, source, choice }: Carry): UmboDocument =>
  carryInto(document, fitDocument(carriedFrom(source, choice), document.photo), 'replace', id);

/** The photographs of a trial with what comes along, and all that may be needed to paint them. */
async function lineUpOf(id: string, shootId: number, wanted: readonly number[]): Promise<Extract<ToLineUp, { type: 'open' }>> {
  const [carry, shoot, ...edits] = await Promise.all([
    request<Carry>('GET', `/api/carries/${id}/source`),
    request<{ photographs: Other[]; masks: Other[] }>('GET', `/api/shoots/${shootId}`),
    ...wanted.map((photograph) => request<{ edit: { document: UmboDocument } }>('GET', `/api/photographs/${photograph}`)),
  ]);
  const others = othersOf(shoot);
  const photographs = wanted.flatMap((photograph, i): LinedUp[] => {
    const one = others.find((other) => !other.isMask && other.id === photograph);
    return one ? [{ ...one, document: withCarried(edits[i]!.edit.document, carry) }] : [];
  });
  return { type: 'open', photographs, others };
}

const cellOf = ({ id, document }: LinedUp): LineUpCell => {
  const { width, height } = pictureSizeOf(document);
  const scale = Math.min(1, SIDE / Math.max(width, height));
  return { id, scale, area: { x: 0, y: 0, width: Math.ceil(width * scale), height: Math.ceil(height * scale) } };
};

/**
 * First pictures of a trial, made in this window while the server still finds and solves what is needed anew.
 * @returns by photograph
 */
export function useFirstPictures({ id, shootId, to }: CarryDetail): ReadonlyMap<number, ImageBitmap> {
  const [pictures, setPictures] = useState<ReadonlyMap<number, ImageBitmap>>(new Map());
  const all = useRef(to);
  all.current = to;
  useEffect(() => {
    setPictures(new Map());
    const wanted = all.current.filter(({ state }) => state === 'queued' || state === 'running').map(({ photographId }) => photographId);
    if (wanted.length === 0) return;
    const worker = new Worker(new URL('../workers/lineUp.worker.ts', import.meta.url), { type: 'module' });
    let [left, gone] = [wanted.length, false];
    worker.onmessage = ({ data }: MessageEvent<FromLineUp>) => {
      if (data.type === 'picture') setPictures((before) => new Map([...before, [data.cell.id, data.picture]]));
      if (--left === 0) worker.terminate();
    };
    lineUpOf(id, shootId, wanted).then(
      (lineUp) => {
        if (gone) return;
        left = lineUp.photographs.length;
        worker.postMessage(lineUp);
        worker.postMessage({ type: 'show', round: 0, cells: lineUp.photographs.map(cellOf), before: false } satisfies ToLineUp);
      },
      () => worker.terminate(), // the server's pictures are waited for
    );
    return () => {
      gone = true;
      worker.terminate();
    };
  }, [id, shootId]);
  return pictures;
}
