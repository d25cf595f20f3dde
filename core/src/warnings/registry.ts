import type { Scale } from '../base/geometry.ts';
import type { Pictures } from '../base/pictures.ts';
import type { Raster } from '../base/planes.ts';
import { eachLayer } from '../document/tree.ts';
import type { Layer, UmboDocument } from '../document/types.ts';
import { clipping, gamut } from './clipping.ts';
import { emptyMask, scarceFamily } from './layers.ts';
import type { Warning, WarningKind } from './warning.ts';
import { darkLightened, flatSkin, teeth } from './people.ts';
import { noteView } from './view.ts';

/** Everything that is kept an eye on, in the order in which it is said. */
export const warningKinds: readonly WarningKind[] = [clipping, gamut, flatSkin, teeth, darkLightened, scarceFamily, emptyMask];

/**
 * What may have gone too far in an edit.
 * @param photograph all of it, at a small level
 * @param step called now and then. @throws what it throws when nobody waits any more
 */
export function findWarnings(document: UmboDocument, scale: Scale, photograph: Raster, pictures: Pictures, step: () => void): Warning[] {
  const view = noteView(document, scale, photograph, pictures, step);
  return warningKinds.flatMap(({ find }) => find(view));
}

/**
 * The layer that does most of what a warning is about: the one without which that is least.
 * @param photograph all of it; smaller than what the warning was found on will do
 */
export function layerBehind(
  key: string,
  document: UmboDocument,
  scale: Scale,
  photograph: Raster,
  pictures: Pictures,
  step: () => void,
): Layer | null {
  const amountIn = (shown: UmboDocument): number =>
    findWarnings(shown, scale, photograph, pictures, step).find((warning) => warning.key === key)?.amount ?? 0;
  const without = (id: string): UmboDocument => {
    const visit = (layer: Layer): Layer =>
      layer.id === id
        ? { ...layer, on: false }
        : 'layers' in layer.what
          ? ({ ...layer, what: { ...layer.what, layers: layer.what.layers.map(visit) } } as Layer)
          : layer;
    return { ...document, layers: document.layers.map(visit) };
  };
  let best: { layer: Layer; amount: number } | null = null;
  for (const layer of eachLayer(document.layers)) {
    if (!layer.on || 'layers' in layer.what) continue;
    const amount = amountIn(without(layer.id));
    if (!best || amount < best.amount) best = { layer, amount };
  }
  return best && best.amount < amountIn(document) ? best.layer : null;
}
