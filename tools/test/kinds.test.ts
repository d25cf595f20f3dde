/** What a new kind asks for: one of each is added to a scratch copy, and the compiler says which other files have to follow. */
import { spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, expect, it } from 'vitest';

const root = fileURLToPath(new URL('../..', import.meta.url));
const copy = mkdtempSync(join(tmpdir(), 'umbo-kinds-'));
const PACKAGES = ['core', 'data', 'files', 'find', 'kernels', 'render', 'web'];

beforeAll(() => {
  // Only what is written by hand: a build beside this test makes and removes files of its own.
  for (const name of PACKAGES)
    for (const part of ['src', 'package.json', ...(name === 'kernels' ? ['assembly'] : [])])
      cpSync(join(root, name, part), join(copy, name, part), { recursive: true });
  for (const name of ['tsconfig.base.json', 'package.json']) cpSync(join(root, name), join(copy, name));
  // Packages of this repository are found in the copy, all others where they are.
  symlinkSync(join(root, 'node_modules'), join(copy, 'node_modules'));
  const paths = Object.fromEntries(
    PACKAGES.flatMap((name) => {
      const { exports = {} } = JSON.parse(readFileSync(join(copy, name, 'package.json'), 'utf8')) as { exports?: Record<string, string> };
      return Object.entries(exports).map(([entrance, file]) => [`@umbo/${name}${entrance.slice(1)}`, [join(copy, name, file)]]);
    }),
  );
  writeFileSync(
    join(copy, 'tsconfig.json'),
    JSON.stringify({
      extends: './tsconfig.base.json',
      compilerOptions: {
        lib: ['ES2023', 'DOM', 'DOM.Iterable'],
        jsx: 'react-jsx',
        types: ['node'],
        paths: { ...paths, '@/*': [join(copy, 'web/src/*')] },
      },
      include: ['core/src', 'data/src', 'files/src', 'render/src', 'web/src'],
      exclude: ['web/src/workers/*.worker.ts', 'web/src/workers/inside'],
    }),
  );
});
afterAll(() => rmSync(copy, { recursive: true, force: true }));

/** Files in which types do not hold. */
function faults(): string[] {
  const { stdout } = spawnSync(process.execPath, [join(root, 'node_modules/typescript-native/bin/tsc'), '--noEmit', '-p', copy], {
    cwd: copy,
    encoding: 'utf8',
  });
  return [...new Set([...stdout.matchAll(/^(\S+\.tsx?)\(\d+/gm)].map(([, file]) => file!))].sort();
}

const change = (file: string, from: string, to: string): void => {
  const text = readFileSync(join(copy, file), 'utf8');
  expect(text, file).toContain(from);
  writeFileSync(join(copy, file), text.replace(from, to));
};
const add = (file: string, like: string, ...names: readonly (readonly [string, string])[]): void => {
  let text = readFileSync(join(copy, like), 'utf8');
  for (const [from, to] of names) text = text.replaceAll(from, to);
  writeFileSync(join(copy, file), text);
};

it('a blend mode, an adjustment and a mask part are a file and a line; a file format and a kind of job ask for one more', () => {
  add('core/src/blend/modes/sum.ts', 'core/src/blend/modes/add.ts', ['const add', 'const sum'], ["'add'", "'sum'"]);
  change('core/src/blend/registry.ts', 'import { color } from', "import { sum } from './modes/sum.ts';\nimport { color } from");
  change('core/src/blend/registry.ts', '  subtract,\n', '  subtract,\n  sum,\n');

  add('core/src/adjust/steps.ts', 'core/src/adjust/posterise.ts', ['posterise', 'steps'], ['PosteriseSettings', 'StepsSettings']);
  change('core/src/adjust/registry.ts', 'import { threshold } from', "import { steps } from './steps.ts';\nimport { threshold } from");
  change('core/src/adjust/registry.ts', '  posterise,\n', '  posterise,\n  steps,\n');

  add('core/src/mask/parts/rim.ts', 'core/src/mask/parts/frameEdge.ts', ['frameEdge', 'rim'], ['FrameEdge', 'Rim']);
  change('core/src/mask/registry.ts', 'import { outline', "import { rim } from './parts/rim.ts';\nimport { outline");
  change('core/src/mask/registry.ts', '  frameEdge,\n', '  frameEdge,\n  rim,\n');

  const png = readFileSync(join(copy, 'core/src/format/fileFormats.ts'), 'utf8').match(/ {2}png: .*\n/)![0];
  change('core/src/format/fileFormats.ts', png, png + png.replace('png:', 'other:'));
  change('data/src/jobKinds.ts', '  levels: KIND,\n', '  levels: KIND,\n  count: KIND,\n');
  expect(faults()).toEqual(['render/src/encoders.ts', 'render/src/works.ts']);
});
