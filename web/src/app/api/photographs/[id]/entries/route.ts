import { readEntries } from '@umbo/data';
import { handler, number } from '@/http/handler';
import { db } from '@/http/server';

export const GET = handler<{ id: string }>(async (request, { id }) => {
  const query = new URL(request.url).searchParams;
  return readEntries(db(), number(id), number(query.get('from')), number(query.get('to')), number(query.get('revision')));
});
