import { readTrialPicture } from '@umbo/data';
import { handler, number } from '@/http/handler';
import { db } from '@/http/server';

/** What would come of one photograph of a trial, as a small JPEG. */
export const GET = handler<{ job: string }>(
  async (_request, { job }) =>
    new Response(new Uint8Array(await readTrialPicture(db(), number(job))), {
      headers: { 'Content-Type': 'image/jpeg', 'Cache-Control': 'private, max-age=86400, immutable' },
    }),
);
