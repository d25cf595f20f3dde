import { sheetContent } from '@umbo/data';
import { sheetPdf, sheetPicture } from '@umbo/files';
import { handler, number } from '@/http/handler';
import { db } from '@/http/server';

/** Photographs on a sheet, in the order in which they are named: `of=1,2,3`, `as=pdf` or `as=picture`. */
export const GET = handler<{ id: string }>(
  async (request, { id }) => {
    const query = new URL(request.url).searchParams;
    const ids = (query.get('of') ?? '').split(',').map(number);
    const isPdf = query.get('as') !== 'picture';
    const { title, shown } = await sheetContent(db(), number(id), ids);
    const body = await (isPdf ? sheetPdf(title, shown) : sheetPicture(shown));
    return new Response(new Uint8Array(body), {
      headers: {
        'Content-Type': isPdf ? 'application/pdf' : 'image/jpeg',
        'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`${title}.${isPdf ? 'pdf' : 'jpg'}`)}`,
        'Cache-Control': 'private, no-store',
      },
    });
  },
  { patient: true },
);
