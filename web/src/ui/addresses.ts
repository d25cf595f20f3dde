/**
 * Addresses of what browsers keep for ever. They name the content, and not a number of this database alone: another database on the
 * same port has other photographs under the same numbers.
 */
import { PIXELS_FORMAT } from '@umbo/core/base';
import type { UmboDocument } from '@umbo/core/document';

/** The space that pixels are wanted in, and the one that the file's samples are taken to be in; left out: as it says. */
export type PixelSpace = Pick<UmboDocument, 'workingSpace' | 'readAs'>;

export const pixelsAddress = (
  { id, sha256, isMask }: { id: number; sha256: string; isMask?: boolean | undefined },
  { workingSpace, readAs }: PixelSpace,
  level: number,
  from: number,
  to: number,
): string =>
  `/api/${isMask ? 'mask-pictures' : 'photographs'}/${id}/pixels?of=${sha256}&as=${PIXELS_FORMAT}&space=${workingSpace}${readAs ? `&readAs=${readAs}` : ''}&level=${level}&from=${from}&to=${to}`;

export const proofAddress = (
  { profile, intent, black, paper }: { profile: string; intent: string; black: boolean; paper: boolean },
  space: string,
  display: string,
): string =>
  `/api/profiles/${profile}/proof?space=${space}&display=${display}&intent=${intent}&black=${black ? 1 : 0}&paper=${paper ? 1 : 0}`;

export const previewAddress = (database: string, photographId: number, revision: number): string =>
  `/api/photographs/${photographId}/preview?database=${database}&revision=${revision}`;

/** Of a model that regions are found with; '' for the folder. */
export const modelAddress = (file: string): string => `/api/models/${file}`;
