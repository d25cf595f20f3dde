/** `npm run house [-- folder]`: figures of how the house is built: the longest functions, casts, files of each folder. */
import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import ts from 'typescript';
import { root } from './prepare.mjs';

const of = process.argv[2] ?? root;
/** Lines beyond which a function does more than one thing. */
const LONG = 100;
const files = readdirSync(of, { withFileTypes: true })
  .filter((entry) => entry.isDirectory() && !entry.name.startsWith('.') && entry.name !== 'node_modules')
  .flatMap(({ name }) => readdirOf(join(of, name, 'src')))
  .filter((file) => /\.tsx?$/.test(file) && !/\.(gen|d)\.ts$/.test(file));

function readdirOf(folder) {
  try {
    return readdirSync(folder, { recursive: true }).map((file) => join(folder, file));
  } catch {
    return [];
  }
}

const functions = [];
const casts = { 'as never': 0, 'as unknown as': 0, 'as any': 0 };
const perFolder = new Map();
for (const file of files) {
  const text = readFileSync(file, 'utf8');
  perFolder.set(dirname(file), (perFolder.get(dirname(file)) ?? 0) + 1);
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  const lineOf = (at) => source.getLineAndCharacterOfPosition(at).line;
  const visit = (node) => {
    if (ts.isFunctionLike(node) && node.body)
      functions.push({
        lines: lineOf(node.end) - lineOf(node.getStart()) + 1,
        file,
        name: node.name?.getText() ?? node.parent?.name?.getText?.() ?? '',
      });
    if (ts.isAsExpression(node)) {
      const { kind } = node.type;
      if (kind === ts.SyntaxKind.NeverKeyword) casts['as never']++;
      if (kind === ts.SyntaxKind.AnyKeyword) casts['as any']++;
      if (kind === ts.SyntaxKind.UnknownKeyword && ts.isAsExpression(node.parent)) casts['as unknown as']++;
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
}
const short = (path) => relative(of, path);
functions.sort((a, b) => b.lines - a.lines);
const largest = [...perFolder].sort((a, b) => b[1] - a[1]).slice(0, 3);

console.log(
  `${files.length} files, ${functions.length} functions, ${functions.filter(({ lines }) => lines > LONG).length} of more than ${LONG} lines`,
);
for (const { lines, file, name } of functions.slice(0, 5)) console.log(`  ${lines} ${short(file)} ${name}`);
console.log(
  `casts: ${Object.entries(casts)
    .map(([words, count]) => `${count} "${words}"`)
    .join(', ')}`,
);
console.log(`most files in a folder: ${largest.map(([folder, count]) => `${count} in ${short(folder)}`).join(', ')}`);
