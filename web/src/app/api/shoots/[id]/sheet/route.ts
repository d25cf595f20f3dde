import { findShoot, sheetPdf, sheetPicture } from '@umbo/data';
import { handler, number } from '@/http/handler';
import { db } from '@/http/server';

/** Photographs on a sheet, in the order in which they are named: `of=1,2,3`, `as=pdf` or `as=picture`. */
export const GET = handler<{ id: string }>(
  async (request, { id }) => {
    const query = new URL(request.url).searchParams;
    const ids = (query.get('of') ?? '').split(',').map(number);
    const isPdf = query.get('as') !== 'picture';
    const { name } = await findShoot(number(id));
    const body = await (isPdf ? sheetPdf : sheetPicture)(db(), number(id), ids);
    return new Response(new Uint8Array(body), {
      headers: {
        'Content-Type': isPdf ? 'application/pdf' : 'image/jpeg',
        'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`${name}.${isPdf ? 'pdf' : 'jpg'}`)}`,
        'Cache-Control': 'private, no-store',
      },
    });
  },
  { patient: true },
);
