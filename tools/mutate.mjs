/**
 * `npm run mutate [-- room ...] [-- --count n --seed n]`: how many small faults the tests notice. Changes the code of a room at places
 * drawn by chance, one at a time in a scratch copy, and runs the room's tests on each.
 */
import { spawn } from 'node:child_process';
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import ts from 'typescript';
import { root } from './prepare.mjs';

/** What is changed, and the tests that are to notice it. */
const ROOMS = {
  joins: {
    files: ['merge', 'joinLists', 'copyIds', 'together', 'checked', 'difference'].map((name) => `core/src/document/${name}.ts`),
    tests: ['core/test/document.test.ts', 'core/test/regions.test.ts', 'core/test/carry.test.ts'],
  },
  masks: {
    files: ['core/src/mask'],
    tests: ['core/test/mask.test.ts', 'core/test/where.test.ts', 'core/test/brackets.test.ts', 'core/test/growing.test.ts'],
  },
  render: {
    files: ['core/src/render'],
    tests: ['render', 'layers', 'backdrop', 'around', 'content', 'adjust', 'exposures'].map((name) => `core/test/${name}.test.ts`),
  },
  carry: { files: ['core/src/carry'], tests: ['core/test/carry.test.ts', 'core/test/treatments.test.ts'] },
  keeping: {
    files: ['keepState', 'joining', 'outbox', 'editing', 'keeper'].map((name) => `web/src/bench/keeping/${name}.ts`),
    tests: ['web/test/keeping'],
  },
};
const MUTANT_MS = 240_000;

const SWAPPED = new Map([
  [ts.SyntaxKind.LessThanToken, '<='],
  [ts.SyntaxKind.LessThanEqualsToken, '<'],
  [ts.SyntaxKind.GreaterThanToken, '>='],
  [ts.SyntaxKind.GreaterThanEqualsToken, '>'],
  [ts.SyntaxKind.EqualsEqualsEqualsToken, '!=='],
  [ts.SyntaxKind.ExclamationEqualsEqualsToken, '==='],
  [ts.SyntaxKind.AmpersandAmpersandToken, '||'],
  [ts.SyntaxKind.BarBarToken, '&&'],
  [ts.SyntaxKind.PlusToken, '-'],
  [ts.SyntaxKind.MinusToken, '+'],
  [ts.SyntaxKind.AsteriskToken, '/'],
  [ts.SyntaxKind.SlashToken, '*'],
]);

/** Every fault that can be put into a file: from where to where in its text, and what stands there then. */
function faultsIn(file) {
  const source = ts.createSourceFile(file, readFileSync(join(root, file), 'utf8'), ts.ScriptTarget.Latest, true);
  const faults = [];
  const add = (node, text) => faults.push({ file, from: node.getStart(), to: node.end, text, line: source.getLineAndCharacterOfPosition(node.getStart()).line + 1 }); // prettier-ignore
  const visit = (node) => {
    // Types do nothing, and words are for people.
    if (ts.isTypeNode(node) || ts.isInterfaceDeclaration(node) || ts.isTypeAliasDeclaration(node) || ts.isImportDeclaration(node)) return;
    if (ts.isBinaryExpression(node) && SWAPPED.has(node.operatorToken.kind)) add(node.operatorToken, SWAPPED.get(node.operatorToken.kind));
    else if (node.kind === ts.SyntaxKind.TrueKeyword) add(node, 'false');
    else if (node.kind === ts.SyntaxKind.FalseKeyword) add(node, 'true');
    else if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken) add(node, `(${node.operand.getText()})`);
    else if (ts.isConditionalExpression(node)) add(node.condition, `!(${node.condition.getText()})`);
    else if (ts.isIfStatement(node)) add(node.expression, `!(${node.expression.getText()})`);
    else if (ts.isExpressionStatement(node) && ts.isCallExpression(node.expression)) add(node, ';');
    ts.forEachChild(node, visit);
  };
  visit(source);
  return faults;
}

const filesOf = (path) =>
  path.endsWith('.ts')
    ? [path]
    : readdirSync(join(root, path), { recursive: true })
        .filter((name) => name.endsWith('.ts'))
        .map((name) => join(path, name));

/** Numbers 0..1 that are the same for the same seed (mulberry32). */
function numbersFrom(seed) {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
}

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { count: { type: 'string', default: '20' }, seed: { type: 'string', default: '1' } },
});
const rooms = positionals.length > 0 ? positionals : Object.keys(ROOMS);
const unknown = rooms.filter((room) => !(room in ROOMS));
if (unknown.length > 0) throw new Error(`There is no room ${unknown.join(', ')}; there are ${Object.keys(ROOMS).join(', ')}.`);

const copy = mkdtempSync(join(tmpdir(), 'umbo-mutate-'));
try {
  for (const name of ['core', 'data', 'files', 'kernels', 'find', 'web', 'demo', 'tools', 'dist'])
    cpSync(join(root, name), join(copy, name), { recursive: true, filter: (from) => !/\/(\.next|node_modules)(\/|$)/.test(from) });
  for (const name of ['package.json', 'vitest.config.ts', 'tsconfig.base.json', 'tsconfig.json'])
    cpSync(join(root, name), join(copy, name));
  // Packages of this repository are those of the copy, all others lie where they are.
  cpSync(join(root, 'node_modules/@umbo'), join(copy, 'node_modules/@umbo'), { recursive: true, verbatimSymlinks: true });
  for (const name of readdirSync(join(root, 'node_modules')))
    if (name !== '@umbo') symlinkSync(join(root, 'node_modules', name), join(copy, 'node_modules', name));
  /** In a group of its own, so that a test that never ends takes no worker with it into the next run. */
  const run = (tests) =>
    new Promise((done) => {
      const args = ['node_modules/vitest/vitest.mjs', 'run', '--project', 'unit', '--bail', '1', ...tests];
      const child = spawn(process.execPath, args, { cwd: copy, detached: true, stdio: ['ignore', 'pipe', 'ignore'] });
      let output = '';
      child.stdout.on('data', (chunk) => (output += chunk));
      const end = () => {
        try {
          process.kill(-child.pid, 'SIGKILL');
        } catch {
          // all of it has ended
        }
      };
      const timer = setTimeout(end, MUTANT_MS);
      child.once('exit', (status) => {
        clearTimeout(timer);
        end();
        done({ status, output });
      });
    });
  for (const room of rooms) {
    const { files, tests } = ROOMS[room];
    const sound = await run(tests);
    if (sound.status !== 0) throw new Error(`The tests of ${room} fail before anything is changed:\n${sound.output}`);
    const all = files.flatMap(filesOf).flatMap(faultsIn);
    const next = numbersFrom(Number(values.seed));
    const drawn = all
      .map((fault) => [next(), fault])
      .sort(([a], [b]) => a - b)
      .slice(0, Number(values.count))
      .map(([, fault]) => fault);
    let killed = 0;
    for (const { file, from, to, text, line } of drawn) {
      const path = join(copy, file);
      const before = readFileSync(path, 'utf8');
      writeFileSync(path, before.slice(0, from) + text + before.slice(to));
      const { status } = await run(tests);
      writeFileSync(path, before);
      if (status !== 0) killed++;
      else console.log(`  survives: ${file}:${line}  ${before.slice(from, to).slice(0, 60)} → ${text.slice(0, 60)}`);
    }
    console.log(
      `${room}: ${killed} of ${drawn.length} killed (${Math.round((100 * killed) / drawn.length)} %), of ${all.length} there are`,
    );
  }
} finally {
  rmSync(copy, { recursive: true, force: true });
}
