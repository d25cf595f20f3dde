import { checkDocument } from '@umbo/data';
import { Type } from '@sinclair/typebox';
import { handler, readJson } from '@/http/handler';

const BODY_LIMIT = 32e6;

/** Says whether a file holds an edit that can be worked on: answers with the edit, or with what is wrong. */
export const POST = handler(async (request) => checkDocument(await readJson(request, Type.Any(), BODY_LIMIT)));
