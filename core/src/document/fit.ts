/** Bringing layers to a photograph of another size: rules stay as they are, positions and radii are scaled. */
import { fitBetween, type Fit } from '../base/fit.ts';
import { fitMask } from '../mask/fitMask.ts';
import type { Size } from '../base/geometry.ts';
import { contentKind } from './contentKind.ts';
import type { SpaceId } from '../base/space.ts';
import { documentFields, fieldKeys } from './fields.ts';
import { inSpace } from './inSpace.ts';
import { childrenOf } from './tree.ts';
import type { Layer, UmboDocument } from './types.ts';

/**
 * A copy of a layer, with all that is in it, for a photograph of another size.
 * @example
 * const layer = sourceLayer('f', 'fill', 'Dusk', { width: 600, height: 400 });
 * fitLayer(layer, { width: 600, height: 400 }, { width: 300, height: 200 }).what.settings.from; // → { x: 150, y: 50 }
 */
export function fitLayer(layer: Layer, from: Size, to: Size): Layer {
  const copy = structuredClone(layer);
  if (from.width !== to.width || from.height !== to.height) fitInPlace(copy, fitBetween(from, to));
  return copy;
}

function fitInPlace(layer: Layer, fit: Fit): void {
  fitMask(layer.where, fit);
  const { what } = layer;
  contentKind(what)?.fit?.(what.settings, fit);
  for (const child of childrenOf(layer)) fitInPlace(child, fit);
}

/** A copy of an edit for a photograph of another size, and for another space: its layers, and what it holds beside them. */
export function fitDocument(given: UmboDocument, to: Size, space: SpaceId = given.workingSpace): UmboDocument {
  const document = inSpace(given, space);
  const copy = structuredClone(document);
  copy.photo = { width: to.width, height: to.height };
  copy.layers = document.layers.map((layer) => fitLayer(layer, document.photo, to));
  for (const key of fieldKeys) {
    const { fit } = documentFields[key] as { fit?: (value: unknown, fit: Fit) => void };
    if (copy[key] !== undefined) fit?.(copy[key], fitBetween(document.photo, to));
  }
  return copy;
}
