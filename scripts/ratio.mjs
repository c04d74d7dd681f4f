/** Prints how many of the lines of code are tests: a quarter to a third is wanted. */
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';

const files = execFileSync('git', ['ls-files', 'packages', 'scripts', 'e2e', 'bench', 'standard'], {
  encoding: 'utf8',
})
  .split('\n')
  .filter((name) => /\.(ts|vue|mjs|typ|css)$/.test(name));
const lines = (names) =>
  names.reduce((sum, name) => sum + readFileSync(name, 'utf8').split('\n').length, 0);
const isTest = (name) => /\.test\.ts$|^e2e\/|^standard\/|\/testing\//.test(name);
const tests = lines(files.filter(isTest));
const code = lines(files.filter((name) => !isTest(name)));
console.log(
  `${tests} lines of tests, ${code} lines of code: ${Math.round((100 * tests) / (tests + code))} %`,
);
