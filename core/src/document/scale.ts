import type { Scale, Size, Framing } from '../base/geometry.ts';
import { framingOf } from '../geometry/framing.ts';
import type { Geometry } from '../geometry/geometry.ts';
import { eachMask, maskPartKind } from '../mask/registry.ts';
import { contentKind } from './contentKind.ts';
import { eachLayer, eachMaskOwner } from './tree.ts';
import type { UmboDocument } from './types.ts';

const made = new WeakMap<Geometry, { photo: Size; framing: Framing | undefined }>();

/** Where an edit's photograph lies in its picture; undefined where the picture is the photograph. The same object while it stays so. */
export function pictureFraming({ geometry, photo }: Pick<UmboDocument, 'geometry' | 'photo'>): Framing | undefined {
  if (!geometry) return undefined;
  const known = made.get(geometry);
  if (known?.photo.width === photo.width && known.photo.height === photo.height) return known.framing;
  const framing = framingOf(geometry, photo);
  made.set(geometry, { photo, framing });
  return framing;
}

const byFrame = new WeakMap<UmboDocument, boolean>();

/** Whether an edit goes by the picture's frame, so that it is another picture where that is another. */
export function goesByFrame(document: UmboDocument): boolean {
  let known = byFrame.get(document);
  if (known === undefined) byFrame.set(document, (known = findFramed(document)));
  return known;
}

function findFramed(document: UmboDocument): boolean {
  for (const { what } of eachLayer(document.layers)) if (contentKind(what)?.framed) return true;
  for (const { where } of eachMaskOwner(document))
    for (const { parts } of eachMask(where)) if (parts.some(({ kind }) => maskPartKind(kind).framed)) return true;
  return false;
}

/** The size, in full, of the picture that an edit makes. */
export const pictureSizeOf = (document: Pick<UmboDocument, 'geometry' | 'photo'>): Size => pictureFraming(document)?.size ?? document.photo;

/** What an edit's photograph is rendered at, in which space, and for which picture. @param picture the photograph's size there */
export function scaleOf(document: UmboDocument, picture: Size): Scale {
  const framing = pictureFraming(document);
  return { picture, full: document.photo, space: document.workingSpace, ...(framing && { framing }) };
}
