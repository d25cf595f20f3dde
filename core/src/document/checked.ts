/** What came along from another photograph and has to be looked at on this one. */
import { produce } from 'immer';
import { eachMask, type Mask, type MaskPart } from '../mask/registry.ts';
import { eachMaskOwner } from './tree.ts';
import { sameValue } from './difference.ts';
import type { UmboDocument } from './types.ts';

/** What is to be looked at in a mask. */
export const toBeChecked = (mask: Mask): MaskPart[] =>
  Array.from(eachMask(mask)).flatMap(({ parts }) => parts.filter(({ check }) => check));

/** After a change: a part that was changed has been looked at. Leaves a document that holds none as it is. */
export function lookedAt(before: UmboDocument, after: UmboDocument): UmboDocument {
  const known = new Map<string, MaskPart>();
  for (const { where } of eachMaskOwner(before)) for (const part of toBeChecked(where)) known.set(part.id, part);
  if (known.size === 0) return after;
  const changed = new Set<string>();
  for (const { where } of eachMaskOwner(after))
    for (const part of toBeChecked(where)) if (!sameValue(known.get(part.id) ?? part, part)) changed.add(part.id);
  if (changed.size === 0) return after;
  return produce(after, (draft) => {
    for (const { where } of eachMaskOwner(draft)) for (const part of toBeChecked(where)) if (changed.has(part.id)) delete part.check;
  });
}
