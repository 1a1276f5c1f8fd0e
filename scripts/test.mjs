// Everything that bin/test does. Ends with one line: N passed, N failed.
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ensureNpm } from './setup/packages.mjs';
import { root, run, say, start } from './setup/shell.mjs';

start(async () => {
  await ensureNpm();
  let passed = 0;
  let failed = 0;
  const check = async (/** @type {string} */ name, /** @type {string} */ command, /** @type {string[]} */ args) => {
    say(`\n== ${name}`);
    if ((await run(command, args)) === 0) passed++;
    else {
      failed++;
      say(`${name} failed.`);
    }
  };
  await check('Types of the core', 'npx', ['tsc', '--noEmit', '-p', 'src/core']);
  await check('Types of the scripts', 'npx', ['tsc', '--noEmit', '-p', 'scripts']);
  await check('Programs', 'node', ['scripts/build-tools.mjs']);

  say('\n== Unit tests and reference checks');
  const report = join(root, '.build', 'jest.json');
  mkdirSync(join(root, '.build'), { recursive: true });
  rmSync(report, { force: true });
  const code = await run('npx', ['jest', '--json', `--outputFile=${report}`]);
  try {
    const { numPassedTests, numFailedTests, numFailedTestSuites } = JSON.parse(readFileSync(report, 'utf8'));
    passed += numPassedTests;
    failed += numFailedTests || (code === 0 ? 0 : Math.max(1, numFailedTestSuites));
  } catch {
    failed++;
  }
  say(`\n${passed} passed, ${failed} failed`);
  return failed === 0 ? 0 : 1;
});
