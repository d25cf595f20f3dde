/** The stages before anything can run: system packages, npm packages, build. Plain Node, shared by start and test. */
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { serverInstalled } from './mariadb.mjs';
import { endsWithStarter } from './processes.mjs';

export const root = fileURLToPath(new URL('..', import.meta.url));
const stamps = join(root, 'node_modules', '.umbo');

async function run(command, args, env = {}) {
  const [program, its] = endsWithStarter(command, args);
  const child = spawn(program, its, { cwd: root, stdio: 'inherit', env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', ...env } });
  const [status] = await once(child, 'exit');
  if (status !== 0) throw new Error(`This failed: ${command} ${args.join(' ')}`);
}

/** Chromium without a window, and without what a window costs where there is no graphics card. */
export const chromium = process.env.UMBO_CHROMIUM ?? '/usr/bin/chromium-headless-shell';
const present = {
  'mariadb-server': serverInstalled,
  'chromium-headless-shell': () => existsSync(chromium),
  ffmpeg: () => existsSync('/usr/bin/ffmpeg'),
  'libimage-exiftool-perl': () => existsSync('/usr/bin/exiftool'),
  'poppler-utils': () => existsSync('/usr/bin/pdftotext'),
  unzip: () => existsSync('/usr/bin/unzip'),
};

/** Installs Debian packages that are missing, when allowed to. @throws Error with the command to run otherwise */
export async function installSystemPackages(names) {
  const missing = names.filter((name) => !present[name]());
  if (missing.length === 0) return;
  const apt = existsSync('/usr/bin/apt-get');
  if (!apt || process.getuid?.() !== 0)
    throw new Error(`Missing: ${missing.join(', ')}. Install with: sudo apt-get install ${missing.join(' ')}`);
  const env = { DEBIAN_FRONTEND: 'noninteractive' };
  await run('apt-get', ['-o', 'DPkg::Lock::Timeout=300', 'update'], env);
  // One at a time: one that cannot be had must not keep the others away.
  for (const name of missing)
    await run('apt-get', ['-o', 'DPkg::Lock::Timeout=300', 'install', '-y', '--no-install-recommends', name], env);
}

function digest(...paths) {
  const hash = createHash('sha256');
  const walk = (path) => {
    if (!statSync(path).isDirectory()) hash.update(relative(root, path)).update(readFileSync(path));
    else
      for (const entry of readdirSync(path).sort())
        if (!['node_modules', '.next', 'next-env.d.ts'].includes(entry)) walk(join(path, entry));
  };
  for (const path of paths) walk(join(root, path));
  return hash.digest('hex');
}

/** Does `work` unless its product exists and the inputs are the ones it was made from. */
async function stage(name, inputs, product, work) {
  const stamp = join(stamps, name);
  const value = digest(...inputs);
  if (existsSync(join(root, product)) && existsSync(stamp) && readFileSync(stamp, 'utf8') === value) return;
  console.log(`umbo: ${name} …`);
  await work();
  mkdirSync(stamps, { recursive: true });
  writeFileSync(stamp, value);
}

export async function installPackages() {
  // Install scripts are not needed by any package here, and none may fetch anything.
  await stage('npm packages', ['package-lock.json'], 'node_modules/next/package.json', () =>
    run('npm', ['ci', '--include=dev', '--ignore-scripts', '--no-audit', '--no-fund']),
  );
}

export async function buildApplication({ web }) {
  await stage('kernels', ['kernels/assembly', 'tools/kernels.mjs', 'package-lock.json'], 'kernels/src/wasm.gen.ts', () =>
    run(process.execPath, ['tools/kernels.mjs']),
  );
  await stage('ink table', ['tools/inks.mjs', 'package-lock.json'], 'core/src/colour/inks.gen.ts', () =>
    run(process.execPath, ['tools/inks.mjs']),
  );
  await stage('models', ['tools/models.mjs', 'find/NOTICE.md', 'package-lock.json'], 'dist/models/NOTICE.md', () =>
    run(process.execPath, ['tools/models.mjs']),
  );
  await stage(
    'render process',
    [
      'core/src',
      'data/src',
      'files/src',
      'find/src',
      'kernels/src',
      'render/src',
      'demo/setup.ts',
      'demo/finishedEdit.ts',
      'tools/build.mjs',
      'package-lock.json',
    ],
    'dist/render.js',
    () => run(process.execPath, ['tools/build.mjs']),
  );
  if (web)
    await stage(
      'web application',
      [
        'core/src',
        'data/src',
        'files/src',
        'find/src',
        'kernels/src',
        'web/src',
        'web/next.config.ts',
        'web/package.json',
        'web/tsconfig.json',
        'package-lock.json',
      ],
      'web/.next/BUILD_ID',
      () => run(process.execPath, ['node_modules/next/dist/bin/next', 'build', 'web'], { NODE_ENV: 'production' }),
    );
}
