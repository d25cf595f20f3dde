/** What the cards show of an edit: a row, in the order in which it acts, with brackets over what belongs together. */
import type { ColourSpace } from '@umbo/core/base';
import { cssOf } from '@/ui/hexOf';
import { isSource, sourceKind } from '@umbo/core/content';
import { childrenOf, eachLayer, type Content, type Layer } from '@umbo/core/document';
import { coversAll } from '@umbo/core/mask';

export interface Card {
  id: string;
  name: string;
  on: boolean;
  kind: 'layer' | 'group' | 'colourways';
  mode: string;
  /** Percent. */
  opacity: number;
  everywhere: boolean;
  clip: boolean;
  note: string;
  /** How many layers are in it, at any depth. */
  inside: number;
  /** A group of which only this card is shown. */
  folded: boolean;
  /** An alternative: whether it is the one that shows. */
  shown: boolean | null;
  /** What the layer does, by its kind. */
  does: string;
  /** The colours that it brings, for CSS; not more than a card shows. */
  colours: string[];
  /** The brackets over the card, the outermost first: whether they begin and end here. */
  brackets: { begins: boolean; ends: boolean }[];
  /** Where the picture after this card ends: it, or the outermost group that ends with it; null between a group's card and its layers. */
  after: string | null;
}

/** What of the bench decides which groups are folded to their card: those named, but none with a selected layer in it. */
export interface Folding {
  readonly folded: readonly string[];
  readonly selection: readonly string[];
}

/** All layers in a group, at any depth. */
export const layersInside = (group: Layer): Layer[] => [...eachLayer(childrenOf(group))];

export function isFolded(group: Layer, { folded, selection }: Folding): boolean {
  const inside = layersInside(group);
  return folded.includes(group.id) && inside.length > 0 && !inside.some(({ id }) => selection.includes(id));
}

/** So many colours fit beside each other on a card. */
const COLOURS = 4;
function coloursOf(what: Content, space: ColourSpace): string[] {
  const colours = isSource(what) ? (sourceKind(what.kind).colours?.(what.settings) ?? []) : [];
  return colours.slice(0, COLOURS).map((colour) => cssOf(colour, space));
}

/** All layers of an edit as one row of cards; a group's card comes before those of its layers. */
export function cardsOf(layers: readonly Layer[], folding: Folding, space: ColourSpace): Card[] {
  const cards: Card[] = [];
  /** @param around the groups around the list, each with whether the list ends it */
  const visit = (list: readonly Layer[], parent: Layer | null, around: { id: string; ends: boolean }[]): void => {
    for (const [i, layer] of list.entries()) {
      const last = i === list.length - 1;
      const folded = isFolded(layer, folding);
      const inside = folded ? [] : childrenOf(layer);
      const isGroup = 'layers' in layer.what;
      const outer = around.map(({ id, ends }) => ({ id, ends: ends && last }));
      const ends = inside.length === 0;
      const { what, how } = layer;
      cards.push({
        id: layer.id,
        name: layer.name,
        on: layer.on,
        kind: what.kind === 'group' || what.kind === 'colourways' ? what.kind : 'layer',
        mode: how.mode,
        opacity: Math.round(how.opacity * 100),
        everywhere: layer.where.link === undefined && coversAll(layer.where),
        clip: layer.clip === true,
        note: layer.note ?? '',
        inside: layersInside(layer).length,
        folded,
        shown: parent?.what.kind === 'colourways' ? parent.what.settings.shown === layer.id : null,
        does: what.kind,
        colours: coloursOf(what, space),
        brackets: [
          ...outer.map((bracket) => ({ begins: false, ends: ends && bracket.ends })),
          ...(isGroup ? [{ begins: true, ends }] : []),
        ],
        after: ends ? (outer.find((bracket) => bracket.ends)?.id ?? layer.id) : null,
      });
      visit(inside, layer, [...outer, { id: layer.id, ends: true }]);
    }
  };
  visit(layers, null, []);
  return cards;
}
