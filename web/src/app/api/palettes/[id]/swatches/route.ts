import { addSwatch } from '@umbo/data';
import { handler, number, readJson } from '@/http/handler';
import { swatchBody } from '@/http/schemas';

export const POST = handler<{ id: string }>(async (request, { id }) => addSwatch(number(id), await readJson(request, swatchBody)));
