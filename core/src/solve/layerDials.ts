/** A layer as something with dials, in an edit that is tried with them turned. */
import type { Dial } from '../base/dial.ts';
import { spaceOf } from '../colour/spaces.ts';
import type { Turned } from '../document/foundBy.ts';
import { contentKind } from '../document/contentKind.ts';
import { childrenOf } from '../document/tree.ts';
import type { Layer, UmboDocument } from '../document/types.ts';
import { inputOf, type SampleSet } from './sampleSet.ts';

/** The edit with other settings of a layer, and of those that share them. */
export function withLayer(document: UmboDocument, { id, shared, what, how }: Layer): UmboDocument {
  const visit = (layer: Layer): Layer => {
    if (layer.id === id) return { ...layer, what, how };
    if (shared !== undefined && layer.shared === shared && layer.what.kind === what.kind) return { ...layer, what };
    const inside = childrenOf(layer);
    if (inside.length === 0) return layer;
    const next = inside.map(visit);
    return next.every((child, i) => child === inside[i]) ? layer : ({ ...layer, what: { ...layer.what, layers: next } } as Layer);
  };
  return { ...document, layers: document.layers.map(visit) };
}

/** A copy whose settings can be changed. */
export const changeable = (layer: Layer): Layer => ({ ...layer, what: structuredClone(layer.what), how: { ...layer.how } }) as Layer;

/** The settings of a layer as dials. @param strips what it begins from */
export function dialsOfLayer(layer: Layer, turned: Turned, strips: readonly SampleSet[]): Dial<Layer>[] {
  if (turned === 'opacity')
    return [
      {
        read: ({ how }) => how.opacity,
        write: ({ how }, value) => void (how.opacity = Math.round(Math.min(1, Math.max(0, value)) * 1000) / 1000),
        bounds: [0, 1],
        step: 0.1,
      },
    ];
  const dials = contentKind(layer.what)?.dials;
  if (!dials || strips.length === 0) return [];
  const view = { space: spaceOf(strips[0]!.scale), colours: strips.map(inputOf) };
  return dials(layer.what.settings, view).map(({ read, write, ...dial }) => ({
    ...dial,
    read: ({ what }) => read(what.settings),
    write: ({ what }, value) => write(what.settings, value),
  }));
}

/** The edit with the layer changed a little where it changes nothing yet: so that what it needs is found. */
export function nudged(document: UmboDocument, layer: Layer, turned: Turned): UmboDocument {
  const copy = changeable(layer);
  if (turned === 'opacity') copy.how.opacity ||= 0.5;
  else
    for (const { read, write, bounds, step } of contentKind(copy.what)?.dials?.(copy.what.settings, {
      space: spaceOf({ picture: document.photo, full: document.photo }),
      colours: [[0.5, 0.5, 0.5]],
    }) ?? []) {
      const value = read(copy.what.settings);
      write(copy.what.settings, value + (value + step > bounds[1] ? -step : step));
    }
  return withLayer(document, copy);
}
