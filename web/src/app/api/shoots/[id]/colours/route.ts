import { colourFacts } from '@umbo/data';
import { handler, number } from '@/http/handler';
import { db } from '@/http/server';

/** What regions and readings are, on the photographs that `of` names, or on all of the shoot. */
export const GET = handler<{ id: string }>((request, { id }) => {
  const of = new URL(request.url).searchParams.get('of');
  return colourFacts(db(), number(id), of ? of.split(',').map(number) : []);
});
