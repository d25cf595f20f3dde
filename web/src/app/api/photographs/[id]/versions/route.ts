import { randomUUID } from 'node:crypto';
import { keepVersion, listVersions } from '@umbo/data';
import { handler, number, readJson } from '@/http/handler';
import { nameBody } from '@/http/schemas';
import { db } from '@/http/server';

type Params = { id: string };

export const GET = handler<Params>((_request, { id }) => listVersions(number(id)));

export const POST = handler<Params>(async (request, { id }) =>
  keepVersion(db(), randomUUID(), number(id), (await readJson(request, nameBody)).name),
);
