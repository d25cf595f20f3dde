import type { Size } from '@umbo/core/base';
import { peekAt, type Peek, type UmboDocument } from '@umbo/core/document';
import type { Look } from '../protocol';

export const EVERYTHING: Peek = { solo: null, upTo: null };

/** The edit, and how it is looked at: what the engine was told of them last. */
export interface Looked {
  /** The photograph's size. */
  readonly full: Size;
  document: UmboDocument;
  look: Look;
  /** The version that the picture is compared with. */
  version: UmboDocument | null;
}

/** The edit as it is looked at. */
export const shownOf = ({ document, look }: Looked): UmboDocument => peekAt(document, look.peek);

/** The edit that the picture is compared with; null when that is the photograph, or nothing. */
export function comparedOf({ document, look: { compare, against }, version }: Looked): UmboDocument | null {
  if (compare === 'after' || against.kind === 'photograph') return null;
  return against.kind === 'version' ? version : peekAt(document, { solo: null, upTo: against.id });
}
