import { randomUUID } from 'node:crypto';
import { addSwatch } from '@umbo/data';
import { handler, number, readJson } from '@/http/handler';
import { swatchBody } from '@/http/schemas';
import { db } from '@/http/server';

export const POST = handler<{ id: string }>(async (request, { id }) =>
  addSwatch(db(), randomUUID(), number(id), await readJson(request, swatchBody)),
);
