/** What the bench and the worker that finds regions say to each other. */
import type { Role, UmboDocument } from '@umbo/core/document';
import type { FoundPart } from '@umbo/core/mask';
import type { Other } from './protocol';

export interface ToFinder {
  photograph: Other;
  /** Of its edit. */
  readAs: UmboDocument['readAs'];
  /** What is looked for; null: everything. */
  wanted: ReadonlySet<Role> | null;
}

/** A region that was found, as a grey picture in a file. */
export interface Found {
  role: Role;
  /** Of which of several people, from 0 on; null where there is one, or none. */
  person: number | null;
  sure: FoundPart['sure'];
  width: number;
  height: number;
  /** Its values, 0..255, and the same as a file. */
  grey: Uint8Array;
  file: Blob;
}

export type FromFinder =
  | { type: 'progress'; share: number }
  /** Regions that are ready; more may come. */
  | { type: 'came'; regions: Found[] }
  /** All is found. */
  | { type: 'found'; regions: number; hasFaces: boolean }
  | { type: 'failed'; message: string };
