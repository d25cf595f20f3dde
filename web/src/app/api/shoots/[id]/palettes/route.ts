import { createPalette, listPalettes } from '@umbo/data';
import { handler, number, onceUnder, readJson } from '@/http/handler';
import { paletteBody } from '@/http/schemas';
import { db } from '@/http/server';

type Params = { id: string };

export const GET = handler<Params>((_request, { id }) => listPalettes(number(id)));

export const POST = handler<Params>(async (request, { id }) => {
  const { key, name, swatches } = await readJson(request, paletteBody);
  return createPalette(db(), onceUnder('palette', key), number(id), name, swatches);
});
