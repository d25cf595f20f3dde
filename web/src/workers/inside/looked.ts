import type { Size } from '@umbo/core/base';
import { peekAt, type Peek, type UmboDocument } from '@umbo/core/document';
import type { Look, ComparedSide } from '../protocol';

export const EVERYTHING: Peek = { solo: null, upTo: null };

/** The edit, and how it is looked at: what the engine was told of them last. */
export interface Looked {
  /** The photograph's size. */
  readonly full: Size;
  document: UmboDocument;
  look: Look;
  /** Edits that were told for either side of a comparison. */
  told: Record<ComparedSide, UmboDocument | null>;
}

/** The edit that stands in for the one in work; null when none does. */
const insteadOf = ({ look, told }: Looked): UmboDocument | null => (look.instead === null ? null : told.after);

/** The edit that is on the stage, whole: the one in work, or one that stands in for it. */
export const stagedOf = (looked: Looked): UmboDocument => insteadOf(looked) ?? looked.document;

/** The edit as it is looked at. */
export const shownOf = (looked: Looked): UmboDocument => insteadOf(looked) ?? peekAt(looked.document, looked.look.peek);

/** The edit that the picture is compared with; null when that is the photograph, or nothing. */
export function comparedOf({ document, look: { compare, against }, told }: Looked): UmboDocument | null {
  if (compare === 'after' || against.kind === 'photograph' || against.kind === 'unproofed') return null;
  return against.kind === 'told' ? told.before : peekAt(document, { solo: null, upTo: against.id });
}

/** How a bench begins to look at an edit. */
export const beginLooking = (full: Size, document: UmboDocument): Looked => ({
  full,
  document,
  look: {
    compare: 'after',
    against: { kind: 'photograph' },
    instead: null,
    blink: 'before',
    peek: EVERYTHING,
    wipe: 0.5,
    maskView: 'contours',
    difference: 'channels',
    clipped: false,
    proof: null,
    layerId: null,
    surround: 117,
    lit: null,
  },
  told: { before: null, after: null },
});
