import { findCarry } from '@umbo/data';
import { handler } from '@/http/handler';

/** What goes along, as it was when it was asked for. */
export const GET = handler<{ id: string }>((_request, { id }) => findCarry(id));
