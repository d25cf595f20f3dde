import { removeHandOver } from '@umbo/data';
import { handler, number } from '@/http/handler';
import { db } from '@/http/server';

export const DELETE = handler<{ id: string }>((_request, { id }) => removeHandOver(db(), number(id)));
