import { readSince } from '@umbo/data';
import { handler, number } from '@/http/handler';
import { checked } from '@/http/check';
import { sinceQuery } from '@/http/schemas';
import { db } from '@/http/server';

/** The edit for a window that has a revision of it, and whether that is none of its history. */
export const GET = handler<{ id: string }>(async (request, { id }) => {
  const { searchParams } = new URL(request.url);
  const query = { base: Number(searchParams.get('base') ?? NaN), after: searchParams.get('after') || null };
  return readSince(db(), number(id), checked(query, sinceQuery));
});
