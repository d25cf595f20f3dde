'use client';
/** What a person can do with masks and their parts, in words for the history. */
import { cleanName, shorten } from '@umbo/core/base';
import {
  everywhere,
  findMaskOwner,
  isLayer,
  leadsTo,
  onMaskOwner,
  ownParts,
  unlink,
  type MaskOwner,
  type Recipe,
} from '@umbo/core/document';
import {
  findPart,
  innerMask,
  maskPartKind,
  partsAt,
  partsWith,
  refineKind,
  type BracketPart,
  type Combine,
  type Mask,
  type MaskPart,
} from '@umbo/core/mask';
import { kindName } from './actions';
import { brushBegin } from './strokes';
import type { BenchState } from './benchState';

const newId = (): string => crypto.randomUUID();
const layerOf = (state: BenchState, id = state.layerId): MaskOwner | undefined => findMaskOwner(state.committed, id);

/** A layer whose mask is its own, and can be given parts; else undefined, and a notice says why. */
export function ownMask(state: BenchState, layer: MaskOwner | undefined): MaskOwner | undefined {
  if (layer?.where.link === undefined) return layer;
  state.set({ notice: `The mask of “${layer.name}” is linked: add to the mask that it is linked to, or make it this layer’s own.` });
  return undefined;
}

/** Adds a mask part to the selected layer. @returns its id */
export function addPart(state: BenchState, kind: MaskPart['kind'], settings: object = {}): string | null {
  const layer = ownMask(state, layerOf(state));
  if (!layer) return null;
  const { partId } = state;
  const parts = partsAt(layer.where, partId);
  const combine: Combine = parts.length > 0 ? 'common' : 'add';
  const covers = maskPartKind(kind).strokes === 'cover';
  const erases = state.tool === 'erase' && covers;
  const begin = covers ? brushBegin(parts, erases) : {};
  const part = { ...maskPartKind(kind).create(newId(), combine, state.photograph), ...begin, ...settings } as MaskPart;
  state.commit(
    `${maskPartKind(kind).name} for ${layer.name}`,
    onMaskOwner(layer.id, ({ where }) => void partsAt(where, partId).push(part)),
  );
  state.select(layer.id, part.id);
  if (!erases) state.set({ tool: maskPartKind(kind).tool ?? 'move' });
  return part.id;
}

export function deletePart(state: BenchState, partId: string): void {
  const layer = layerOf(state);
  const part = layer && findPart(layer.where, partId);
  if (!part) return;
  state.commit(
    `Remove ${maskPartKind(part.kind).name.toLowerCase()} from ${layer.name}`,
    onParts(layer.id, partId, (parts, at) => void parts.splice(at, 1)),
  );
}

/** What a part is called: by its own name, or by what it is. */
export const partName = (part: MaskPart): string => part.name ?? maskPartKind(part.kind).summary(part);

export function renamePart(state: BenchState, partId: string, name: string): void {
  const layer = layerOf(state);
  if (!layer) return;
  const clean = shorten(cleanName(name), 60);
  state.commit(
    clean ? `Name ${clean}` : `Part of ${layer.name} without a name`,
    onPart(layer.id, partId, (part) => {
      if (clean) part.name = clean;
      else delete part.name;
    }),
  );
}

/** Moves a part earlier (-1) or later (1) in the order in which the parts join. */
export function movePart(state: BenchState, partId: string, by: -1 | 1): void {
  const layer = layerOf(state);
  const list = layer && partsWith(layer.where, partId);
  if (!list) return;
  const place = list.findIndex(({ id }) => id === partId);
  if (place + by < 0 || place + by >= list.length) return;
  state.commit(
    `${partName(list[place]!)} ${by < 0 ? 'earlier' : 'later'} on ${layer.name}`,
    onParts(layer.id, partId, (parts, at) => {
      const [part] = parts.splice(at, 1);
      parts.splice(at + by, 0, part!);
    }),
  );
}

export function duplicatePart(state: BenchState, partId: string): void {
  const layer = layerOf(state);
  const part = layer && findPart(layer.where, partId);
  if (!part) return;
  const copy = copyOf(part);
  state.commit(
    `Copy of ${partName(part)} on ${layer.name}`,
    onParts(layer.id, partId, (parts, at) => void parts.splice(at + 1, 0, copy)),
  );
  state.select(layer.id, copy.id);
}

/** The next (1) or previous (-1) grade of the part in work, where its kind has grades. */
export function stepGrade(state: BenchState, by: 1 | -1): void {
  const layer = layerOf(state);
  const part = layer && findPart(layer.where, state.partId);
  const kind = part && maskPartKind(part.kind);
  if (!layer || !kind?.stepGrade) return;
  const next = structuredClone(part)!;
  kind.stepGrade(next, by);
  state.commit(
    `${kind.summary(next)} on ${layer.name}`,
    onPart(layer.id, part!.id, (draft) => kind.stepGrade!(draft, by)),
  );
}

/** Changes a layer's part in place. */
export function onPart<P extends MaskPart>(layerId: string, partId: string, change: (part: P) => void) {
  return onMaskOwner(layerId, ({ where }) => {
    const part = findPart(where, partId);
    if (part) change(part as P);
  });
}

/** Changes the list that holds a part, whose place in it is `at`. */
const onParts = (layerId: string, partId: string, change: (parts: MaskPart[], at: number) => void): Recipe =>
  onMaskOwner(layerId, ({ where }) => {
    const parts = partsWith(where, partId);
    if (parts)
      change(
        parts,
        parts.findIndex(({ id }) => id === partId),
      );
  });

/** A part with ids of its own throughout. */
function copyOf(part: MaskPart): MaskPart {
  const copy = structuredClone(part);
  const visit = (one: MaskPart): void => {
    one.id = newId();
    innerMask(one)?.parts.forEach(visit);
  };
  visit(copy);
  return copy;
}

/** A bracket that joins the parts before it as `joins` does. */
export const bracketOf = (joins: Combine, mask: Partial<Mask>): BracketPart => ({
  kind: 'bracket',
  id: newId(),
  on: true,
  invert: false,
  combine: joins,
  mask: { ...everywhere(), ...mask },
});

/** Puts a part into brackets: what is added there counts with it as one. */
export function bracketPart(state: BenchState, partId: string): void {
  const layer = layerOf(state);
  const part = layer && findPart(layer.where, partId);
  if (!part) return;
  const made = bracketOf(part.combine, { parts: [{ ...structuredClone(part), combine: 'add' }] });
  if (
    state.commit(
      `Brackets around ${partName(part)} on ${layer.name}`,
      onParts(layer.id, partId, (parts, at) => void (parts[at] = made)),
    )
  )
    state.select(layer.id, made.id);
}

/** Puts what is in brackets into their place. */
export function dissolveBracket(state: BenchState, partId: string): void {
  const layer = layerOf(state);
  const part = layer && findPart(layer.where, partId);
  const [first, ...rest] = (part && innerMask(part)?.parts) ?? [];
  if (!layer || !part || !first) return;
  const inside = structuredClone([{ ...first, combine: part.combine }, ...rest]);
  if (
    state.commit(
      `Without brackets on ${layer.name}`,
      onParts(layer.id, partId, (parts, at) => void parts.splice(at, 1, ...inside)),
    )
  )
    state.select(layer.id, first.id);
}

/** How far a part that has no narrower state of its own shrinks, in pixels of the photograph. */
const SHRINK = 20;

/** A part becomes what it catches less what a narrower one of its kind catches: its rim. */
export function cutNarrower(state: BenchState, partId: string): void {
  const layer = layerOf(state);
  const part = layer && findPart(layer.where, partId);
  if (!part) return;
  const { narrow } = maskPartKind(part.kind);
  const copy = copyOf(part);
  delete copy.name;
  if (narrow) narrow(copy);
  const shrunk = { ...refineKind('grow').create(), by: -SHRINK };
  const narrower: MaskPart = narrow
    ? { ...copy, combine: 'cut' }
    : bracketOf('cut', { parts: [{ ...copy, combine: 'add' }], refine: [shrunk] });
  const made = bracketOf(part.combine, { parts: [{ ...structuredClone(part), combine: 'add' }, narrower] });
  if (
    state.commit(
      `${partName(part)}, less the same narrower, on ${layer.name}`,
      onParts(layer.id, partId, (parts, at) => void (parts[at] = made)),
    )
  )
    state.select(layer.id, narrower.id);
}

/** Adds the mask of another layer as a part: a live link. */
export function addMaskOf(state: BenchState, from: string): void {
  const layer = ownMask(state, layerOf(state));
  const giver = layerOf(state, from);
  if (!layer || !giver || !canLink(state, giver, layer)) return;
  const { partId } = state;
  const { strength, invert } = giver.where;
  const part = bracketOf(partsAt(layer.where, partId).length > 0 ? 'common' : 'add', { strength, invert, link: from });
  if (
    state.commit(
      `The mask of ${giver.name} in that of ${layer.name}`,
      onMaskOwner(layer.id, ({ where }) => void partsAt(where, partId).push(part)),
    )
  )
    state.select(layer.id, part.id);
}

/** A mask within a part is no link any longer: it keeps what it shows. */
export function ownInner(state: BenchState, partId: string): void {
  const layer = layerOf(state);
  if (!layer) return;
  state.commit(`Copy instead of a link on ${layer.name}`, (draft) => {
    const target = findMaskOwner(draft, layer.id);
    const part = target && findPart(target.where, partId);
    const inner = part && innerMask(part);
    if (inner) ownParts(draft, inner);
  });
}

/** Whether a mask may be linked to another; a notice says why not. */
export function canLink(state: BenchState, giver: MaskOwner, taker: MaskOwner): boolean {
  if (!leadsTo(state.committed, giver.id, taker.id)) return true;
  state.set({ notice: `The mask of “${giver.name}” is linked to that of “${taker.name}” already: they would wait for each other.` });
  return false;
}

/** Gives a layer the mask of another: as a copy, or as a link, so that one edit serves both. */
export function shareMask(state: BenchState, from: string, to: string, as: 'copy' | 'link'): void {
  const [giver, taker] = [layerOf(state, from), layerOf(state, to)];
  if (!giver || !taker || giver === taker) return;
  if (as === 'link' && !canLink(state, giver, taker)) return;
  // A layer that has no name of its own yet is called by what it acts on.
  const begun = isLayer(taker) ? kindName(taker.what) : '';
  const name =
    begun !== '' && /^ \d+$/.test(taker.name.slice(begun.length)) && taker.name.startsWith(begun)
      ? shorten(`${begun} on ${giver.name}`, 120)
      : null;
  state.commit(`${as === 'link' ? 'Link to' : 'Copy of'} the mask of ${giver.name} on ${taker.name}`, (draft) => {
    const [source, target] = [findMaskOwner(draft, from), findMaskOwner(draft, to)];
    if (!source || !target) return;
    if (name) target.name = name;
    const { strength, invert } = source.where;
    target.where = { parts: [], refine: [], strength, invert, link: from };
    if (as === 'copy') unlink(draft, (id) => id === from, [target]);
  });
}

export function unlinkMask(state: BenchState, id: string): void {
  const layer = layerOf(state, id);
  if (layer?.where.link === undefined) return;
  state.commit(`Unlink the mask of ${layer.name}`, (draft) => {
    const target = findMaskOwner(draft, id);
    if (target) ownParts(draft, target.where);
  });
}
