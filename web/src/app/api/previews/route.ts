import { wantPreviews } from '@umbo/data';
import { handler, readJson } from '@/http/handler';
import { previewsBody } from '@/http/schemas';
import { db } from '@/http/server';

/** Says which of the wanted previews are there, and has the others made while they are asked for. */
export const POST = handler(async (request) => wantPreviews(db(), (await readJson(request, previewsBody)).wanted));
