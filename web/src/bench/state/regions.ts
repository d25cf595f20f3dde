'use client';
/** What a person can do with regions, in words for the history. */
import { cleanName, shorten } from '@umbo/core/base';
import {
  addRegions,
  eachMaskOwner,
  everywhere,
  findLayer,
  findMaskOwner,
  freeRegionName,
  linksOf,
  onMaskOwner,
  removeRegion,
  roleName,
  type Region,
  type Role,
  type UmboDocument,
} from '@umbo/core/document';
import { maskPartKind, partsAt, type MaskPart } from '@umbo/core/mask';
import { bracketOf, canLink } from './masks';
import type { BenchState } from './benchState';

const newId = (): string => crypto.randomUUID();

/** The names of the layers and regions whose masks use one. */
export const usersOf = (document: UmboDocument, id: string): string[] =>
  Array.from(eachMaskOwner(document)).flatMap((owner) => (linksOf(owner.where).includes(id) ? [owner.name] : []));

/** The mask of a layer becomes a region, and the layer's mask a link to it. */
export function makeRegion(state: BenchState, layerId: string): void {
  const layer = findLayer(state.committed, layerId);
  if (!layer) return;
  const { parts, refine, link } = layer.where;
  const id = newId();
  const region: Region = {
    id,
    name: freeRegionName(state.committed, layer.name),
    where: { ...everywhere(), parts, refine, ...(link !== undefined && { link }) },
  };
  const done = state.commit(`Region of the mask of ${layer.name}`, (draft) => {
    addRegions([region])(draft);
    const target = findLayer(draft, layerId);
    // The region is what the mask shows; how strong it is, and whether it is turned round, stays the layer's.
    if (target) target.where = { ...everywhere(), strength: layer.where.strength, invert: layer.where.invert, link: id };
  });
  if (done) state.set({ notice: `“${region.name}” is a region now: it can be used in any mask, and every use follows it.` });
}

/** Puts a region into the masks of the selected layers: as the mask where there is none, else kept common with what is there. */
export function putRegion(state: BenchState, regionId: string): void {
  const region = findMaskOwner(state.committed, regionId);
  const layers = state.selection.flatMap((id) => findLayer(state.committed, id) ?? []);
  if (!region || layers.length === 0) return state.set({ notice: 'Select the layers that it is to be put into.' });
  if (!layers.every((layer) => canLink(state, region, layer))) return;
  const free = layers.filter(({ where }) => where.link === undefined);
  if (free.length === 0) return state.set({ notice: 'The masks of these layers are linked: add to what they are linked to.' });
  const done = state.commit(`Region ${region.name} on ${free.length === 1 ? free[0]!.name : `${free.length} layers`}`, (draft) => {
    for (const { id } of free) {
      const target = findLayer(draft, id);
      if (!target) continue;
      const parts = partsAt(target.where, null);
      parts.push(bracketOf(parts.length > 0 ? 'common' : 'add', { link: regionId }));
    }
  });
  if (done) state.select(free.at(-1)!.id);
}

/** A region of one's own: empty, to be painted, drawn or picked, or with a part of that kind. */
export function newRegion(state: BenchState, kind?: MaskPart['kind']): void {
  const part = kind && (maskPartKind(kind).create(newId(), 'add', state.photograph) as MaskPart);
  const region: Region = {
    id: newId(),
    name: freeRegionName(state.committed, 'Region'),
    where: { ...everywhere(), parts: part ? [part] : [] },
  };
  if (!state.commit(`New region ${region.name}`, addRegions([region]))) return;
  state.select(region.id, part?.id ?? null);
  if (part) state.set({ tool: maskPartKind(part.kind).tool ?? 'move' });
}

export function renameRegion(state: BenchState, id: string, name: string): void {
  const clean = shorten(cleanName(name), 120);
  const region = findMaskOwner(state.committed, id);
  if (!region || clean === '' || clean === region.name) return;
  state.commit(
    `Region ${region.name} renamed ${clean}`,
    onMaskOwner(id, (draft) => void (draft.name = clean)),
  );
}

export function setRole(state: BenchState, { id, name }: Region, role: Role | null): void {
  state.commit(role ? `${name} is ${roleName(role).toLowerCase()}` : `${name} has no role`, (draft) => {
    const region = draft.regions?.find((one) => one.id === id);
    if (!region) return;
    if (role) region.role = role;
    else delete region.role;
  });
}

export function takeRegionOut(state: BenchState, { id, name }: Region): void {
  state.commit(`Region ${name} removed`, removeRegion(id));
}
