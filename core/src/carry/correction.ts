/** An edit that brings a region of any photograph to one colour. */
import { adjustment, type AdjustmentContent } from '../adjust/registry.ts';
import { shorten } from '../base/names.ts';
import type { Lab } from '../colour/lab.ts';
import { adjustmentLayer, emptyDocument, everywhere } from '../document/defaults.ts';
import type { Reading } from '../document/reading.ts';
import type { Region, Role } from '../document/region.ts';
import type { Layer, UmboDocument } from '../document/types.ts';
import { hash } from '../document/copyIds.ts';

export interface CorrectionWish {
  /** The region, by its role and name as {@link sameRegion} has it. */
  readonly role: Role | null;
  readonly name: string;
  /** What its mean is to become, in CIELAB D50. */
  readonly lab: Lab;
  /** CIEDE2000 within which that counts as reached. */
  readonly tolerance: number;
  /** The adjustment that is solved for. */
  readonly by: AdjustmentContent['kind'];
}

/**
 * A layer on the region, the reading that it is solved for, and the region, to be carried: the same wish again takes the place of what it
 * brought before.
 * @returns the edit, and the id of its layer
 */
export function correctionFor({ role, name, lab, tolerance, by }: CorrectionWish): { document: UmboDocument; layerId: string } {
  const key = hash(`${role ?? ''} ${name}`);
  const region: Region = { id: `subject-${key}`, name, ...(role && { role }), where: everywhere() };
  const where = { ...everywhere(), link: region.id };
  const target = { kind: 'colour', lab: { ...lab } } as const;
  const reading: Reading = { id: `together-${key}`, letter: 'A', name, where, target, tolerance };
  const layer: Layer = adjustmentLayer(`together-${key}-layer`, by, shorten(`${name} brought together`, 120));
  adjustment(by).solvable?.(layer.what.settings);
  layer.where = structuredClone(where);
  layer.foundBy = { kind: 'solver', turned: 'settings', readings: [{ id: reading.id, aim: target }] };
  const document = { ...emptyDocument({ width: 1000, height: 1000 }), layers: [layer], regions: [region], readings: [reading] };
  return { document, layerId: layer.id };
}
