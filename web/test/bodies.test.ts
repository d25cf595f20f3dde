/** What comes in over HTTP is measured while it is read, and looked at before anything recursive is. */
import { describe, expect, it, vi } from 'vitest';
import { checked } from '../src/http/check';
import { parseJson, readBody } from '../src/http/json';
import { isForeign } from '../src/http/origin';
import { Type } from '@sinclair/typebox';

vi.mock('server-only', () => ({}));

const problem = async (work: () => unknown): Promise<{ kind: string; message: string }> => {
  try {
    await work();
  } catch (error) {
    return error as { kind: string; message: string };
  }
  throw new Error('It was taken');
};

/** A body that comes in pieces, without saying how long it is. */
function pieces(...texts: string[]): { request: Request; read: () => number } {
  let given = 0;
  const body = new ReadableStream<Uint8Array>({
    pull(controller) {
      const text = texts[given++];
      if (text === undefined) controller.close();
      else controller.enqueue(new TextEncoder().encode(text));
    },
  });
  const request = new Request('http://127.0.0.1/', { method: 'POST', body, duplex: 'half' } as RequestInit);
  return { request, read: () => given };
}

describe('a body', () => {
  it('is put together from its pieces, also where one cuts a character in two', async () => {
    const bytes = new TextEncoder().encode('{"name":"Größe"}');
    const cut = bytes.indexOf(0xc3) + 1;
    const body = new ReadableStream<Uint8Array>({
      start(controller) {
        controller.enqueue(bytes.slice(0, cut));
        controller.enqueue(bytes.slice(cut));
        controller.close();
      },
    });
    const request = new Request('http://127.0.0.1/', { method: 'POST', body, duplex: 'half' } as RequestInit);
    expect(parseJson(await readBody(request, 1000))).toEqual({ name: 'Größe' });
  });

  it('that says that it is too long is not read at all', async () => {
    const { request, read } = pieces('x');
    request.headers.set('content-length', '3000000');
    expect(await problem(() => readBody(request, 2e6))).toMatchObject({ kind: 'invalid', message: 'The request is larger than 2 MB.' });
    expect(read()).toBeLessThanOrEqual(1);
  });

  it('that says nothing, or too little, is read until it is too long', async () => {
    const { request, read } = pieces(...Array.from({ length: 50 }, () => 'x'.repeat(100)));
    request.headers.set('content-length', '10');
    expect((await problem(() => readBody(request, 1000))).message).toBe('The request is larger than 1 MB.');
    expect(read()).toBeLessThan(15);
  });

  it('without content is an empty text, and no JSON', async () => {
    const request = new Request('http://127.0.0.1/', { method: 'POST' });
    expect(await readBody(request, 10)).toBe('');
    expect((await problem(() => parseJson(''))).message).toBe('The request is not valid JSON.');
  });
});

describe('JSON', () => {
  const nested = (depth: number, open: string, close: string): string => open.repeat(depth) + '1' + close.repeat(depth);

  it('is taken as deep as a hundred and no deeper, whatever it is nested of', async () => {
    expect(parseJson(nested(100, '[', ']'))).toBeTruthy();
    expect(parseJson(nested(99, '{"a":', '}'))).toBeTruthy();
    for (const text of [nested(101, '[', ']'), nested(101, '{"a":', '}'), nested(51, '[{"a":', '}]'), '['.repeat(5_000_000)])
      expect((await problem(() => parseJson(text))).message).toBe('The request is nested more than 100 deep.');
  });

  it('counts brackets that stand for something, not those in texts', () => {
    const text = JSON.stringify({ note: '['.repeat(500), quoted: 'a "[[[" \\', path: 'C:\\' });
    expect(parseJson(text)).toEqual(JSON.parse(text));
    const wide = JSON.stringify(Array.from({ length: 5000 }, () => [{}]));
    expect(parseJson(wide)).toHaveLength(5000);
  });
});

describe('a request that does not fit its schema', () => {
  const schema = Type.Object(
    {
      name: Type.String({ minLength: 1, maxLength: 5, format: 'name' }),
      fileName: Type.Optional(Type.String({ format: 'fileName' })),
      ids: Type.Optional(Type.Array(Type.Integer(), { minItems: 1, maxItems: 2 })),
    },
    { additionalProperties: false },
  );
  it.each([
    [{}, 'The name is missing.'],
    [{ name: '' }, 'The name is empty.'],
    [{ name: 'longer than that' }, 'The name is longer than 5 characters.'],
    [{ name: ' \u200e ' }, 'The name needs something to see, without characters that cannot be seen.'],
    [{ name: 'a', fileName: '../a' }, 'The file name needs something to see, without slashes and characters that cannot be seen.'],
    [{ name: 'a', ids: [] }, 'The request names no ids.'],
    [{ name: 'a', ids: [1, 2, 3] }, 'The ids are more than 2.'],
    [{ name: 'a', more: 1 }, 'The request says “more”, which means nothing here.'],
  ])('%j is refused by a sentence', async (body, words) => {
    expect(await problem(() => checked(body, schema))).toMatchObject({ kind: 'invalid', message: words });
  });
  it('and one that does is taken as it is', () => {
    expect(checked({ name: 'Rust', ids: [1] }, schema)).toEqual({ name: 'Rust', ids: [1] });
  });
});

// Fetch Metadata Request Headers, section 2.3: what a browser says of where a request comes from.
it.each([
  ['cross-site', true],
  ['same-site', true],
  ['same-origin', false],
  ['none', false],
])('Sec-Fetch-Site: %s counts as foreign: %s', (site, foreign) => {
  expect(isForeign(new Headers({ 'sec-fetch-site': site }))).toBe(foreign);
});
