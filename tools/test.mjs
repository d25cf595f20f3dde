/** `npm test`: from a fresh clone to one line of results. Lint, types, then all tests. */
import { spawn, spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { buildApplication, installPackages, installSystemPackages, root } from './prepare.mjs';

process.chdir(root);
const results = 'test-results/vitest.json';
const env = { ...process.env, NEXT_TELEMETRY_DISABLED: '1' };
const run = (...args) => spawnSync(process.execPath, args, { stdio: 'inherit', env }).status === 0;
const begin = (...args) =>
  new Promise((done) => spawn(process.execPath, args, { stdio: 'inherit', env }).once('exit', (status) => done(status === 0)));

let failedStages = 0;
let report = null;
try {
  installSystemPackages(['mariadb-server', 'chromium', 'ffmpeg']);
  installPackages();
  buildApplication({ web: true });
  const stages = await Promise.all([begin('node_modules/eslint/bin/eslint.js', '.', '--max-warnings', '0'), begin('tools/typecheck.mjs')]);
  failedStages += stages.filter((passed) => !passed).length;
  mkdirSync('test-results', { recursive: true });
  rmSync(results, { force: true });
  run(
    'node_modules/vitest/vitest.mjs',
    'run',
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${results}`,
    ...process.argv.slice(2),
  );
  report = JSON.parse(readFileSync(results, 'utf8'));
} catch (error) {
  console.error(error.message);
  failedStages++;
}
// A file that could not even be loaded has no results of its own.
const unloaded = report
  ? report.testResults.filter((file) => file.status === 'failed' && file.assertionResults.every(({ status }) => status !== 'failed')).length
  : 0;
const passed = report?.numPassedTests ?? 0;
const failed = (report?.numFailedTests ?? 0) + unloaded + failedStages;
console.log(`${passed} passed, ${failed} failed, ${report?.numPendingTests ?? 0} skipped`);
process.exit(failed === 0 && passed > 0 ? 0 : 1);
