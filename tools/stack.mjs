/** The running application: database, render process and web server on loopback. Shared by start, tests, benchmarks and screenshots. */
import { once } from 'node:events';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { isFree, mariadb } from './mariadb.mjs';
import { root } from './prepare.mjs';
import { startProcess, supervise, takeFolder } from './processes.mjs';

const STOP_MS = 8000;

/**
 * @param {object} options
 * @param {string} options.data folder for the database and the cache
 * @param {number} options.port of the web server
 * @param {string} [options.databaseUrl] a database server that runs already
 * @param {boolean} [options.demo] import the demo shoots
 * @param {boolean} [options.dev] Next's development server
 * @param {boolean} [options.quiet] keep the processes' output away
 */
export async function startStack({ data, port, databaseUrl, demo = true, dev = false, quiet = false }) {
  const base = `http://127.0.0.1:${port}`;
  mkdirSync(data, { recursive: true });
  const giveBack = takeFolder(data, { base });
  const say = (text) => quiet || console.error(text);
  const database = databaseUrl ? null : mariadb(data);
  const kept = [];
  const stop = async (one) => {
    const child = one.close();
    if (!child) return;
    const ended = new Promise((done) => child.once('exit', done));
    child.kill('SIGTERM');
    if ((await Promise.race([ended, sleep(STOP_MS, 'late', { ref: false })])) === 'late') child.kill('SIGKILL');
  };
  let databaseKept = null;
  const close = async () => {
    await Promise.all(kept.map(stop));
    databaseKept?.close();
    await database?.stop();
    giveBack();
  };
  try {
    if (!(await isFree(port))) throw new Error(`Port ${port} is taken by another program. Set UMBO_PORT to another.`);
    let url = databaseUrl;
    if (database) {
      const begin = async () => {
        url = await database.start();
        return database.process();
      };
      databaseKept = supervise('the database', begin, say);
      await databaseKept.run();
    }
    const env = {
      ...process.env,
      NODE_ENV: dev ? 'development' : 'production',
      NEXT_TELEMETRY_DISABLED: '1',
      DATABASE_URL: url,
      PORT: String(port),
      UMBO_CACHE: join(data, 'cache'),
      // Threads that decode and render would each keep what they freed: fewer arenas, a third less memory, and no slower.
      MALLOC_ARENA_MAX: process.env.MALLOC_ARENA_MAX ?? '2',
      ...(demo ? {} : { UMBO_DEMO: 'none' }),
    };
    const stdio = ['ignore', quiet ? 'ignore' : 'inherit', 'inherit'];
    mkdirSync(env.UMBO_CACHE, { recursive: true, mode: 0o700 });
    const setup = startProcess(process.execPath, ['dist/setup.js'], { cwd: root, env, stdio });
    const [status] = await once(setup, 'exit');
    if (status !== 0) throw new Error('The database could not be prepared; see above.');
    const keep = async (name, args) => {
      const one = supervise(
        name,
        async () => startProcess(process.execPath, [...args, `--umbo-data=${data}`], { cwd: root, env, stdio }),
        say,
      );
      kept.push(one);
      await one.run();
      return one;
    };
    const render = await keep('the render process', ['dist/render.js']);
    const web = await keep('the web server', ['web/server.mjs']);
    const answers = () =>
      fetch(base + '/icon.svg').then(
        (answer) => answer.ok,
        () => false,
      );
    for (let i = 0; !(await answers()); i++) {
      if (i > 600 || !web.pid()) throw new Error(`The application did not answer at ${base}; see above.`);
      await sleep(200);
    }
    const pids = { render, web };
    return { base, url, database, close, pid: (name) => pids[name].pid() };
  } catch (error) {
    await close();
    throw error;
  }
}
