/** The starting tools: plain sentences for what is wrong, nothing left behind, and a database that comes back where it was. */
import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { readFileSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import mysql from 'mysql2/promise';
import { afterAll, expect, it } from 'vitest';
import { freePort, mariadb } from '../tools/mariadb.mjs';

const root = fileURLToPath(new URL('..', import.meta.url));
const folders: string[] = [];
const newFolder = (): string => {
  folders.push(mkdtempSync(join(tmpdir(), 'umbo-start-')));
  return folders.at(-1)!;
};
afterAll(() => folders.forEach((folder) => rmSync(folder, { recursive: true, force: true })));

const settings = (env: Record<string, string>): NodeJS.ProcessEnv => ({ ...process.env, UMBO_DEMO: 'none', ...env });
const tryStart = (env: Record<string, string>) =>
  spawnSync(process.execPath, ['tools/start.mjs'], { cwd: root, env: settings(env), encoding: 'utf8', timeout: 120_000 });

/** A start that goes on until it says that it is ready. */
async function start(env: Record<string, string>): Promise<{ child: ChildProcess; said: () => string }> {
  const child = spawn(process.execPath, ['tools/start.mjs'], { cwd: root, env: settings(env), stdio: ['ignore', 'pipe', 'pipe'] });
  let said = '';
  for (const stream of [child.stdout!, child.stderr!]) stream.on('data', (text: Buffer) => (said += text.toString()));
  await expect.poll(() => said).toMatch(/ready at/);
  return { child, said: () => said };
}
/** Processes that work for a data folder. */
const workers = (folder: string): string[] =>
  spawnSync('pgrep', ['-a', '-f', `datadir=${folder}/|umbo-data=${folder}$`], { encoding: 'utf8' })
    .stdout.split('\n')
    .filter((line) => line !== '' && !line.includes('pgrep'));
const answers = (port: number): Promise<boolean> =>
  fetch(`http://127.0.0.1:${port}/api/shoots`).then(
    (response) => response.ok,
    () => false,
  );

it('npm start says what is wrong with its settings', async () => {
  const data = newFolder();
  const other = createServer((_, response) => response.writeHead(404).end());
  const taken = await new Promise<number>((done) => other.listen(0, '127.0.0.1', () => done((other.address() as { port: number }).port)));
  for (const [env, words] of [
    [{ UMBO_PORT: 'abc' }, /UMBO_PORT is "abc"; it must be a port number/],
    [{ UMBO_PORT: '70000' }, /must be a port number/],
    [{ UMBO_DATABASE_URL: 'postgres://x' }, /must look like mysql:/],
    [{ UMBO_PORT: String(taken), UMBO_DATA: data }, /is taken by another program. Set UMBO_PORT to another/],
  ] as const) {
    const { status, stderr } = tryStart(env as Record<string, string>);
    expect(status).toBe(1);
    expect(stderr).toMatch(words);
    expect(stderr).not.toMatch(/at .*\.mjs/);
  }
  expect(workers(data)).toEqual([]);
  other.close();
});

it('a second start leaves the first alone; whatever ends the first, nothing of it is left, and the next start works', async () => {
  const data = newFolder();
  const port = await freePort();
  const env = { UMBO_DATA: data, UMBO_PORT: String(port) };
  for (const signal of ['SIGKILL', 'SIGHUP', 'SIGINT', 'SIGTERM'] as const) {
    const { child, said } = await start(env);
    if (signal === 'SIGKILL') {
      for (const more of [{}, { UMBO_PORT: String(await freePort()) }]) {
        const { status, stderr } = tryStart({ ...env, ...more });
        expect(status).toBe(1);
        expect(stderr).toContain(`already at http://127.0.0.1:${port} (process ${child.pid})`);
      }
      expect(await answers(port)).toBe(true);
      expect(workers(data).length).toBeGreaterThan(0);
      // What dies under it comes back.
      const [database] = workers(data);
      process.kill(Number(database!.split(' ')[0]), 'SIGKILL');
      await expect.poll(said).toMatch(/the database ended \(SIGKILL\); starting it again/);
      await expect.poll(() => answers(port)).toBe(true);
    }
    const ended = new Promise((done) => child.once('exit', done));
    child.kill(signal);
    await ended;
    await expect.poll(() => workers(data)).toEqual([]);
    await expect.poll(() => answers(port)).toBe(false);
  }
});

it('first starts that are killed at any moment can be started again', async () => {
  for (let i = 0; i < 4; i++) {
    const data = newFolder();
    const env = settings({ UMBO_DATA: data, UMBO_PORT: String(await freePort()) });
    const child = spawn(process.execPath, ['tools/start.mjs'], { cwd: root, env, stdio: 'ignore' });
    await sleep(900 + i * 700);
    child.kill('SIGKILL');
    await expect.poll(() => workers(data)).toEqual([]);
    const again = await start({ UMBO_DATA: data, UMBO_PORT: env.UMBO_PORT! });
    const ended = new Promise((done) => again.child.once('exit', done));
    again.child.kill('SIGTERM');
    await ended;
  }
});

it('the database keeps its port over a crash, lets nobody else in, and forgives a lost address', async () => {
  const folder = newFolder();
  const database = mariadb(folder);
  try {
    const url = await database.start();
    const first = database.pid()!;
    const { port } = new URL(url);
    const own = await mysql.createConnection(url);
    await own.query('CREATE TABLE kept (id INT)');
    const [rows] = await own.query('SHOW GRANTS');
    expect(JSON.stringify(rows)).not.toMatch(/FILE|SUPER|ALL PRIVILEGES ON \*/);
    await expect(own.query(`SELECT 'x' INTO OUTFILE '${folder}/out.txt'`)).rejects.toThrow();
    await own.end();
    for (const user of ['root', 'mysql', 'umbo', ''])
      await expect(mysql.createConnection({ host: '127.0.0.1', port: Number(port), user })).rejects.toThrow(/Access denied/);
    if (process.getuid?.() === 0) expect(readFileSync(`/proc/${first}/status`, 'utf8')).not.toMatch(/^Uid:\s+0/m);
    process.kill(first, 'SIGKILL');
    await expect.poll(() => database.pid()).toBeNull();
    expect(await database.start()).toBe(url);
    expect(database.pid()).not.toBe(first);
    await database.stop();
    expect(database.pid()).toBeNull();
    writeFileSync(join(folder, 'database.json'), '');
    const again = await mysql.createConnection(await database.start());
    expect((await again.query('SHOW TABLES'))[0]).toHaveLength(1);
    await again.end();
  } finally {
    await database.stop();
  }
});
