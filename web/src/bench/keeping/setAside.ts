import type { UmboDocument } from '@umbo/core/document';

/** A change that the server refuses, kept as a file that a person can save: what was done before and after it goes on without it. */
export interface SetAside {
  id: string;
  label: string;
  reason: string;
  /** The edit with it. */
  document: UmboDocument;
}
