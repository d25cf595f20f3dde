import { Problem } from '@umbo/core/base';
import { listHandOvers, removeHandOver } from '@umbo/data';
import { handler, number } from '@/http/handler';
import { db } from '@/http/server';

type Params = { id: string };

export const GET = handler<Params>(async (_request, { id }) => {
  const [found] = await listHandOvers(db(), { id: number(id) });
  if (!found) throw new Problem('not-found', 'This hand-over does not exist (any more).');
  return found;
});

export const DELETE = handler<Params>((_request, { id }) => removeHandOver(db(), number(id)));
