/** Threads that take tasks: in their order, ended at any time, and replaced when they die. */
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { afterAll, expect, it } from 'vitest';
import { createPool } from '../src/pool.ts';
import type { Answer, Task } from '../src/tasks.ts';

const folder = mkdtempSync(join(tmpdir(), 'umbo-pool-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** A pool whose threads wait, fail or die as they are told. */
function poolOf(size: number, text: string): { run: (task: object, how?: object) => Promise<Answer>; close: () => Promise<void> } {
  const file = join(folder, `thread-${text.length}.mjs`);
  writeFileSync(file, text);
  const { run, close } = createPool(size, pathToFileURL(file));
  return { run: (task, how) => run(task as Task, how), close };
}
const OBEDIENT = `export default ({ n, ms = 20, die, fail }) => {
  if (die) process.exit(7);
  for (const until = Date.now() + ms; Date.now() < until; );
  return fail ? { error: { name: fail, message: 'told to' } } : { answer: n };
}`;

it('what goes last waits for all others; within either, first come, first served', async () => {
  const pool = poolOf(1, OBEDIENT);
  await pool.run({ n: 'up' });
  const order: unknown[] = [];
  const { signal } = new AbortController();
  const ask = (n: string, last: boolean) => pool.run({ n }, { last, signal }).then((answer) => order.push(answer));
  await Promise.all([ask('a', true), ask('b', true), ask('c', false), ask('d', true), ask('e', false)]);
  expect(order).toEqual(['a', 'c', 'e', 'b', 'd']); // the first was taken before another was there
  await pool.close();
});

it('a task is ended while it runs or waits, with the reason; one that fails or takes its thread with it does so alone', async () => {
  const pool = poolOf(1, OBEDIENT);
  const [running, waiting] = [new AbortController(), new AbortController()];
  const long = pool.run({ ms: 600_000 }, { signal: running.signal });
  const behind = pool.run({ n: 1 }, { signal: waiting.signal });
  const next = pool.run({ n: 'next' });
  waiting.abort(new Error('not wanted'));
  await expect(behind).rejects.toThrow('not wanted');
  running.abort(new Error('called off'));
  await expect(long).rejects.toThrow('called off');
  expect(await next).toBe('next');
  await expect(pool.run({ fail: 'PixelsGone' })).rejects.toMatchObject({ name: 'PixelsGone', message: 'told to' });
  await expect(pool.run({ die: true })).rejects.toThrow();
  expect(await pool.run({ n: 'goes on' })).toBe('goes on');
  await pool.close();
});

it('threads that cannot come up fail what they are asked, and are not begun again and again', async () => {
  const begun = join(folder, 'begun');
  const pool = poolOf(
    2,
    `import { appendFileSync } from 'node:fs'; appendFileSync(${JSON.stringify(begun)}, 'x'); throw new Error('cannot begin');`,
  );
  await expect(pool.run({ n: 1 })).rejects.toThrow('cannot begin');
  await new Promise((done) => setTimeout(done, 1000));
  expect(readFileSync(begun, 'utf8').length).toBeLessThan(8);
  await pool.close();
});
