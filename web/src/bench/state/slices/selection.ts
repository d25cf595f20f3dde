import { contentKind, eachMaskOwner, findMaskOwner, isLayer, type UmboDocument } from '@umbo/core/document';
import { findPart } from '@umbo/core/mask';
import type { SelectionSlice, Tool } from '../benchState';
import type { Bench } from './slice';
import { sendLook } from './view';

/** Tools that belong to a mask part or a layer: they are put away when another one is chosen. */
const isPartTool = (tool: Tool): boolean => ['catch', 'leave', 'outline', 'pull'].includes(tool) || tool.startsWith('draw ');

/** Ends what was selected, looked at or compared with and is gone. @param document what the edit has become */
export function keepSelection({ get, set }: Bench, document: UmboDocument): void {
  const { layerId, partId, selection, look } = get();
  const ids = new Set(Array.from(eachMaskOwner(document), ({ id }) => id));
  const gone = (id: string | null): boolean => id !== null && id !== 'photograph' && !ids.has(id);
  const { solo, upTo, unmasked = null } = look.peek;
  if (gone(solo) || gone(upTo) || gone(unmasked)) get().setLook({ peek: { solo: null, upTo: null } });
  if (look.against.kind === 'layer' && gone(look.against.id)) get().setLook({ against: { kind: 'photograph' } });
  const layer = findMaskOwner(document, layerId);
  if (!layer) get().select(document.layers.at(-1)?.id ?? null);
  else {
    if (selection.some(gone)) set({ selection: selection.filter((id) => !gone(id)) });
    if (partId && !findPart(layer.where, partId)) set({ partId: layer.where.parts[0]?.id ?? null });
  }
}

export function selectionSlice(bench: Bench, document: UmboDocument): SelectionSlice {
  const { get, set } = bench;
  const last = document.layers.at(-1);
  return {
    layerId: last?.id ?? null,
    selection: last ? [last.id] : [],
    partId: last?.where.parts[0]?.id ?? null,
    stop: 0,
    settingsPart: {},
    select(layerId, partId) {
      const owner = findMaskOwner(get().document, layerId);
      const layer = owner && isLayer(owner) ? owner : undefined;
      const id = owner?.id ?? null;
      const before = get().layerId;
      // The strokes of a paint layer come before the parts of its mask.
      const first = layer && contentKind(layer.what)?.tool === 'paint' ? null : (owner?.where.parts[0]?.id ?? null);
      // A region stands in no stack: it is worked on, but nothing that is done to cards is done to it.
      set({ layerId: id, selection: layer ? [layer.id] : [], partId: partId === undefined ? first : partId, stop: 0, joins: null });
      // Whoever goes to another layer is done with the crop.
      if (isPartTool(get().tool) || (get().tool === 'crop' && id !== before)) set({ tool: 'move' });
      if (id === null && !['crop', 'sample', 'read'].includes(get().tool)) set({ tool: 'move' });
      sendLook(bench);
    },
    selectAll(ids) {
      const added = ids.find((id) => !get().selection.includes(id));
      const layerId = added ?? (ids.includes(get().layerId ?? '') ? get().layerId : ids.at(-1));
      if (!layerId) return;
      if (layerId !== get().layerId) get().select(layerId);
      set({ selection: ids });
    },
  };
}
