/** What stands on screens: signs and spaces as they are set in English, and no name twice. */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { adjustments } from '@umbo/core/adjust';
import { blendModes } from '@umbo/core/blend';
import { sources } from '@umbo/core/content';
import { maskPartKinds } from '@umbo/core/mask';
import ts from 'typescript';
import { expect, it } from 'vitest';
import { intents } from '../src/bench/intents/intents';
import { shortcuts } from '../src/bench/shortcuts';

const root = fileURLToPath(new URL('../..', import.meta.url));

/** Words that people read: texts between tags, and strings of several words; no styles, classes or imports. */
function wordsIn(file: string): string[] {
  const source = ts.createSourceFile(file, readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, true);
  const words: string[] = [];
  const visit = (node: ts.Node): void => {
    if (ts.isTaggedTemplateExpression(node) || ts.isImportDeclaration(node)) return;
    if (ts.isJsxText(node)) words.push(node.text.trim());
    else if (ts.isStringLiteralLike(node) || ts.isTemplateHead(node) || ts.isTemplateMiddleOrTemplateTail(node)) words.push(node.text);
    ts.forEachChild(node, visit);
  };
  visit(source);
  return words.filter((text) => /[A-Za-z]{3,} [A-Za-z]{2,}/.test(text));
}

const files = ['web/src', 'core/src'].flatMap((room) =>
  readdirSync(join(root, room), { recursive: true, encoding: 'utf8' })
    .filter((name) => /\.tsx?$/.test(name) && !name.includes('wasm.gen'))
    .map((name) => join(root, room, name)),
);

it('a minus is a minus, units stand apart from their numbers, dots and spaces are where they belong', () => {
  const faults: string[] = [];
  let read = 0;
  for (const file of files)
    for (const text of wordsIn(file)) {
      read++;
      // Keys such as "Ctrl +" and ranges such as "1-12" are none of these.
      if (/(^|\s)-\d/.test(text)) faults.push(`hyphen for minus: ${text}`);
      if (/\d(?:px|MB|GB|ms|kB|ΔE)(?![\w-])/.test(text)) faults.push(`no space before the unit: ${text}`);
      if (/[a-z]  [a-z]| ,| \.(?:\s|$)|\.\.\./.test(text)) faults.push(`spaces or dots: ${text}`);
      if (/\b(\w{3,}) \1\b/i.test(text)) faults.push(`a word twice: ${text}`);
    }
  expect(read).toBeGreaterThan(800);
  expect(faults).toEqual([]);
});

it('no two things of one list are called the same, and each says what it does', () => {
  const twice = (names: readonly string[]): string[] => names.filter((name, i) => names.indexOf(name) !== i);
  const layers = [...adjustments, ...sources];
  expect(twice(layers.map(({ name }) => name))).toEqual([]);
  expect(twice(layers.map(({ explains }) => explains))).toEqual([]);
  expect(twice(maskPartKinds.map(({ name }) => name))).toEqual([]);
  expect(twice(blendModes.map(({ name }) => name))).toEqual([]);
  expect(twice(shortcuts.map(({ words }) => words))).toEqual([]);
  expect(twice(shortcuts.map(({ keys }) => keys))).toEqual([]);
  expect(twice(intents.map(({ words }) => words))).toEqual([]);
  // One line that is read at a glance, and ends without a dot as the others do.
  for (const { name, explains } of layers) expect(explains, name).toMatch(/^[A-Z].{8,88}[^.]$/);
});
