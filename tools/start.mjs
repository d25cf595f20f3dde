/**
 * `npm start`: everything from a fresh clone to a running application, in plain Node.
 * Every stage is skipped when its product is there and its inputs have not changed.
 */
import { spawn, spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { mariadb } from './mariadb.mjs';
import { buildApplication, installPackages, installSystemPackages, root } from './prepare.mjs';

process.chdir(root);
const dev = process.argv.includes('--dev');
const port = process.env.UMBO_PORT ?? '4180';
const data = resolve(process.env.UMBO_DATA ?? '.data');
const ownDatabase = !process.env.UMBO_DATABASE_URL;

const say = (text) => console.log(`umbo: ${text}`);
const fail = (text) => {
  console.error(`umbo: ${text}`);
  process.exit(1);
};
if (!/^\d{1,5}$/.test(port) || Number(port) < 1 || Number(port) > 65535) fail(`UMBO_PORT is "${port}"; it must be a port number.`);

try {
  installSystemPackages(ownDatabase ? ['mariadb-server'] : []);
  installPackages();
  buildApplication({ web: !dev });
} catch (error) {
  fail(error.message);
}

const database = mariadb(data);
const children = [];
let closing = false;
async function close(code) {
  if (closing) return;
  closing = true;
  await Promise.all(
    children.map(async (child) => {
      if (child.exitCode !== null || child.signalCode) return;
      const ended = new Promise((done) => child.once('exit', done));
      child.kill('SIGTERM');
      if ((await Promise.race([ended, sleep(8000, 'late')])) === 'late') child.kill('SIGKILL');
    }),
  );
  if (ownDatabase) await database.stop();
  process.exit(code);
}
process.on('SIGINT', () => close(0));
process.on('SIGTERM', () => close(0));

try {
  const url = ownDatabase ? await database.start() : process.env.UMBO_DATABASE_URL;
  const env = {
    ...process.env,
    NODE_ENV: dev ? 'development' : 'production',
    NEXT_TELEMETRY_DISABLED: '1',
    DATABASE_URL: url,
    UMBO_CACHE: join(data, 'cache'),
  };
  const setup = spawnSync(process.execPath, ['dist/setup.js'], { env, stdio: 'inherit' });
  if (setup.status !== 0) throw new Error('The database could not be prepared; see above.');
  const base = `http://127.0.0.1:${port}`;
  const next = join('node_modules', 'next', 'dist', 'bin', 'next');
  // In process groups of their own, so that Ctrl-C reaches this process alone and the order of stopping is kept.
  const run = (...args) => {
    const child = spawn(process.execPath, args, { env, stdio: ['ignore', 'inherit', 'inherit'], detached: true });
    child.once('exit', (code) => {
      if (!closing) console.error(`umbo: ${args[0]} ended (${code}); stopping everything.`);
      void close(1);
    });
    children.push(child);
  };
  run('dist/render.js');
  run(next, dev ? 'dev' : 'start', 'web', '-H', '127.0.0.1', '-p', port);
  for (
    let i = 0;
    !(await fetch(base).then(
      (answer) => answer.ok,
      () => false,
    ));
    i++
  ) {
    if (i > 600) throw new Error(`The application did not answer at ${base}. Is the port taken? Set UMBO_PORT to another.`);
    await sleep(200);
  }
  if (!existsSync(join(data, 'cache'))) throw new Error('The cache folder could not be made.');
  say(`ready at ${base}  (Ctrl-C stops everything)`);
} catch (error) {
  console.error(`umbo: ${error.message}`);
  await close(1);
}
