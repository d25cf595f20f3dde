'use client';
/** What a person can do with layers, in words for the history. */
import { adjustment, type AdjustmentContent } from '@umbo/core/adjust';
import { relinkRegions, type Carried, originOf } from '@umbo/core/carry';
import { clamp, cleanName, shorten, type ColourSpace } from '@umbo/core/base';
import { blendModes } from '@umbo/core/blend';
import { spaces, type Colour } from '@umbo/core/colour';
import { isSource, sourceKind, type SourceContent } from '@umbo/core/content';
import {
  addRegions,
  adjustmentLayer,
  childrenOf,
  colourwayLayer,
  contentKind,
  copyLayers,
  eachLayer,
  everywhere,
  findLayer,
  findMaskOwner,
  groupLayer,
  groupLayers,
  insertLayers,
  moveLayers,
  onLayer,
  placeOf,
  removeLayers,
  sourceLayer,
  topmost,
  relink,
  ungroup,
  type Content,
  type Layer,
  type Recipe,
  type Target,
  type UmboDocument,
} from '@umbo/core/document';
import { writeCube } from '@umbo/core/format';
import { lutOfLayers } from '@umbo/core/render';
import { hexOf } from '@/ui/hexOf';
import { saveFile } from '@/ui/saveFile';
import { isFolded, layersInside } from './card';
import type { BenchState } from './benchState';

const newId = (): string => crypto.randomUUID();
const layerOf = (state: BenchState, id = state.layerId): Layer | undefined => findLayer(state.committed, id);
/** The selected layers, in the order in which they act, without those that are in another one of them. */
const selectedLayers = (state: BenchState): Layer[] => topmost(state.committed, new Set(state.selection));
const inWords = (layers: readonly Layer[]): string => (layers.length === 1 ? layers[0]!.name : `${layers.length} layers`);

export type LayerKind = AdjustmentContent['kind'] | SourceContent['kind'] | 'group';

export const kindName = (what: Content): string => contentKind(what)?.name ?? (what.kind === 'group' ? 'Group' : 'Colourways');

function freeName(state: BenchState, wanted: string): string {
  const taken = new Set(Array.from(eachLayer(state.committed.layers), ({ name }) => name));
  for (let n = 1; ; n++) if (!taken.has(`${wanted} ${n}`)) return `${wanted} ${n}`;
}

const nameOfNew = (kind: AdjustmentContent['kind']): string => adjustment(kind).layerName ?? adjustment(kind).name;

interface NewLayer {
  /** The mode that it blends in; left out: as its kind was left. */
  mode?: string;
  /** Links its mask to that of the selected layer, which it stands above, or to the region in work. */
  sameMask?: boolean;
}

/** So many kinds are remembered as used last. */
const RECENT = 6;

export function addLayer(state: BenchState, kind: LayerKind, { mode, sameMask = false }: NewLayer = {}): void {
  // A layer that is linked itself passes on whose mask it is.
  const from = sameMask ? (layerOf(state)?.where.link ?? state.layerId) : null;
  const giver = from === null ? undefined : findMaskOwner(state.committed, from);
  const made = madeLayer(state, kind);
  const layer: Layer = {
    ...made,
    name: giver && !isSource(made.what) ? shorten(`${kindName(made.what)} on ${giver.name}`, 120) : made.name,
    where: giver ? { ...everywhere(), link: giver.id } : made.where,
    how: { ...made.how, mode: mode ?? made.how.mode },
  };
  if (!state.commit(`New layer ${layer.name}`, placeNew(state, [layer]))) return;
  state.select(layer.id);
  state.set({ recentKinds: [kind, ...state.recentKinds.filter((one) => one !== kind)].slice(0, RECENT) });
  const tool = contentKind(layer.what)?.tool;
  // A tool in hand that works on the new layer as well stays there: erasing begins a mask as painting does.
  if (tool) state.set({ tool, ...(state.sample && { paintColour: state.sample }) });
}

/** A new layer of a kind, with the mode that its kind was left in. */
export function madeLayer(state: BenchState, kind: LayerKind): Layer {
  const layer = newLayer(state, kind);
  return { ...layer, how: { ...layer.how, mode: state.modes[kind] ?? layer.how.mode } };
}

/** A layer of a kind as it begins: with the colour that was sampled last, where one colour is all of it. */
function newLayer(state: BenchState, kind: LayerKind): Layer {
  if (kind === 'group') return groupLayer(newId(), freeName(state, 'Group'));
  if (!isSource({ kind } as Content)) {
    const own = kind as AdjustmentContent['kind'];
    return adjustmentLayer(newId(), own, freeName(state, nameOfNew(own)));
  }
  const layer = sourceLayer(newId(), kind as SourceContent['kind'], sourceKind(kind as SourceContent['kind']).name, state.photograph);
  const space = spaces[state.committed.workingSpace];
  if (state.sample && oneColourOf(layer.what, space))
    contentKind(layer.what)?.takeColour?.(layer.what.settings, state.sample, 0, space, false);
  return namedByColour(state, layer);
}

/** Another layer of the kind and mode of the selected one. */
export function addAlike(state: BenchState): void {
  const layer = layerOf(state);
  if (layer && contentKind(layer.what)) addLayer(state, layer.what.kind as LayerKind, { mode: layer.how.mode });
}

/** The selected layer does something else, where and how it did before. */
export function changeKind(state: BenchState, kind: LayerKind): void {
  const layer = layerOf(state);
  if (!layer || !contentKind(layer.what) || kind === 'group' || kind === layer.what.kind) return;
  const next = newLayer(state, kind);
  const hadOwnName = !layer.name.startsWith(nameOfBegun(layer.what));
  state.commit(
    `${layer.name} changed to ${kindName(next.what)}`,
    onLayer(layer.id, (draft) => {
      draft.what = structuredClone(next.what);
      delete draft.shared;
      if (!hadOwnName) draft.name = next.name;
    }),
  );
}

/** The layers whose settings a layer can share: adjustments of its kind. */
export const alikeLayers = (document: UmboDocument, { id, what }: Pick<Layer, 'id' | 'what'>): Layer[] =>
  'layers' in what || isSource(what)
    ? []
    : Array.from(eachLayer(document.layers)).filter((other) => other.id !== id && other.what.kind === what.kind);

/** From now on, a change of either layer's settings is one of both; they begin with those of the other. */
export function shareSettings(state: BenchState, id: string, otherId: string): void {
  const [layer, other] = [layerOf(state, id), layerOf(state, otherId)];
  if (!layer || !other || layer.what.kind !== other.what.kind) return;
  const set = other.shared ?? newId();
  state.commit(`${layer.name}: same settings as ${other.name}`, (draft) => {
    const [target, giver] = [findLayer(draft, id), findLayer(draft, otherId)];
    if (!target || !giver) return;
    giver.shared = set;
    target.shared = set;
    target.what = structuredClone(other.what);
  });
}

export function ownSettings(state: BenchState, id: string): void {
  const layer = layerOf(state, id);
  if (layer?.shared === undefined) return;
  state.commit(
    `${layer.name}: settings of its own`,
    onLayer(id, (draft) => void delete draft.shared),
  );
}

/** With what a layer's name begins before it is given one of its own. */
const nameOfBegun = (what: Content): string => ('layers' in what || isSource(what) ? kindName(what) : nameOfNew(what.kind));

/** The one colour of content that has one, in hexadecimal digits. */
function oneColourOf(what: Content, space: ColourSpace): string | null {
  const colour = isSource(what) ? sourceKind(what.kind).oneColour?.(what.settings) : null;
  return colour ? hexOf(colour, space) : null;
}

/** Changes a layer's content in place; a layer that is called by its colour goes on being so. */
export function changeContent(layer: Layer, space: ColourSpace, change: (settings: Content['settings']) => void): void {
  const before = oneColourOf(layer.what, space);
  change(layer.what.settings);
  const after = oneColourOf(layer.what, space);
  const kind = kindName(layer.what);
  if (before && after && layer.name === `${kind} ${before}`) layer.name = `${kind} ${after}`;
}

/** Content of one colour is called by it; other content by a number. */
function namedByColour(state: BenchState, layer: Layer): Layer {
  const colour = oneColourOf(layer.what, spaces[state.committed.workingSpace]);
  return { ...layer, name: colour ? `${layer.name} ${colour}` : freeName(state, layer.name) };
}

/**
 * Puts new layers where they are looked for: into the selected group, beside the selected layer; an alternative that is a layer by itself
 * becomes a group with them, so that they act with it and are none of their own.
 */
export function placeNew(state: BenchState, layers: readonly Layer[]): Recipe {
  const selected = layerOf(state, state.selection.at(-1) ?? state.layerId);
  if (!selected) return insertLayers(layers, state.committed.layers.at(-1)?.id ?? null);
  if (selected.what.kind === 'group')
    return onLayer(selected.id, (draft) => {
      if (!layers.some(({ id }) => childrenOf(draft).some((child) => child.id === id)))
        childrenOf(draft).push(...structuredClone(layers as Layer[]));
    });
  if (placeOf(state.committed, selected.id)?.parent?.what.kind !== 'colourways') return insertLayers(layers, selected.id);
  const group = groupLayer(newId(), selected.name);
  return (draft) => {
    groupLayers([selected.id], group)(draft);
    insertLayers(layers, selected.id)(draft);
  };
}

/**
 * Pastes layers and the regions that came along with them; layers that are `present` already, by the id of the copied one, are replaced where
 * they stand. @returns the layers as they are here, in the order of those given, and the regions that are new
 */
export function pasteLayers(
  state: BenchState,
  { layers, regions, readings }: Carried,
  present: ReadonlyMap<string, string> = new Map(),
): Carried {
  const copies = copyLayers(layers, (id) => present.get(id) ?? newId());
  for (const [i, copy] of copies.entries()) copy.origin = originOf(layers[i]!);
  const newRegions = relinkRegions(state.committed, { layers: copies, regions: structuredClone(regions), readings });
  const words = layers.length === 1 ? `Paste ${layers[0]!.name}` : `Paste ${layers.length} layers`;
  const added = copies.filter(({ id }) => !findLayer(state.committed, id));
  const done = state.commit(words, (draft) => {
    addRegions(newRegions)(draft);
    for (const copy of copies) {
      const place = placeOf(draft, copy.id);
      if (place) place.list[place.index] = structuredClone(copy);
    }
    if (added.length > 0) placeNew(state, added)(draft);
  });
  if (!done) return { layers: [], regions: [], readings };
  state.select(copies.at(-1)?.id ?? null);
  return { layers: copies, regions: newRegions, readings };
}

export function duplicateLayers(state: BenchState): void {
  const layers = selectedLayers(state);
  const last = layers.at(-1);
  if (!last) return;
  const copies = copyLayers(layers, newId);
  for (const copy of copies) copy.name = shorten(`${copy.name} copy`, 120);
  if (!state.commit(`Copy of ${inWords(layers)}`, insertLayers(copies, last.id))) return;
  state.selectAll(copies.map(({ id }) => id));
  state.select(copies.at(-1)!.id);
}

export function deleteLayers(state: BenchState): void {
  const layers = selectedLayers(state);
  if (layers.length === 0) return;
  const { list, index } = placeOf(state.committed, layers.at(-1)!.id)!;
  const neighbour =
    list[index + 1] ??
    list
      .slice(0, index)
      .reverse()
      .find((layer) => !layers.includes(layer));
  state.commit(`Delete ${layers.length === 1 ? 'layer ' : ''}${inWords(layers)}`, removeLayers(layers.map(({ id }) => id)));
  state.select(neighbour?.id ?? state.document.layers.at(-1)?.id ?? null);
}

export function renameLayer(state: BenchState, id: string, name: string): void {
  const clean = shorten(cleanName(name), 120);
  if (clean && clean !== layerOf(state, id)?.name)
    state.commit(
      `Name ${clean} instead of ${layerOf(state, id)!.name}`,
      onLayer(id, (layer) => void (layer.name = clean)),
    );
}

export function noteOnLayer(state: BenchState, id: string, note: string): void {
  const layer = layerOf(state, id);
  const clean = shorten(note.trim(), 2000);
  if (!layer || clean === (layer.note ?? '')) return;
  state.commit(
    `Note on ${layer.name}`,
    onLayer(id, (draft) => {
      if (clean) draft.note = clean;
      else delete draft.note;
    }),
  );
}

/** Switches a layer off or on, and with it all that are selected with it. */
export function switchLayer(state: BenchState, id = state.layerId): void {
  const layer = layerOf(state, id);
  if (!layer) return;
  const layers = state.selection.includes(layer.id) ? state.selection.flatMap((one) => layerOf(state, one) ?? []) : [layer];
  state.commit(`${inWords(layers)} ${layer.on ? 'off' : 'on'}`, (draft) => {
    for (const one of layers) onLayer(one.id, (found) => void (found.on = !layer.on))(draft);
  });
}

export function clipLayer(state: BenchState, id?: string): void {
  const layer = layerOf(state, id ?? state.layerId);
  if (!layer) return;
  const clip = layer.clip !== true;
  state.commit(
    clip ? `Clip ${layer.name} to the layer below` : `Release ${layer.name}`,
    onLayer(layer.id, (draft) => {
      if (clip) draft.clip = true;
      else delete draft.clip;
    }),
  );
}

export function placeLayers(state: BenchState, ids: readonly string[], target: Target): void {
  const layers = topmost(state.committed, new Set(ids));
  if (layers.length > 0) state.commit(`Move ${inWords(layers)}`, moveLayers(ids, target));
}

/** Moves a layer one place, past its neighbour or out of its group. */
export function shiftLayer(state: BenchState, id: string, by: -1 | 1): void {
  const place = placeOf(state.committed, id);
  if (!place) return;
  const neighbour = place.list[place.index + by];
  const side = by < 0 ? 'before' : 'after';
  if (neighbour) placeLayers(state, [id], { id: neighbour.id, side });
  else if (place.parent) placeLayers(state, [id], { id: place.parent.id, side });
}

/** Shows only the card of a group, or its layers again; of a layer in a group, that of the group. */
export function foldGroup(state: BenchState, id: string | null): void {
  const place = id === null ? undefined : placeOf(state.document, id);
  const layer = place && place.list[place.index];
  const group = layer && childrenOf(layer).length > 0 ? layer : place?.parent;
  if (!group) return;
  const others = state.folded.filter((one) => one !== group.id);
  if (isFolded(group, state)) return state.set({ folded: others });
  // No selected layer is hidden: what is done to the selection shall be seen.
  if (layersInside(group).some((one) => state.selection.includes(one.id))) state.select(group.id);
  state.set({ folded: [...others, group.id] });
}

export function groupSelected(state: BenchState): void {
  const layers = selectedLayers(state);
  if (layers.length === 0) return;
  const group = groupLayer(newId(), freeName(state, 'Group'));
  const giver = sharedMask(layers);
  const done = state.commit(`Group ${inWords(layers)}`, (draft) => {
    groupLayers(
      layers.map(({ id }) => id),
      group,
    )(draft);
    const made = findLayer(draft, group.id);
    if (!made || giver === null) return;
    // One mask for all is the group's; those outside that were linked to it follow.
    const own = layers.find(({ id }) => id === giver);
    made.where = own ? structuredClone(own.where) : { ...everywhere(), link: giver };
    for (const layer of childrenOf(made)) layer.where = everywhere();
    if (own) relink(draft, giver, group.id);
  });
  if (done) state.select(group.id);
}

/** The layer whose mask all of several layers have, by link or as its owner; null where there is none, or a mask differs in strength or sense. */
function sharedMask(layers: readonly Layer[]): string | null {
  if (layers.length < 2) return null;
  const givers = new Set(layers.map(({ id, where }) => where.link ?? (where.parts.length > 0 ? id : null)));
  const [giver] = givers;
  const plain = layers.every(({ id, where }) => id === giver || (where.strength === 1 && !where.invert && where.refine.length === 0));
  return givers.size === 1 && giver && plain ? giver : null;
}

/** The selected layers become alternatives of which one shows; a single layer gets a copy to differ from. */
export function makeColourways(state: BenchState): void {
  const layers = selectedLayers(state);
  const [first] = layers;
  if (!first) return;
  const set = colourwayLayer(newId(), freeName(state, 'Colourways'), first.id);
  // One mask for all: the set takes over that of its first alternative, unless others have masks of their own.
  const { where } = first;
  const shares = layers.every((layer) => layer === first || (layer.where.parts.length === 0 && layer.where.link === undefined));
  const copy = layers.length === 1 ? copyLayers([first], newId)[0]! : null;
  const done = state.commit(`Colourways of ${inWords(layers)}`, (draft) => {
    groupLayers(
      layers.map(({ id }) => id),
      set,
    )(draft);
    const made = findLayer(draft, set.id);
    if (!made) return;
    if (copy && childrenOf(made).length === 1) childrenOf(made).push({ ...structuredClone(copy), name: shorten(`${first.name} 2`, 120) });
    if (!shares) return;
    made.where = structuredClone(where);
    for (const alternative of childrenOf(made)) alternative.where = everywhere();
    // Masks that were linked to the first one's follow it.
    relink(draft, first.id, set.id);
  });
  if (done) state.select(set.id);
}

export function ungroupSelected(state: BenchState): void {
  const layer = layerOf(state);
  if (!layer || childrenOf(layer).length === 0) return;
  const inside = childrenOf(layer).map(({ id }) => id);
  state.commit(`Ungroup ${layer.name}`, ungroup(layer.id));
  state.selectAll(inside);
}

/** Shows one of a set's alternatives. */
export function chooseColourway(state: BenchState, id: string): void {
  const chosen = layerOf(state, id);
  const set = placeOf(state.committed, id)?.parent;
  if (chosen && set)
    state.commit(
      `Colourway ${chosen.name}`,
      onLayer(set.id, ({ what }) => {
        if (what.kind === 'colourways') what.settings.shown = id;
      }),
    );
}

/** Shows the alternative that the layer in work is, or is in: what is worked on is seen. */
export function showInWork(state: BenchState): void {
  for (let id = state.layerId; id !== null;) {
    const parent: Layer | null = placeOf(state.committed, id)?.parent ?? null;
    if (parent?.what.kind === 'colourways' && parent.what.settings.shown !== id) chooseColourway(state, id);
    id = parent?.id ?? null;
  }
}

/** The colourway set that the selected layer is or is in; else the first one of the edit. */
function setOf(state: BenchState): Layer | undefined {
  for (let id = state.layerId; id !== null; id = placeOf(state.committed, id)?.parent?.id ?? null) {
    const layer = layerOf(state, id);
    if (layer?.what.kind === 'colourways') return layer;
  }
  return [...eachLayer(state.committed.layers)].find(({ what }) => what.kind === 'colourways');
}

export function stepColourway(state: BenchState, by: 1 | -1): void {
  const set = setOf(state);
  if (set?.what.kind !== 'colourways') return;
  const { layers, settings } = set.what;
  const at = layers.findIndex(({ id }) => id === settings.shown);
  chooseColourway(state, layers[(at + by + layers.length) % layers.length]!.id);
}

export function setBlendMode(state: BenchState, id: string, mode: string): void {
  const layer = layerOf(state, id);
  if (!layer) return;
  state.commit(
    `Blend ${blendModes.find((one) => one.id === mode)!.name} on ${layer.name}`,
    onLayer(layer.id, ({ how }) => void (how.mode = mode)),
  );
  if (isSource(layer.what)) state.set({ modes: { ...state.modes, [layer.what.kind]: mode } });
}

export function stepBlendMode(state: BenchState, by: 1 | -1): void {
  const layer = layerOf(state);
  if (!layer) return;
  const at = blendModes.findIndex(({ id }) => id === layer.how.mode);
  setBlendMode(state, layer.id, blendModes[(at + by + blendModes.length) % blendModes.length]!.id);
}

/** Eases the layer in work off, or back in, by a twentieth. */
export function stepOpacity(state: BenchState, by: 1 | -1): void {
  const layer = layerOf(state);
  if (!layer) return;
  const percent = clamp(Math.round(layer.how.opacity * 100) + by * 5, 0, 100);
  state.commit(
    `Opacity ${percent} % on ${layer.name}`,
    onLayer(layer.id, ({ how }) => void (how.opacity = percent / 100)),
  );
}

/** Puts a colour where the selected layer has one: its fill, the stop worked on, or the next stroke. @param sampled on the photograph */
export function takeColour(state: BenchState, colour: Colour, sampled = false): void {
  const layer = layerOf(state);
  const stop = state.stop;
  const kind = layer && contentKind(layer.what);
  const space = spaces[state.committed.workingSpace];
  if (layer && kind?.takeColour)
    state.commit(
      `${isSource(layer.what) ? 'Colour' : 'Sample'} on ${layer.name}`,
      onLayer(layer.id, (draft) => changeContent(draft, space, (settings) => kind.takeColour!(settings, colour, stop, space, sampled))),
    );
  else state.set({ paintColour: colour });
}

/** Whether a sampled colour goes into a layer, which then takes it from what it lies on. */
export const takesFromBelow = (what: Content): boolean => contentKind(what)?.takeColour !== undefined;

const hasMask = (layer: Layer): boolean =>
  layer.where.parts.length > 0 || layer.where.link !== undefined || childrenOf(layer).some(hasMask);

/** Saves what the selected layers make of every colour, without their masks, as a table. */
export function saveAsLut(state: BenchState, size: number): void {
  const layers = selectedLayers(state);
  try {
    const title = inWords(layers);
    saveFile(`${title}.cube`, writeCube(lutOfLayers(layers, title, size, state.committed.workingSpace)), 'text/plain');
    if (layers.some(hasMask)) state.set({ notice: 'Saved without the masks: a table knows colours, not places.' });
  } catch (error) {
    state.set({ notice: (error as Error).message });
  }
}

export const setStackStrength =
  (share: number): Recipe =>
  (draft) => {
    if (share >= 1) delete draft.strength;
    else draft.strength = share;
  };
