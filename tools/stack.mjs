/** The running application: database, render process and web server on loopback. Shared by start, tests, benchmarks and screenshots. */
import { spawn, spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { mariadb } from './mariadb.mjs';
import { root } from './prepare.mjs';

const STOP_MS = 8000;
const next = join(root, 'node_modules/next/dist/bin/next');

/**
 * @param {object} options
 * @param {string} options.data folder for the database and the cache
 * @param {number} options.port of the web server
 * @param {string} [options.databaseUrl] a database server that runs already
 * @param {boolean} [options.demo] import the demo shoots
 * @param {boolean} [options.dev] Next's development server
 * @param {boolean} [options.quiet] keep the processes' output away
 * @param {(name: string) => void} [options.onExit] told when a process ends by itself
 */
export async function startStack({ data, port, databaseUrl, demo = true, dev = false, quiet = false, onExit = () => undefined }) {
  const database = databaseUrl ? null : mariadb(data);
  const running = new Map();
  let closing = false;
  const url = databaseUrl ?? (await database.start());
  const env = {
    ...process.env,
    NODE_ENV: dev ? 'development' : 'production',
    NEXT_TELEMETRY_DISABLED: '1',
    DATABASE_URL: url,
    UMBO_CACHE: join(data, 'cache'),
    ...(demo ? {} : { UMBO_DEMO: 'none' }),
  };
  const base = `http://127.0.0.1:${port}`;
  const stdio = ['ignore', quiet ? 'ignore' : 'inherit', 'inherit'];

  // In a process group of its own, so that Ctrl-C reaches the starter alone and the order of stopping is kept.
  const run = (name, args) => {
    const child = spawn(process.execPath, args, { cwd: root, env, stdio, detached: true });
    child.once('exit', () => {
      if (running.get(name) === child) running.delete(name);
      if (!closing) onExit(name);
    });
    running.set(name, child);
  };
  const startRender = () => run('render', ['dist/render.js']);
  const startWeb = async () => {
    run('web', [next, dev ? 'dev' : 'start', 'web', '-H', '127.0.0.1', '-p', String(port)]);
    for (
      let i = 0;
      !(await fetch(base + '/icon.svg').then(
        (answer) => answer.ok,
        () => false,
      ));
      i++
    ) {
      if (i > 600 || !running.has('web'))
        throw new Error(`The application did not answer at ${base}. Is the port taken? Set UMBO_PORT to another.`);
      await sleep(200);
    }
  };
  const stop = async (name) => {
    const child = running.get(name);
    if (!child) return;
    const ended = new Promise((done) => child.once('exit', done));
    child.kill('SIGTERM');
    if ((await Promise.race([ended, sleep(STOP_MS, 'late')])) === 'late') child.kill('SIGKILL');
  };
  const close = async () => {
    closing = true;
    await Promise.all(['web', 'render'].map(stop));
    await database?.stop();
  };

  try {
    const setup = spawnSync(process.execPath, ['dist/setup.js'], { cwd: root, env, stdio });
    if (setup.status !== 0) throw new Error('The database could not be prepared; see above.');
    startRender();
    await startWeb();
  } catch (error) {
    await close();
    throw error;
  }
  return { base, url, database, close, startWeb, startRender, pid: (name) => running.get(name)?.pid };
}
