/** Prints which share of the code is tests, in lines that are neither blank, nor comment, nor the style sheets inside the components. */
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { root } from './prepare.mjs';

const files = execFileSync('git', ['ls-files', '-co', '--exclude-standard', '*.ts', '*.tsx', '*.mjs'], { cwd: root, encoding: 'utf8' })
  .trim()
  .split('\n');
const isTest = (file) => /(^|\/)(test|e2e)\//.test(file);
const styleSheets = /(?<=(styled[\w.()<>{}$?:; ]*|css|createGlobalStyle)`)[^`]*(?=`)/g;
const lines = (file) =>
  readFileSync(`${root}/${file}`, 'utf8')
    .replace(styleSheets, '')
    .split('\n')
    .filter((line) => line.trim() !== '' && !/^\s*(\/\/|\/\*|\*)/.test(line)).length;
const sum = (list) => list.reduce((total, file) => total + lines(file), 0);
const tests = sum(files.filter(isTest));
const all = sum(files);
console.log(`${tests} of ${all} lines are tests: ${((100 * tests) / all).toFixed(1)} %`);
