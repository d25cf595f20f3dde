import { findLayer, placeOf, type Layer, type UmboDocument } from '@umbo/core/document';

/** Why what is done to a layer is not seen; null where it is. */
export function hiddenBecause(document: UmboDocument, id: string): string | null {
  for (let layer: Layer | undefined = findLayer(document, id); layer;) {
    if (!layer.on) return `“${layer.name}” is switched off`;
    const parent: Layer | null = placeOf(document, layer.id)?.parent ?? null;
    if (parent?.what.kind === 'colourways' && parent.what.settings.shown !== layer.id) return `“${parent.name}” shows another alternative`;
    layer = parent ?? undefined;
  }
  return null;
}
