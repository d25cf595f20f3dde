/** The examples in core's docstrings, run: each `// →` says what the expression before it gives. */
import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect, it } from 'vitest';
import * as adjust from '@umbo/core/adjust';
import * as align from '@umbo/core/align';
import * as base from '@umbo/core/base';
import * as blend from '@umbo/core/blend';
import * as carry from '@umbo/core/carry';
import * as colour from '@umbo/core/colour';
import * as content from '@umbo/core/content';
import * as document from '@umbo/core/document';
import * as format from '@umbo/core/format';
import * as geometry from '@umbo/core/geometry';
import * as mask from '@umbo/core/mask';
import * as measure from '@umbo/core/measure';
import * as render from '@umbo/core/render';
import * as warnings from '@umbo/core/warnings';
import * as solve from '@umbo/core/solve';
import * as treatment from '@umbo/core/treatment';

const rooms = {
  ...align,
  ...base,
  ...colour,
  ...format,
  ...geometry,
  ...blend,
  ...adjust,
  ...mask,
  ...content,
  ...document,
  ...measure,
  ...render,
  ...warnings,
  ...carry,
  ...solve,
  ...treatment,
};
const source = fileURLToPath(new URL('../src', import.meta.url));

interface Example {
  file: string;
  code: string;
}

const examples = readdirSync(source, { recursive: true, withFileTypes: true })
  .filter((entry) => entry.isFile())
  .flatMap((entry): Example[] => {
    const path = join(entry.parentPath, entry.name);
    const text = readFileSync(path, 'utf8');
    return Array.from(text.matchAll(/ \* @example\n((?: \* (?!@).*\n)+)/g), ([, block]) => ({
      file: relative(source, path),
      code: block!.replaceAll(/^ \* /gm, ''),
    }));
  });

it('there are some, and each gives what it says', () => {
  expect(examples.length).toBeGreaterThanOrEqual(20);
  for (const { file, code } of examples) {
    // Each said value becomes a check of the expression before it.
    const said = [...code.matchAll(/^(.*?);?\s*\/\/ → (.*)$/gms)].length;
    expect(said, `${file} says what comes out`).toBeGreaterThan(0);
    const checks = code.replace(/;\n\/\/ →/g, '; // →').replace(/^(.*); \/\/ → (.*)$/gm, 'compare($1, $2);');
    const compare = (got: unknown, wanted: unknown): void => expect(plain(got), `${file}: ${code}`).toEqual(wanted);
    const names = Object.keys(rooms).filter((name) => !new RegExp(`\\b(?:const|let) (?:\\{[^}]*\\b)?${name}\\b`).test(code));
    new Function('compare', ...names, checks)(compare, ...names.map((name) => rooms[name as keyof typeof rooms]));
  }
});

const plain = (value: unknown): unknown => (ArrayBuffer.isView(value) ? Array.from(value as unknown as ArrayLike<number>) : value);
