/** Named parts of a photograph: masks of their own, which other masks are linked to. */
import { Type } from '@sinclair/typebox';
import type { Fit } from '../base/fit.ts';
import { fitMask } from '../mask/fitMask.ts';
import type { Mask } from '../mask/registry.ts';

/** What a region can be of: by its role it is found anew on another photograph. */
export const ROLES = [
  ['person', 'Person'],
  ['faceSkin', 'Face skin'],
  ['bodySkin', 'Body skin'],
  ['hair', 'Hair'],
  ['garment', 'Garment'],
  ['lips', 'Lips'],
  ['teeth', 'Teeth'],
  ['eyes', 'Eyes'],
  ['eyeWhites', 'Whites of the eyes'],
  ['iris', 'Iris'],
  ['brows', 'Brows'],
  ['backdrop', 'Backdrop'],
  ['sky', 'Sky'],
  ['object', 'Main object'],
] as const;
export type Role = (typeof ROLES)[number][0];

export const roleName = (role: Role): string => ROLES.find(([id]) => id === role)![1];

/** What owns a mask: a layer, or a region. */
export interface MaskOwner {
  id: string;
  name: string;
  where: Mask;
}

export interface Region extends MaskOwner {
  role?: Role;
}

export const REGIONS = 100;

export const regionSchema = Type.Object(
  {
    id: Type.String({ minLength: 1, maxLength: 40, pattern: '^[A-Za-z0-9_-]+$' }),
    name: Type.String({ minLength: 1, maxLength: 120 }),
    role: Type.Optional(Type.Union(ROLES.map(([id]) => Type.Literal(id)))),
    where: Type.Unsafe<Mask>({ $ref: '#/$defs/mask' }),
  },
  { additionalProperties: false },
);

export function fitRegions(regions: Region[], fit: Fit): void {
  for (const { where } of regions) fitMask(where, fit);
}
