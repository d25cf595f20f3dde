/** What comes in over HTTP is measured while it is read, and looked at before anything recursive is. */
import { describe, expect, it, vi } from 'vitest';
import { checked } from '../src/http/check';
import { parseJson, readBody } from '../src/http/json';
import { isForeign } from '../src/http/origin';
import { Type } from '@sinclair/typebox';
import { starters, treatmentFile } from '@umbo/core/treatment';
import type { CarriedTo, CarryOutcome } from '@umbo/data';
import { carriedWords, reachedOf, wordsOf } from '../src/carry/outcomes';
import { carryBody, treatmentBody, treatmentFileBody } from '../src/http/schemas';

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

describe('a wish to carry, or a treatment', () => {
  const choice = { layers: 'all', regions: false, readings: false, geometry: false };
  const wish = { key: 'k', from: { kind: 'treatment', id: 'even-skin' }, photographs: [1, 2], choice, how: 'replace', isTrial: true };
  const correction = { kind: 'correction', role: 'sky', name: 'Sky', lab: { l: 60, a: 0, b: -20 }, tolerance: 2, by: 'curves' };
  const file = { ...treatmentFile(starters[0]!) };

  it('says where it comes from, and nothing that means nothing here', async () => {
    expect(checked(wish, carryBody)).toEqual(wish);
    expect(checked({ ...wish, from: correction }, carryBody).from).toEqual(correction);
    for (const from of [
      { kind: 'elsewhere', id: 'x' },
      { kind: 'treatment', id: '../x' },
      { kind: 'photograph', id: 'x' },
      { ...correction, by: 'vignette' },
      { ...correction, role: 'tail' },
      { ...correction, lab: { l: 160, a: 0, b: 0 } },
      { ...correction, name: ' ' },
    ])
      expect((await problem(() => checked({ ...wish, from }, carryBody))).kind, JSON.stringify(from)).toBe('invalid');
    for (const odd of [{ isTrial: 1 }, { photographs: [] }, { choice: { ...choice, strength: 2 } }, { extra: true }])
      expect((await problem(() => checked({ ...wish, ...odd }, carryBody))).kind, JSON.stringify(odd)).toBe('invalid');
  });

  it('has a name that can be seen, and a file is of our format', async () => {
    expect(checked({ key: 'k', file }, treatmentFileBody).file.name).toBe('Colour a portrait');
    for (const odd of [
      { name: '\u202e' },
      { note: 'x'.repeat(2001) },
      { format: 'umbo-edit' },
      { version: 2 },
      { solve: ['a b'] },
      { more: 1 },
    ])
      expect((await problem(() => checked({ key: 'k', file: { ...file, ...odd } }, treatmentFileBody))).kind, JSON.stringify(odd)).toBe(
        'invalid',
      );
    const kept = { key: 'k', photographId: 1, layers: ['a'], solve: [], name: 'Evening', note: '', of: null };
    expect(checked(kept, treatmentBody)).toEqual(kept);
    expect((await problem(() => checked({ ...kept, layers: [] }, treatmentBody))).message).toBe('The request names no layers.');
    expect((await problem(() => checked({ ...kept, name: '' }, treatmentBody))).message).toBe('The name is empty.');
  });
});

describe('what came of a photograph', () => {
  const to = (more: Partial<CarriedTo>): CarriedTo => ({
    ...{
      jobId: 1,
      photographId: 1,
      name: 'a.jpg',
      revision: 1,
      state: 'done',
      progress: 1,
      error: null,
      outcome: null,
      isHere: true,
      waits: null,
    },
    ...more,
  });
  const lab = { l: 50, a: 0, b: 0 };
  const reached = {
    id: 'r',
    letter: 'A',
    name: 'Face',
    held: false,
    passes: false,
    before: 9.04,
    after: 3.14,
    was: lab,
    is: lab,
    aim: lab,
  };
  const outcome: CarryOutcome = {
    report: {
      masks: [{ id: 'm', name: 'Sky', before: 0.2, now: 0, words: 'catches nothing' }],
      clipped: { there: 0, was: 0, now: 0 },
      words: ['Dark.'],
    },
    ...{ changed: true, kept: ['Tone'], remarks: 4, settled: {}, found: null },
    answered: [{ layerId: 'l', name: 'Balance', problem: null, reached: [reached, { ...reached, id: 's', held: true, after: 0.2 }] }],
  };

  it('is said in sentences: masks, light, what is out of reach, what was kept; and in numbers', () => {
    expect(wordsOf(to({ outcome }))).toEqual([
      'Sky: catches nothing.',
      'Dark.',
      'Face is out of reach: still 3.1 ΔE00 off.',
      'Changed here as well, and kept: Tone.',
    ]);
    expect(reachedOf(to({ outcome }))).toEqual(['Face: ΔE00 9.0 → 3.1']);
    expect(wordsOf(to({ state: 'failed', error: 'No room.' }))).toEqual(['No room.']);
    expect(wordsOf(to({ outcome: { ...outcome, changed: false }, isHere: false })).at(-1)).toBe('Nothing was to be changed.');
    expect(wordsOf(to({ outcome: { ...outcome, changed: false }, isHere: false }), true)).not.toContain('Nothing was to be changed.');
    expect(carriedWords({ from: 'photograph', sourceName: 'a.jpg', photographs: 1 })).toBe('From a.jpg to one photograph');
    expect(carriedWords({ from: 'correction', sourceName: 'Sky brought together', photographs: 3 })).toBe(
      'Sky brought together on 3 photographs',
    );
  });
});
