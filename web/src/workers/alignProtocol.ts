/** What the bench and the worker that aligns photographs say to each other. */
import type { Laid } from '@umbo/core/align';
import type { UmboDocument } from '@umbo/core/document';
import type { Other } from './protocol';

export interface ToAligner {
  photograph: Other;
  readAs: UmboDocument['readAs'];
  /** The one that is laid over it. */
  other: Other;
  /** Whether it may lean. */
  perspective: boolean;
}

/** Where the other one lies, and how sure that is. */
export interface Aligned extends Laid {
  places: number;
  agree: number;
  /** Pixels of the photograph by which the places that agree are off, in the mean. */
  residual: number;
}

export type FromAligner =
  | { type: 'progress'; share: number }
  /** Null: they do not belong together. */
  | { type: 'aligned'; aligned: Aligned | null }
  | { type: 'failed'; message: string };
