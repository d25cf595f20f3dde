/** What a gesture of the brush does to the edit. */
import type { Colour } from '@umbo/core/colour';
import type { ColouredStroke } from '@umbo/core/content';
import { onLayer, type Layer, type Recipe } from '@umbo/core/document';
import { maskPartKind, type BrushPart, type Combine, type MaskPart, type Stroke } from '@umbo/core/mask';

interface StrokeTarget {
  layer: Layer;
  partId: string | null;
  isNew: boolean;
}

/** Where the strokes of a layer go: into its own paint (null) or into a brush of its mask, which may be another layer's. */
export function strokeTarget(layer: Layer, partId: string | null, find: (id: string) => Layer | undefined): StrokeTarget {
  let owner = layer;
  while (owner.where.link !== undefined) owner = find(owner.where.link)!;
  const brushes = owner.where.parts.filter(({ kind }) => kind === 'brush');
  const chosen = brushes.find(({ id }) => id === partId);
  if (layer.what.kind === 'paint' && !chosen) return { layer, partId: null, isNew: false };
  const existing = chosen ?? brushes.at(-1);
  return { layer: owner, partId: existing?.id ?? crypto.randomUUID(), isNew: !existing && owner === layer };
}

/** How a new brush joins: what is painted widens what was drawn or picked before, and stays within what only rules have found. */
const joinOf = (parts: readonly MaskPart[], erase: boolean): Combine =>
  parts.length === 0 || (!erase && parts.some(({ kind }) => maskPartKind(kind).drawn)) ? 'add' : 'common';

/** Adds a stroke, or replaces what is there of it. */
function putStroke<S extends Pick<ColouredStroke, 'id' | 'points'>>(strokes: S[], stroke: S): void {
  const at = strokes.findIndex(({ id }) => id === stroke.id);
  if (at < 0) strokes.push(stroke);
  else strokes[at]!.points = stroke.points;
}

/**
 * Puts a stroke where it belongs, and makes the brush for it where there is none.
 * @param alike how like a dab's centre a pixel must be to be taken into a mask; 0: not at all
 */
export function strokeRecipe({ layer, partId }: StrokeTarget, stroke: Stroke, colour: Colour, alike: number): Recipe {
  if (partId === null)
    return onLayer(layer.id, ({ what }) => {
      if (what.kind === 'paint') putStroke(what.settings.strokes, { ...stroke, colour: [...colour] });
    });
  return onLayer(layer.id, ({ where }) => {
    let part = where.parts.find(({ id }) => id === partId) as BrushPart | undefined;
    if (!part) {
      // An inverted mask without parts lets nothing in: what is painted on it begins a mask of its own.
      if (where.parts.length === 0) where.invert = false;
      where.parts.push({
        id: partId,
        kind: 'brush',
        on: true,
        invert: false,
        combine: joinOf(where.parts, stroke.erase),
        // Erasing with nothing painted yet means: from all of it.
        start: stroke.erase ? 'full' : 'empty',
        strokes: [],
      });
      part = where.parts.at(-1) as BrushPart;
    }
    putStroke(part.strokes, alike > 0 ? { ...stroke, alike } : stroke);
  });
}
