/**
 * Documents of earlier versions. Version 1 named other photographs and masks by their number in one database (`photographId`), version 2
 * by the content of their files (`photograph`).
 */
import type { Patch } from './edit.ts';

/** The SHA-256 of a photograph's file by the number that the photograph has where the document comes from; undefined where it is gone. */
export type HashOf = (photographId: number) => string | undefined;

/**
 * A document of any version, or something else, as one of this version as far as that goes: what it is then is for the schema to say.
 * What is of this version stays the same object.
 * @example
 * upgradeDocument({ format: 'umbo-edit', version: 1, layers: [{ photographId: 7 }] }, (id) => `hash of ${id}`);
 * // → { format: 'umbo-edit', version: 2, layers: [{ photograph: 'hash of 7' }] }
 */
export function upgradeDocument(value: unknown, hashOf: HashOf): unknown {
  if (!isBag(value) || value.format !== 'umbo-edit' || value.version !== 1) return value;
  return { ...(named(value, hashOf) as object), version: 2 };
}

/** Patches on a document of version 1 as such on the document of this version. Others stay as they are. */
export const upgradePatches = (patches: readonly Patch[], hashOf: HashOf): Patch[] =>
  patches.map(({ op, path, value }) => {
    const isName = path.at(-1) === OLD_NAME;
    const changed = isName ? nameOf(value, hashOf) : named(value, hashOf);
    return { op, path: isName ? [...path.slice(0, -1), 'photograph'] : path, ...(op === 'remove' ? {} : { value: changed }) };
  });

const OLD_NAME = 'photographId';
const isBag = (value: unknown): value is Record<string, unknown> => typeof value === 'object' && value !== null && !Array.isArray(value);
const nameOf = (id: unknown, hashOf: HashOf): string => (typeof id === 'number' ? hashOf(id) : undefined) ?? '';

function named(value: unknown, hashOf: HashOf): unknown {
  if (Array.isArray(value)) return value.map((one) => named(one, hashOf));
  if (!isBag(value)) return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, one]) => (key === OLD_NAME ? ['photograph', nameOf(one, hashOf)] : [key, named(one, hashOf)])),
  );
}
