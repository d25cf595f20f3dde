/** Colours from the photograph into the mask part in work. */
import { spaces } from '@umbo/core/colour';
import { intersect, wholeOf } from '@umbo/core/base';
import { findMaskOwner, onMaskOwner } from '@umbo/core/document';
import { findPart, maskPartKind, maskPartKinds, partNeeds, partsAt, type MaskPart, type Taken } from '@umbo/core/mask';
import { ownMask } from '../state/masks';
import type { BenchState } from '../state/benchState';

/** Reads the photograph at places, and has the part in work take what is there; where that takes nothing, a new part that begins with it. */
export async function takeIntoPart(
  now: () => BenchState,
  places: readonly (readonly [number, number])[],
  leaveOut: boolean,
): Promise<void> {
  const { photograph, committed, layerId, partId, view, askSample, set } = now();
  const layer = findMaskOwner(committed, layerId);
  if (!layer) return;
  const inWork = findPart(layer.where, partId);
  const begun = inWork && maskPartKind(inWork.kind).take ? null : newTaking(now());
  const part = begun ?? inWork;
  if (!part || (begun && !ownMask(now(), layer))) return;
  // The photograph itself is what is below the first layer.
  const below = partNeeds(part).some(({ kind }) => kind === 'backdrop') ? layer.id : (committed.layers[0]?.id ?? null);
  const reach = view.zoom >= 1.5 ? 1 : 2; // near, a person means less than far
  const space = spaces[committed.workingSpace];
  try {
    const taken: Taken[] = [];
    for (const place of places) {
      const [x, y] = [Math.floor(place[0]) - reach, Math.floor(place[1]) - reach];
      const area = intersect({ x, y, width: 2 * reach + 1, height: 2 * reach + 1 }, wholeOf(photograph));
      if (area.width < 1 || area.height < 1) continue;
      taken.push({ space, colour: await askSample(area, below), x: place[0], y: place[1] });
    }
    if (taken.length === 0) return;
    const kind = maskPartKind(part.kind);
    const words = `${kind.name}: ${leaveOut ? 'leave out' : 'catch'} on ${findMaskOwner(now().committed, layer.id)?.name ?? ''}`;
    const done = now().commit(
      words,
      onMaskOwner(layer.id, ({ where }) => {
        const present = findPart(where, part.id);
        const target = present ?? structuredClone(part);
        for (const one of taken) kind.take!(target, one, leaveOut);
        if (!present && begun) partsAt(where, partId).push(target);
      }),
    );
    if (!begun || !done) return;
    const { tool } = now();
    now().select(layer.id, part.id);
    set({ tool, joins: null });
  } catch (error) {
    set({ notice: (error as Error).message });
  }
}

/** A part that keeps what it took, with nothing in it yet. */
function newTaking({ committed, layerId, partId, joins, photograph }: BenchState): MaskPart | null {
  const kind = maskPartKinds.find(({ taken }: { taken?: unknown }) => taken !== undefined)!;
  const layer = findMaskOwner(committed, layerId);
  const parts = layer ? partsAt(layer.where, partId) : [];
  return kind.create(crypto.randomUUID(), joins ?? (parts.length === 0 ? 'add' : 'common'), photograph);
}
