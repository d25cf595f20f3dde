/** What was found on a photograph, as regions of its edit. */
import { everywhere } from './defaults.ts';
import type { FoundPart } from '../mask/parts/found.ts';
import { maskPartKind } from '../mask/registry.ts';
import { addRegions, type Recipe } from './edit.ts';
import { roleName, ROLES, type Region, type Role } from './region.ts';
import type { UmboDocument } from './types.ts';

/** A region that was found, and is kept. */
export interface FoundRegionFile {
  readonly role: Role;
  /** Of which of several people, from 0 on; null where there is one, or none. */
  readonly person: number | null;
  readonly sure: FoundPart['sure'];
  /** The SHA-256 of the file in which its mask is kept. */
  readonly sha256: string;
}

/** The part of a region that was found, if it has one. */
export const foundIn = ({ where }: Region): FoundPart | undefined => where.parts.find((part): part is FoundPart => part.kind === 'found');

/** A name that no region has: the wanted one, or with a number. */
export function freeRegionName({ regions = [] }: UmboDocument, wanted: string, taken: readonly string[] = []): string {
  const names = new Set([...regions.map(({ name }) => name), ...taken]);
  if (!names.has(wanted)) return wanted;
  for (let n = 2; ; n++) if (!names.has(`${wanted} ${n}`)) return `${wanted} ${n}`;
}

/** Several people are told apart by letters. */
const letter = (person: number): string => String.fromCharCode(65 + person);

const ORDER = ROLES.map(([role]) => role);
const rank = (region: Region): number => (region.role && foundIn(region) ? ORDER.indexOf(region.role) : -1);

/** Brings regions that were added last before those found ones whose roles come later: then the order is the same, whatever was found first. */
function inOrder(regions: Region[], added: number): void {
  for (const region of regions.splice(regions.length - added)) {
    const at = regions.findIndex((other) => rank(other) > rank(region));
    regions.splice(at < 0 ? regions.length : at, 0, region);
  }
}

/**
 * Adds what was found; a region of its role and name, or the only one of its role, is found again, and what uses it follows.
 * @param of the SHA-256 of the photograph it was found on
 * @param by what found it
 */
export function putFound(document: UmboDocument, found: readonly FoundRegionFile[], of: string, by: string, newId: () => string): Recipe {
  const taken: string[] = [];
  const alone = (role: Role): boolean => found.filter((one) => one.role === role).length === 1;
  const added: Region[] = [];
  const again: { id: string; part: FoundPart }[] = [];
  for (const { role, person, sure, sha256 } of found) {
    const wanted = person === null ? roleName(role) : `${roleName(role)} ${letter(person)}`;
    const part: FoundPart = {
      ...maskPartKind<FoundPart>('found').create(newId(), 'add', document.photo),
      photograph: sha256,
      of,
      by,
      sure,
    };
    const same = document.regions?.filter((region) => region.role === role && foundIn(region)) ?? [];
    const before = same.find(({ name }) => name === wanted) ?? (same.length === 1 && alone(role) ? same[0] : undefined);
    if (before) again.push({ id: before.id, part });
    else {
      const name = freeRegionName(document, wanted, taken);
      taken.push(name);
      added.push({ id: newId(), name, role, where: { ...everywhere(), parts: [part] } });
    }
  }
  return (draft) => {
    const before = draft.regions?.length ?? 0;
    addRegions(added)(draft);
    if (draft.regions) inOrder(draft.regions, draft.regions.length - before);
    for (const { id, part } of again) {
      const region = draft.regions?.find((one) => one.id === id);
      const old = region && foundIn(region);
      if (old) Object.assign(old, { photograph: part.photograph, of: part.of, by: part.by, sure: part.sure });
    }
  };
}
