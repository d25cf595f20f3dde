/** What is found, and how sure it is. */
import type { Plane } from './picture.ts';

/** What a region is of. */
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

export type Sureness = 'sure' | 'check the edge' | 'rough start';

export interface FoundRegion {
  readonly role: Role;
  /** Of which of several people, from 0 on; null where there is one, or none. */
  readonly person: number | null;
  readonly mask: Plane;
  readonly sure: Sureness;
}

/** Is told the share that is done; what waits for it can let others run, or throw to end the work. */
export type Progress = (share: number) => Promise<void>;
