import { setTimeout as sleep } from 'node:timers/promises';
import { queuePreview, readPreview } from '@umbo/data';
import { handler, number } from '@/http/handler';
import { db } from '@/http/server';

const WAIT_MS = 15_000;
const LOOK_EVERY_MS = 120;

/** A small JPEG of the edit. Made when it is asked for; while a newer one is rendered, the answer waits. */
export const GET = handler<{ id: string }>(async (request, { id }) => {
  const photographId = number(id);
  const revision = number(new URL(request.url).searchParams.get('revision'));
  const until = Date.now() + WAIT_MS;
  let preview = await readPreview(db(), photographId);
  if (!preview || preview.revision < revision) {
    await queuePreview(db(), photographId);
    while ((!preview || preview.revision < revision) && Date.now() < until && !request.signal.aborted) {
      await sleep(LOOK_EVERY_MS);
      preview = await readPreview(db(), photographId);
    }
  }
  if (!preview) return new Response(null, { status: 503, headers: { 'Retry-After': '2' } });
  const fresh = preview.revision >= revision;
  return new Response(new Uint8Array(preview.data), {
    headers: { 'Content-Type': 'image/jpeg', 'Cache-Control': fresh ? 'private, max-age=31536000, immutable' : 'no-store' },
  });
});
