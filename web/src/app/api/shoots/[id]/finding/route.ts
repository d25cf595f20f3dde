import { listFinding, queueFinding, stopFinding } from '@umbo/data';
import { handler, number, readJson } from '@/http/handler';
import { findingBody } from '@/http/schemas';
import { db } from '@/http/server';

type Params = { id: string };

export const GET = handler<Params>((_request, { id }) => listFinding(db(), number(id)));

export const POST = handler<Params>(async (request, { id }) => {
  const { key, photographs } = await readJson(request, findingBody);
  await queueFinding(db(), `find-${key}`, number(id), photographs);
});

export const DELETE = handler<Params>((_request, { id }) => stopFinding(db(), number(id)));
