/** Type-checks everything, as few programs as there are kinds of surroundings: servers, core, tests in and of the browser, pages, workers. */
import { spawnSync } from 'node:child_process';
import { root } from './prepare.mjs';

const projects = ['.', 'core', 'find', 'e2e', 'web', 'web/src/workers'];
// The native compiler takes a quarter of the time; linters still need the interface of the other one.
const failed = projects.filter(
  (project) =>
    spawnSync(process.execPath, ['node_modules/typescript-native/bin/tsc', '-p', `${project}/tsconfig.json`], {
      cwd: root,
      stdio: 'inherit',
    }).status !== 0,
);
if (failed.length > 0) {
  console.error(`Types do not hold in: ${failed.join(', ')}`);
  process.exit(1);
}
