import { namesOfBatch } from '@umbo/data';
import { handler, readJson } from '@/http/handler';
import { wishBody } from '@/http/schemas';

/** What the files would be called: nothing is asked for yet. */
export const POST = handler(async (request) => namesOfBatch(await readJson(request, wishBody)));
