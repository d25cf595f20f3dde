/** What the regions of an edit are, to be laid beside those of other photographs. */
import type { Scale } from '../base/geometry.ts';
import type { Pictures } from '../base/pictures.ts';
import type { Raster } from '../base/planes.ts';
import type { Lab } from '../colour/lab.ts';
import type { Role } from '../document/region.ts';
import type { UmboDocument } from '../document/types.ts';
import type { Spreads } from '../measure/spreads.ts';
import { noteView, within } from './view.ts';

export interface RegionColour {
  readonly name: string;
  readonly role: Role | null;
  /** The mean, in CIELAB D50, after all layers. */
  readonly lab: Lab;
  readonly spread: Spreads;
}

/**
 * The mean and the spread of every region that catches something.
 * @param photograph all of it, small
 */
export function regionColours(document: UmboDocument, scale: Scale, photograph: Raster, pictures: Pictures): RegionColour[] {
  const { regions = [] } = document;
  if (regions.length === 0) return [];
  const view = noteView(document, scale, photograph, pictures, () => undefined);
  return regions.flatMap(({ id, name, role = null }): RegionColour[] => {
    const found = within(view, view.after, view.maskOf(id));
    return found ? [{ name, role, lab: found.mean, spread: found.spread }] : [];
  });
}
