import { databaseId, findPhotograph, readDocument, renamePhotograph } from '@umbo/data';
import { handler, number, readJson } from '@/http/handler';
import { fileNameBody } from '@/http/schemas';
import { db } from '@/http/server';

type Params = { id: string };

export const GET = handler<Params>(async (_request, { id }) => {
  const { name, width, height, bits, profile, state } = await findPhotograph(number(id));
  const [edit, database] = [await readDocument(db(), number(id)), await databaseId(db())];
  return { id: number(id), database, name, width, height, bits, profile, state, edit };
});

export const PATCH = handler<Params>(async (request, { id }) =>
  renamePhotograph(db(), number(id), (await readJson(request, fileNameBody)).name),
);
