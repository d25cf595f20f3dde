/** The starting tools: plain sentences for what is wrong, and a database that comes back where it was. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect, it } from 'vitest';
import { mariadb } from '../tools/mariadb.mjs';

const root = fileURLToPath(new URL('..', import.meta.url));
const start = (env: Record<string, string>) =>
  spawnSync(process.execPath, ['tools/start.mjs'], { cwd: root, env: { ...process.env, ...env }, encoding: 'utf8', timeout: 120_000 });

it('npm start says what is wrong with its settings', () => {
  for (const [env, words] of [
    [{ UMBO_PORT: 'abc' }, /UMBO_PORT is "abc"; it must be a port number/],
    [{ UMBO_PORT: '70000' }, /must be a port number/],
    [{ UMBO_DATABASE_URL: 'postgres://x' }, /must look like mysql:/],
  ] as const) {
    const { status, stderr } = start(env as Record<string, string>);
    expect(status).toBe(1);
    expect(stderr).toMatch(words);
    expect(stderr).not.toMatch(/at .*\.mjs/);
  }
});

it('the database keeps its port over a crash, is found when it runs, and is never set up over existing data', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'umbo-db-'));
  const database = mariadb(folder);
  try {
    const url = await database.start();
    const first = database.pid()!;
    expect(await mariadb(folder).start()).toBe(url);
    expect(database.pid()).toBe(first);
    process.kill(first, 'SIGKILL');
    await expect.poll(() => database.pid()).toBeNull();
    expect(await database.start()).toBe(url);
    expect(database.pid()).not.toBe(first);
    await database.stop();
    expect(database.pid()).toBeNull();
    rmSync(join(folder, 'database.json'));
    await expect(database.start()).rejects.toThrow(/Put the file back, or move the folder away/);
  } finally {
    await database.stop();
    rmSync(folder, { recursive: true, force: true });
  }
});
