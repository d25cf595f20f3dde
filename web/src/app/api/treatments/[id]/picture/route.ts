import { readTreatmentPicture } from '@umbo/data';
import { handler } from '@/http/handler';

/** The photograph that the newest version was made on; asked for with that version, so that it can be kept. */
export const GET = handler<{ id: string }>(
  async (_request, { id }) =>
    new Response(new Uint8Array(await readTreatmentPicture(id)), {
      headers: { 'Content-Type': 'image/jpeg', 'Cache-Control': 'private, max-age=86400' },
    }),
);
