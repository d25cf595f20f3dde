import { levelCount, levelSize } from '@umbo/core';
import { ensureLevels, findPhotograph, levelFile, Problem, readLevelRows } from '@umbo/data';
import { handler, number } from '@/http/handler';
import { cache, db } from '@/http/server';

/** Rows `from` to `to` of a pyramid level: 16-bit sRGB, interleaved, little-endian. */
export const GET = handler<{ id: string }>(async (request, { id }) => {
  const query = new URL(request.url).searchParams;
  const [level, from, to] = ['level', 'from', 'to'].map((key) => number(query.get(key))) as [number, number, number];
  const photograph = await findPhotograph(number(id));
  const size = levelSize(photograph, level);
  if (level >= levelCount(photograph) || from >= to || to > size.height) throw new Problem('not-found', 'The photograph has no such rows.');
  const sha256 = await ensureLevels(db(), cache(), photograph.assetId);
  const rows = await readLevelRows(levelFile(cache(), sha256, level), size.width, from, to);
  return new Response(rows, {
    headers: { 'Content-Type': 'application/octet-stream', 'Cache-Control': 'private, max-age=31536000, immutable' },
  });
});
