import 'server-only';
import { type SpaceId, Problem } from '@umbo/core/base';
import { spaceIds } from '@umbo/core/colour';

/** A space that an address names; undefined where it names none. @throws Problem 'invalid' for one that there is none of */
export function spaceIn(query: URLSearchParams, key: string): SpaceId | undefined {
  const name = query.get(key) ?? undefined;
  const id = spaceIds.find((one) => one === name);
  if (name !== undefined && !id) throw new Problem('invalid', 'There is no such colour space.');
  return id;
}
