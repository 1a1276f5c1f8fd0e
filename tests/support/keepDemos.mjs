// Before the tests: the demo systems are simulated once and kept in .build/demos until a file that they are made from changes.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

const root = fileURLToPath(new URL('../..', import.meta.url));

/** Puts the folder into KEPT_DEMOS, for the workers of the test runner. */
export default async function keepDemos() {
  const program = join(root, '.build', 'makeDemos.cjs');
  await build({
    absWorkingDir: root,
    entryPoints: ['tests/support/makeDemos.ts'],
    outfile: program,
    bundle: true,
    platform: 'node',
    format: 'cjs',
    target: 'node20',
    logLevel: 'warning',
  });
  const kept = join(root, '.build', 'demos');
  const folder = join(kept, createHash('sha256').update(readFileSync(program)).digest('hex').slice(0, 16));
  if (!existsSync(folder)) {
    rmSync(kept, { recursive: true, force: true });
    const { status } = spawnSync(process.execPath, [program, folder], { stdio: 'inherit' });
    if (status !== 0) throw new Error('The demo systems could not be simulated. Look at the messages above.');
  }
  process.env.KEPT_DEMOS = folder;
}
