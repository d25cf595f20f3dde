/** Prints which share of the code is tests, counted plainly: lines that are not blank. */
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { root } from './prepare.mjs';

const files = execFileSync('git', ['ls-files', '-co', '--exclude-standard', '*.ts', '*.tsx', '*.mjs'], { cwd: root, encoding: 'utf8' })
  .trim()
  .split('\n');
const isTest = (file) => /(^|\/)(test|e2e)\//.test(file);
const lines = (file) =>
  readFileSync(`${root}/${file}`, 'utf8')
    .split('\n')
    .filter((line) => line.trim() !== '').length;
const sum = (list) => list.reduce((total, file) => total + lines(file), 0);
const tests = sum(files.filter(isTest));
const all = sum(files);
console.log(`${tests} of ${all} lines are tests: ${((100 * tests) / all).toFixed(1)} %`);
