import { letGoOf } from '@umbo/data';
import { handler, readJson } from '@/http/handler';
import { letGoBody } from '@/http/schemas';
import { db } from '@/http/server';

export const POST = handler<{ id: string }>(async (request, { id }) =>
  letGoOf(db(), id, (await readJson(request, letGoBody)).photographId),
);
