import { changeDocument, type Batch } from '@umbo/data';
import { handler, number, readJson } from '@/http/handler';
import { batchBody } from '@/http/schemas';
import { db } from '@/http/server';

const BODY_LIMIT = 32e6;

export const POST = handler<{ id: string }>(async (request, { id }) =>
  changeDocument(db(), number(id), (await readJson(request, batchBody, BODY_LIMIT)) as Batch),
);
