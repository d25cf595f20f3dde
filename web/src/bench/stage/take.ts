/** Colours from the photograph into the mask part in work. */
import { spaces } from '@umbo/core/colour';
import { intersect, wholeOf } from '@umbo/core/base';
import { findLayer } from '@umbo/core/document';
import { maskPartKind, partNeeds, type Taken } from '@umbo/core/mask';
import { onPart } from '../state/actions';
import type { BenchState } from '../state/benchState';

/** Reads the photograph at places, as it came, and has the part take what is there. */
export async function takeIntoPart(
  now: () => BenchState,
  places: readonly (readonly [number, number])[],
  leaveOut: boolean,
): Promise<void> {
  const { photograph, committed, layerId, partId, view, askSample, set } = now();
  const part = findLayer(committed, layerId)?.where.parts.find(({ id }) => id === partId);
  if (!part || !layerId || !maskPartKind(part.kind).take) return;
  // The photograph itself is what is below the first layer.
  const below = partNeeds(part).some(({ kind }) => kind === 'below') ? layerId : (committed.layers[0]?.id ?? null);
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
    const layer = findLayer(now().committed, layerId);
    now().commit(
      `${kind.name}: ${leaveOut ? 'leave out' : 'catch'} on ${layer?.name ?? ''}`,
      onPart(layerId, part.id, (draft) => taken.forEach((one) => kind.take!(draft, one, leaveOut))),
    );
  } catch (error) {
    set({ notice: (error as Error).message });
  }
}
