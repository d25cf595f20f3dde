import { removePreset } from '@umbo/data';
import { handler, number } from '@/http/handler';
import { db } from '@/http/server';

export const DELETE = handler<{ id: string }>((_request, { id }) => removePreset(db(), number(id)));
