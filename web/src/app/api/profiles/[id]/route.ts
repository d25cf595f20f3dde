import { removeProfile } from '@umbo/data';
import { handler, number } from '@/http/handler';

export const DELETE = handler<{ id: string }>((_request, { id }) => removeProfile(number(id)));
