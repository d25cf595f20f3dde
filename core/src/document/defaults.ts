import type { Mask } from '../mask/registry.ts';
import type { ToneLimits } from '../blend/toneLimits.ts';
import { type AdjustmentContent, adjustment } from '../adjust/registry.ts';
import { type SourceContent, sourceKind } from '../content/registry.ts';
import type { Size } from '../base/geometry.ts';
import type { SpaceId } from '../base/space.ts';
import type { Content, Layer, UmboDocument } from './types.ts';

/** The edit of a photograph that nobody has touched. */
export function emptyDocument(photo: Size, workingSpace: SpaceId = 'srgb'): UmboDocument {
  return { format: 'umbo-edit', version: 2, workingSpace, photo: { width: photo.width, height: photo.height }, layers: [] };
}

/** A mask that leaves nothing out. */
export const everywhere = (): Mask => ({ parts: [], refine: [], strength: 1, invert: false });

const layerOf = (id: string, name: string, what: Content, mode = 'normal'): Layer => ({
  id,
  name,
  on: true,
  where: everywhere(),
  what,
  how: { mode, opacity: 1 },
});

/** A new adjustment layer that acts everywhere and changes nothing yet. */
export function adjustmentLayer(id: string, kind: AdjustmentContent['kind'], name: string): Layer {
  const { defaults, mode } = adjustment(kind);
  return layerOf(id, name, { kind, settings: structuredClone(defaults) } as AdjustmentContent, mode);
}

/** A new layer with colours of its own. */
export function sourceLayer(id: string, kind: SourceContent['kind'], name: string, photo: Size): Layer {
  const { create, mode } = sourceKind(kind);
  return layerOf(id, name, { kind, settings: create(photo) } as SourceContent, mode);
}

export const groupLayer = (id: string, name: string): Layer => layerOf(id, name, { kind: 'group', settings: { apart: false }, layers: [] });

export const colourwayLayer = (id: string, name: string, shown: string): Layer =>
  layerOf(id, name, { kind: 'colourways', settings: { shown }, layers: [] });

/** Limits that leave nothing out. */
export const ALL_TONES: ToneLimits = { low: [0, 0], high: [100, 100], smooth: true };
export const isAllTones = ({ low, high }: ToneLimits): boolean => low[1] <= 0 && high[0] >= 100;
