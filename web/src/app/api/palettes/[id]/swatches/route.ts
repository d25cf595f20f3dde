import { addSwatch } from '@umbo/data';
import { handler, number, onceUnder, readJson } from '@/http/handler';
import { swatchBody } from '@/http/schemas';
import { db } from '@/http/server';

export const POST = handler<{ id: string }>(async (request, { id }) => {
  const { key, ...swatch } = await readJson(request, swatchBody);
  return addSwatch(db(), onceUnder('swatch', key), number(id), swatch);
});
