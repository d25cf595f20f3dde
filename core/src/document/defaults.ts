import type { AdjustmentContent } from '../adjust/registry.ts';
import { adjustment } from '../adjust/registry.ts';
import type { Layer, UmboDocument } from './types.ts';

/** The edit of a photograph that nobody has touched. */
export function emptyDocument(photo: { width: number; height: number }): UmboDocument {
  return { format: 'umbo-edit', version: 1, workingSpace: 'srgb', photo: { width: photo.width, height: photo.height }, layers: [] };
}

/** A new adjustment layer that acts everywhere and changes nothing yet. */
export function adjustmentLayer(id: string, kind: AdjustmentContent['kind'], name: string): Layer {
  return {
    id,
    name,
    on: true,
    where: { parts: [], refine: [], strength: 1, invert: false },
    what: { kind, settings: { ...adjustment(kind).defaults } },
    how: { mode: 'normal', opacity: 1 },
  };
}
