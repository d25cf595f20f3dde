/** What a gesture of the brush does to the edit. */
import type { Colour } from '@umbo/core/colour';
import type { ColouredStroke } from '@umbo/core/content';
import { findMaskOwner, isLayer, onLayer, onMaskOwner, type MaskOwner, type Recipe } from '@umbo/core/document';
import { findPart, maskPartKind, partsAt, type BrushPart, type Combine, type GrownPart, type MaskPart, type Stroke } from '@umbo/core/mask';
import type { BenchState } from './benchState';

interface StrokeTarget {
  layer: MaskOwner;
  partId: string | null;
  isNew: boolean;
  /** The part in work, beside which a new brush goes. */
  beside: string | null;
  /** How a new brush joins. */
  combine: Combine;
}

/** The layer or region whose mask strokes change: its own, or the one that it is linked to. */
function maskOwner(layer: MaskOwner, find: (id: string) => MaskOwner | undefined): MaskOwner {
  let owner = layer;
  while (owner.where.link !== undefined) owner = find(owner.where.link)!;
  return owner;
}

const isPaint = (owner: MaskOwner): boolean => isLayer(owner) && owner.what.kind === 'paint';

const isSeeds = (part: MaskPart | null | undefined): boolean => !!part && maskPartKind(part.kind).strokes === 'seeds';

/** Whether strokes say what belongs to the part in work, rather than covering where they go. */
export function strokesAreSeeds({ committed, layerId, partId }: BenchState): boolean {
  const owner = findMaskOwner(committed, layerId);
  return owner?.where.link === undefined && isSeeds(owner && findPart(owner.where, partId));
}

/** The brush that the next stroke goes on in; undefined when it begins one, null when it goes into the layer's own paint. */
function brushOf(layer: MaskOwner, owner: MaskOwner, partId: string | null): MaskPart | null | undefined {
  const parts = partsAt(owner.where, partId);
  const brushes = parts.filter(({ kind }) => kind === 'brush');
  const chosen = parts.find((part) => part.id === partId && maskPartKind(part.kind).strokes !== undefined);
  return isPaint(layer) && !chosen ? null : (chosen ?? brushes.at(-1));
}

/** How the next stroke on a layer meets what its mask has already. */
export interface StrokeMeets {
  /** The brush that it goes on in; null: the layer's own paint; undefined: none, it begins one. */
  brush: MaskPart | null | undefined;
  /** How a brush of its own joins, when nothing else is chosen. */
  usual: Combine;
  /** What a brush of its own joins. */
  parts: readonly MaskPart[];
}

export function strokeMeets(
  layer: MaskOwner,
  partId: string | null,
  erase: boolean,
  find: (id: string) => MaskOwner | undefined,
): StrokeMeets {
  const owner = maskOwner(layer, find);
  const parts = partsAt(owner.where, partId);
  return { brush: brushOf(layer, owner, partId), usual: usualJoin(parts, erase), parts };
}

/**
 * Where the strokes of a layer go: into its own paint (null) or into a brush of its mask, which may be another layer's.
 * @param joins how, when a brush of its own is wanted; null: as usual
 */
export function strokeTarget(
  layer: MaskOwner,
  partId: string | null,
  erase: boolean,
  joins: Combine | null,
  find: (id: string) => MaskOwner | undefined,
): StrokeTarget {
  const owner = maskOwner(layer, find);
  const brush = brushOf(layer, owner, partId);
  const combine = joins ?? usualJoin(partsAt(owner.where, partId), erase);
  const target = { beside: partId, combine };
  if (brush === null) return { ...target, layer, partId: null, isNew: false };
  const existing = joins === null || isSeeds(brush) ? brush : undefined;
  return { ...target, layer: owner, partId: existing?.id ?? crypto.randomUUID(), isNew: !existing && owner === layer };
}

/** How what is painted or drawn joins: it widens what was drawn or picked before, and stays within what only rules have found. */
export const usualJoin = (parts: readonly MaskPart[], erase: boolean): Combine =>
  parts.length === 0 || (!erase && parts.some(({ kind }) => maskPartKind(kind).drawn)) ? 'add' : 'common';

/** With what a new brush begins, as the tool in hand says. Erasing with nothing painted yet means: from all of it. */
export const brushBegin = (parts: readonly MaskPart[], erase: boolean): Pick<BrushPart, 'combine' | 'start'> => ({
  combine: usualJoin(parts, erase),
  start: erase ? 'full' : 'empty',
});

/** Adds a stroke, or replaces what is there of it. */
function putStroke<S extends Pick<ColouredStroke, 'id' | 'points'>>(strokes: S[], stroke: S): void {
  const at = strokes.findIndex(({ id }) => id === stroke.id);
  if (at < 0) strokes.push(stroke);
  else strokes[at]!.points = stroke.points;
}

/**
 * Puts a stroke where it belongs, and makes the brush for it where there is none.
 * @param alike how like a dab's centre a pixel must be to be taken; 0: not at all
 */
export function strokeRecipe({ layer, partId, beside, combine }: StrokeTarget, stroke: Stroke, colour: Colour, alike: number): Recipe {
  const taking = alike > 0 ? { ...stroke, alike } : stroke;
  if (partId === null)
    return onLayer(layer.id, ({ what }) => {
      if (what.kind === 'paint') putStroke(what.settings.strokes, { ...taking, colour: [...colour] });
    });
  return onMaskOwner(layer.id, ({ where }) => {
    let part = findPart(where, partId) as BrushPart | GrownPart | undefined;
    if (!part) {
      // An inverted mask without parts lets nothing in: what is painted on it begins a mask of its own.
      if (where.parts.length === 0) where.invert = false;
      const parts = partsAt(where, beside);
      parts.push({
        id: partId,
        kind: 'brush',
        on: true,
        invert: false,
        combine,
        start: brushBegin(parts, stroke.erase).start,
        strokes: [],
      });
      part = parts.at(-1) as BrushPart;
    }
    putStroke(part.strokes, isSeeds(part) ? stroke : taking);
  });
}

/** Whether there is nothing on the layer in work yet that a brush could take away again: then it has been chosen to paint. */
export function brushIsIdle({ committed, layerId, partId }: BenchState): boolean {
  const layer = findMaskOwner(committed, layerId);
  if (!layer) return true;
  const { brush, parts } = strokeMeets(layer, partId, false, (id) => findMaskOwner(committed, id));
  return brush === null ? isLayer(layer) && layer.what.kind === 'paint' && layer.what.settings.strokes.length === 0 : parts.length === 0;
}
