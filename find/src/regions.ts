/** What is found, and how sure it is. */
import type { Role } from '@umbo/core/document';
import type { Plane } from './picture.ts';

export type Sureness = 'sure' | 'check the edge' | 'rough start';

export interface FoundRegion {
  readonly role: Role;
  /** Of which of several people, from 0 on; null where there is one, or none. */
  readonly person: number | null;
  readonly mask: Plane;
  readonly sure: Sureness;
}

/** What is looked for; null: everything. What is not asked for is not searched, as far as nothing else needs it. */
export type Wanted = ReadonlySet<Role> | null;

/** Is given regions as soon as nothing more of the search changes them: all of a role together. */
export type Came = (regions: readonly FoundRegion[]) => Promise<void>;

/** Is told the share that is done; what waits for it can let others run, or throw to end the work. */
export type Progress = (share: number) => Promise<void>;
