// Before the tests: what takes long to simulate is made once and kept in .build until a file that it is made from changes.

import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

const root = fileURLToPath(new URL('../..', import.meta.url));

/**
 * Runs a program that fills a folder, unless what it would make is there; the folder is named by the program's hash.
 * @param {string} kept @param {string} entry @returns the folder
 */
async function keep(kept, entry) {
  const program = join(root, '.build', `${kept}.cjs`);
  await build({
    absWorkingDir: root,
    entryPoints: [entry],
    outfile: program,
    bundle: true,
    platform: 'node',
    format: 'cjs',
    target: 'node20',
    logLevel: 'warning',
  });
  const parent = join(root, '.build', kept);
  const folder = join(parent, createHash('sha256').update(readFileSync(program)).digest('hex').slice(0, 16));
  if (!existsSync(folder)) {
    rmSync(parent, { recursive: true, force: true });
    const { status } = spawnSync(process.execPath, [program, folder], { stdio: 'inherit' });
    if (status !== 0)
      throw new Error(`${entry} could not make what the tests need. Look at the messages above.`);
  }
  return folder;
}

/** Puts the folders into KEPT_DEMOS and KEPT_SITES, for the workers of the test runner. */
export default async function keepMade() {
  process.env.KEPT_DEMOS = await keep('demos', 'tests/support/makeDemos.ts');
  process.env.KEPT_SITES = await keep('sites', 'tests/support/makeSites.ts');
}
