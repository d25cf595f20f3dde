/** `npm test`: from a fresh clone to one line of results. Lint, types, then all tests. With arguments: the tests that they name, only. */
import { spawn } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { buildApplication, installPackages, installSystemPackages, root } from './prepare.mjs';

process.chdir(root);
const results = 'test-results';
const env = { ...process.env, NEXT_TELEMETRY_DISABLED: '1' };
const run = (...args) =>
  new Promise((done) => spawn(process.execPath, args, { stdio: 'inherit', env }).once('exit', (status) => done(status === 0)));

const counts = { passed: 0, failed: 0, skipped: 0 };
/** What failed, said once more at the end: a long output is often kept only in part. */
const failures = [];
const stage = async (...args) => {
  if (await run(...args)) return;
  counts.failed++;
  failures.push(args.join(' '));
};
/** Runs tests and counts them by their report, which is more certain than an exit code. */
const tests = async (name, ...args) => {
  const file = `${results}/${name}.json`;
  const ended = await run(
    'node_modules/vitest/vitest.mjs',
    'run',
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${file}`,
    ...args,
  );
  const { testResults, ...report } = JSON.parse(readFileSync(file, 'utf8'));
  const failed = [];
  for (const { name: path, status, message, assertionResults } of testResults) {
    const broken = assertionResults.filter((one) => one.status === 'failed');
    for (const { fullName, failureMessages } of broken) failed.push(`${path}: ${fullName}\n${failureMessages.join('\n')}`);
    // A file that could not even be loaded has no results of its own.
    if (status === 'failed' && broken.length === 0) failed.push(`${path}\n${message}`);
  }
  if (failed.length === 0 && !ended) failed.push(`${name}: the tests pass, and yet their process ended in failure`);
  failures.push(...failed);
  counts.passed += report.numPassedTests;
  counts.failed += failed.length;
  counts.skipped += report.numPendingTests;
};

/** The build writes types of the pages' addresses, which are checked with all others. */
async function buildAndCheck() {
  await buildApplication({ web: true });
  await stage('tools/typecheck.mjs');
  await stage('node_modules/eslint/bin/eslint.js', '.', '--max-warnings', '0');
  const rooms = ['core', 'data', 'files', 'find', 'kernels', 'render', 'web'].map((one) => `${one}/src`);
  await stage('node_modules/dependency-cruiser/bin/dependency-cruise.mjs', ...rooms);
}

/** The files of one of two lanes, which take as long as all others: each lane has an application of its own, and waits for it now and then. */
const LONG = ['keeping', 'masks', 'what', 'regions', 'crash', 'desk'];

try {
  await installSystemPackages(['mariadb-server', 'chromium-headless-shell', 'ffmpeg', 'libimage-exiftool-perl', 'poppler-utils', 'unzip']);
  await installPackages();
  await buildApplication({ web: false });
  rmSync(results, { recursive: true, force: true });
  mkdirSync(results, { recursive: true });
  const named = process.argv.slice(2);
  if (named.length > 0) {
    await buildApplication({ web: true });
    await tests('named', ...named);
  } else {
    const [built] = await Promise.allSettled([buildAndCheck(), tests('core', '--project', 'unit', '--project', 'server')]);
    if (built.status === 'rejected') throw built.reason;
    const files = readdirSync('e2e').filter((name) => name.endsWith('.e2e.ts'));
    const lane = (isLong) => files.filter((name) => LONG.some((one) => name === `${one}.e2e.ts`) === isLong).map((name) => `e2e/${name}`);
    await Promise.all([
      tests('interface-1', '--project', 'interface', ...lane(true)),
      tests('interface-2', '--project', 'interface', ...lane(false)),
    ]);
  }
} catch (error) {
  counts.failed++;
  failures.push(error.message);
}
for (const failure of failures) console.error(`FAILED ${failure.slice(0, 2000)}`);
const { passed, failed, skipped } = counts;
console.log(`${passed} passed, ${failed} failed, ${skipped} skipped`);
process.exit(failed === 0 && passed > 0 ? 0 : 1);
