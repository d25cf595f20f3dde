'use client';

/** A problem response of the server (RFC 9457), as an error whose message is a sentence for people. */
export class RequestProblem extends Error {
  readonly status: number;
  readonly details: Record<string, unknown>;
  constructor(status: number, message: string, details: Record<string, unknown> = {}) {
    super(message);
    this.name = 'RequestProblem';
    this.status = status;
    this.details = details;
  }
}

/** A server that has not answered by then is as good as away. */
const PATIENCE_MS = 20_000;

interface Options {
  /** Goes on when the page is closed. */
  keepalive?: boolean;
}

/**
 * @param body a file, or what is sent as JSON
 * @throws RequestProblem; status 0 when the server cannot be reached or does not answer
 */
export async function request<T>(
  method: 'GET' | 'POST' | 'PATCH' | 'DELETE',
  path: string,
  body?: unknown,
  { keepalive = false }: Options = {},
): Promise<T> {
  let response: Response;
  let value: unknown;
  const signal = AbortSignal.timeout(PATIENCE_MS);
  try {
    response = await fetch(path, {
      method,
      keepalive,
      signal,
      ...(body === undefined
        ? {}
        : body instanceof Blob
          ? { body, headers: { 'Content-Type': 'application/octet-stream' } }
          : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
    });
    value = await response.json().catch(() => {
      signal.throwIfAborted();
      return null;
    });
  } catch {
    throw new RequestProblem(0, signal.aborted ? 'The server does not answer.' : 'The server cannot be reached.');
  }
  if (response.ok) return value as T;
  const problem = (value ?? {}) as { detail?: string };
  throw new RequestProblem(
    response.status,
    problem.detail ?? `The server answered with an error (${response.status}).`,
    problem as Record<string, unknown>,
  );
}

/** Has something made: under a key, so that it is made once also when the answer is lost and it is asked for again. */
export async function requestOnce<T>(path: string, body: object): Promise<T> {
  const keyed = { key: crypto.randomUUID(), ...body };
  try {
    return await request<T>('POST', path, keyed);
  } catch (error) {
    if (!(error instanceof RequestProblem) || error.status !== 0) throw error;
    return request<T>('POST', path, keyed);
  }
}
