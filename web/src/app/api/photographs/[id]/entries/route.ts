import { readEntries } from '@umbo/data';
import { handler, number } from '@/http/handler';

export const GET = handler<{ id: string }>(async (request, { id }) => {
  const query = new URL(request.url).searchParams;
  return readEntries(number(id), number(query.get('from')), number(query.get('to')));
});
