import { removePalette, renamePalette } from '@umbo/data';
import { handler, number, readJson } from '@/http/handler';
import { nameBody } from '@/http/schemas';

type Params = { id: string };

export const PATCH = handler<Params>(async (request, { id }) => renamePalette(number(id), (await readJson(request, nameBody)).name));

export const DELETE = handler<Params>((_request, { id }) => removePalette(number(id)));
