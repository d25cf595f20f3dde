import { Problem } from '@umbo/core/base';
import { databaseId, readPreview } from '@umbo/data';
import { handler, number } from '@/http/handler';
import { db } from '@/http/server';

/** A small JPEG of the edit, as it was at a revision or later. Never waits: what is not there is asked for at `/api/previews`. */
export const GET = handler<{ id: string }>(async (request, { id }) => {
  const query = new URL(request.url).searchParams;
  const revision = number(query.get('revision'));
  const preview = query.get('database') === (await databaseId(db())) ? await readPreview(db(), number(id)) : null;
  if (!preview || preview.revision < revision) throw new Problem('not-found', 'There is no such preview (yet).');
  return new Response(new Uint8Array(preview.data), {
    headers: { 'Content-Type': 'image/jpeg', 'Cache-Control': 'private, max-age=31536000, immutable' },
  });
});
