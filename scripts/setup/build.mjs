// Builds the programs and the web application when their sources have changed.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { isRunning, lastRun } from './runFile.mjs';
import { root, run as runCommand, say, Stop } from './shell.mjs';

const SOURCES = [
  'scripts/build-tools.mjs',
  'package-lock.json',
  'tsconfig.json',
  'next.config.ts',
  'postcss.config.mjs',
];

function fingerprint() {
  const hash = createHash('sha256');
  const add = (/** @type {string} */ path) => {
    hash.update(path).update(readFileSync(join(root, path)));
  };
  const walk = (/** @type {string} */ folder) => {
    for (const entry of readdirSync(join(root, folder), { withFileTypes: true }).sort((a, b) =>
      a.name < b.name ? -1 : 1,
    )) {
      const path = join(folder, entry.name);
      if (entry.isDirectory()) walk(path);
      else if (!/\.test\.tsx?$/.test(entry.name)) add(path);
    }
  };
  walk('src');
  for (const path of SOURCES) if (existsSync(join(root, path))) add(path);
  return hash.digest('hex');
}

const stampFile = join(root, '.build', 'web.stamp');

/** Whether the build is of the present sources. */
export const isBuilt = () =>
  existsSync(join(root, '.next', 'BUILD_ID')) &&
  existsSync(stampFile) &&
  readFileSync(stampFile, 'utf8') === fingerprint();

/** @returns {Promise<boolean>} whether it had to build */
export async function ensureBuild() {
  if (isBuilt()) return false;
  const run = lastRun();
  if (run && run.pid !== process.pid && isRunning(run))
    throw new Stop(
      `The sources have changed, and the old build is being served at ${run.address}. End that bin/demo first.`,
    );
  say('Building …');
  const before = fingerprint();
  if ((await runCommand('node', ['scripts/build-tools.mjs'])) !== 0)
    throw new Stop('The programs could not be built. Look at the messages above.');
  if (
    (await runCommand('node', ['node_modules/next/dist/bin/next', 'build'], {
      NEXT_TELEMETRY_DISABLED: '1',
      NODE_ENV: 'production',
    })) !== 0
  )
    throw new Stop('The web application could not be built. Look at the messages above.');
  mkdirSync(join(root, '.build'), { recursive: true });
  writeFileSync(stampFile, before);
  return true;
}
