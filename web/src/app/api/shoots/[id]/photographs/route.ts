import { importPhotograph, Problem } from '@umbo/data';
import { handler, number } from '@/http/handler';
import { receiveFile } from '@/http/receive';
import { cache, db } from '@/http/server';

/** Imports one file: the body is the file itself, its name is in the query, and `as=mask` for one that serves as a mask only. */
export const POST = handler<{ id: string }>(async (request, { id }) => {
  const query = new URL(request.url).searchParams;
  const name = query.get('name')?.split(/[/\\]/).pop()?.trim() ?? '';
  if (name.length < 1 || name.length > 255) throw new Problem('invalid', 'The file needs a name of at most 255 characters.');
  const shootId = number(id);
  const photograph = await receiveFile(request, (path) =>
    importPhotograph(db(), cache(), shootId, name, path, request.signal, query.get('as') === 'mask'),
  );
  return { id: photograph.id, name, width: photograph.width, height: photograph.height };
});
