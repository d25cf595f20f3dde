import { readVersion, removeVersion, renameVersion } from '@umbo/data';
import { handler, number, readJson } from '@/http/handler';
import { nameBody } from '@/http/schemas';

type Params = { id: string };

export const GET = handler<Params>((_request, { id }) => readVersion(number(id)));

export const PATCH = handler<Params>(async (request, { id }) => renameVersion(number(id), (await readJson(request, nameBody)).name));

export const DELETE = handler<Params>((_request, { id }) => removeVersion(number(id)));
