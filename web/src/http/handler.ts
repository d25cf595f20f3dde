import 'server-only';
import { randomUUID } from 'node:crypto';
import { setTimeout as sleep } from 'node:timers/promises';
import { Problem, type ProblemKind } from '@umbo/core/base';
import { databaseIsAway, databaseIsBusy, databaseIsFull, patiently } from '@umbo/data';
import type { Static, TSchema } from '@sinclair/typebox';
import { checked } from './check';
import { parseJson, readBody } from './json';
import { hostIsKnown, isForeign, isSameOrigin } from './origin';
import { db } from './server';

const STATUS: Record<ProblemKind, number> = { invalid: 400, 'not-found': 404, conflict: 409, refused: 422, later: 503 };

/** Answers that the database does not give by then are not waited for. */
const PATIENCE_MS = 18_000;

/** A problem response as RFC 9457 describes it. */
function problemResponse(status: number, kind: string, detail: string, more: Readonly<Record<string, unknown>> = {}): Response {
  return Response.json(
    { type: `/problems/${kind}`, title: kind, status, detail, ...more },
    { status, headers: { 'Content-Type': 'application/problem+json', ...(status === 503 && { 'Retry-After': '2' }) } },
  );
}

type Context<P> = { params: Promise<P> };

interface Options {
  /** For what takes as long as it takes: files on their way in and out. */
  patient?: boolean;
}

/**
 * Wraps the work of a route: checks where a request comes from and turns errors into problem responses.
 * The work returns a Response, or a value to send as JSON. Reading may be done again while the database is away.
 */
export function handler<P = object>(
  work: (request: Request, params: P) => Promise<unknown>,
  { patient = false }: Options = {},
): (request: Request, context: Context<P>) => Promise<Response> {
  return async (request, context) => {
    if (!hostIsKnown(request.headers)) return problemResponse(421, 'unknown-host', 'Umbo does not answer under this host name.');
    if (isForeign(request.headers)) return problemResponse(403, 'foreign-origin', 'Umbo answers its own pages only.');
    const reading = request.method === 'GET' || request.method === 'HEAD';
    if (!reading && !isSameOrigin(request.headers))
      return problemResponse(403, 'foreign-origin', 'Changes are accepted from the pages of this application only.');
    try {
      db(); // binds the models
      const params = await context.params;
      const working = reading ? patiently(() => work(request, params)) : work(request, params);
      const result = patient ? await working : await answerOf(working);
      return result instanceof Response ? result : Response.json(result ?? null);
    } catch (error) {
      return responseOf(error, request);
    }
  };
}

function responseOf(error: unknown, request: Request): Response {
  if (error instanceof Problem) return problemResponse(STATUS[error.kind], error.kind, error.message, error.details);
  if (request.signal.aborted) return problemResponse(499, 'cancelled', 'The request was cancelled.');
  const { message, code } = error as { message?: string; code?: string };
  if (databaseIsFull(error) || code === 'ENOSPC') {
    console.error(`umbo: the disk is full: ${message}`);
    return problemResponse(503, 'disk-full', 'The disk that Umbo keeps its data on is full. Nothing was changed; make room and try again.');
  }
  if (databaseIsAway(error)) {
    console.error(`umbo: the database cannot be reached: ${message}`);
    return problemResponse(503, 'database', 'The database cannot be reached. Nothing was changed.');
  }
  if (databaseIsBusy(error)) {
    console.error(`umbo: the database is busy: ${message}`);
    return problemResponse(503, 'database', 'The database is busy with something else. Nothing was changed; try again.');
  }
  console.error(error);
  return problemResponse(500, 'unexpected', 'Something went wrong on the server. Nothing was changed.');
}

/** @throws Problem 'later' when there is none in time; what was asked for may still happen */
async function answerOf<T>(working: Promise<T>): Promise<T> {
  const giveUp = new AbortController();
  working.catch(() => undefined);
  try {
    return await Promise.race([
      working,
      sleep(PATIENCE_MS, null, { signal: giveUp.signal }).then(() => {
        throw new Problem('later', 'The database does not answer at the moment.');
      }),
    ]);
  } finally {
    giveUp.abort();
  }
}

/** A positive number from a path or a query. @throws Problem 'not-found' */
export function number(text: string | null | undefined): number {
  if (!text || !/^\d{1,9}$/.test(text)) throw new Problem('not-found', 'There is nothing at this address.');
  return Number(text);
}

/** The name under which something is made once: by the sender's key, or by none, and then each request makes one. */
export const onceUnder = (what: string, key: string | undefined): string => `${what}-${key ?? randomUUID()}`;

/** The JSON body of a request, checked. @throws Problem 'invalid' with a sentence */
export async function readJson<T extends TSchema>(request: Request, schema: T, limit = 1 << 20): Promise<Static<T>> {
  return checked(parseJson(await readBody(request, limit)), schema);
}
