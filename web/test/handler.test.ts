/** What answers of the server say when something is wrong with the machine it runs on. */
import { expect, it, vi } from 'vitest';
import { handler } from '../src/http/handler';

vi.mock('server-only', () => ({}));
vi.mock('../src/http/server', () => ({ db: () => undefined }));

it.each([
  ['a write that finds no room', Object.assign(new Error('write'), { code: 'ENOSPC' }), 503, /^The disk .* is full/],
  ['a table that finds no room', { original: { code: 'ER_RECORD_FILE_FULL' } }, 503, /^The disk .* is full/],
  ['a mistake of ours', new Error('undefined is not a function'), 500, /went wrong on the server/],
])('%s is a problem response with a sentence', async (_, error, status, detail) => {
  vi.spyOn(console, 'error').mockImplementation(() => undefined);
  const headers = { host: '127.0.0.1:3000', origin: 'http://127.0.0.1:3000' };
  const request = new Request('http://127.0.0.1:3000/api/shoots', { method: 'POST', headers });
  const response = await handler(() => Promise.reject(error as Error))(request, { params: Promise.resolve({}) });
  expect(response.status).toBe(status);
  expect(response.headers.get('content-type')).toBe('application/problem+json');
  expect(await response.json()).toMatchObject({ status, detail: expect.stringMatching(detail) as string });
});
