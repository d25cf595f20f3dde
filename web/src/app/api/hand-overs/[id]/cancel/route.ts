import { cancelHandOver } from '@umbo/data';
import { handler, number } from '@/http/handler';

export const POST = handler<{ id: string }>((_request, { id }) => cancelHandOver(number(id)));
