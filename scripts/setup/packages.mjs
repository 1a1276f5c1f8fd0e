// Installs what is missing: Debian packages, and the npm packages of the lock file.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { capture, isRoot, onPath, root, run, say, Stop } from './shell.mjs';

/** Debian package → how to tell that it is there. */
const DEBIAN = {
  postgresql: () => capture('sh', ['-c', 'ls /usr/lib/postgresql/*/bin/postgres']).ok,
  chromium: () => existsSync('/usr/bin/chromium'),
};

/** @param {(keyof typeof DEBIAN)[]} names */
export async function ensureDebian(...names) {
  const missing = names.filter((name) => !DEBIAN[name]());
  if (missing.length === 0) return;
  const by = isRoot ? [] : ['sudo'];
  const byHand = `apt-get install ${missing.join(' ')}`;
  if (!onPath('apt-get'))
    throw new Stop(
      `${missing.join(' and ')} must be installed, and this is no Debian system (there is no apt-get). Install them by hand.`,
    );
  if (!isRoot && !onPath('sudo'))
    throw new Stop(
      `${missing.join(' and ')} must be installed, which needs root or sudo. Ask an administrator to run: ${byHand}`,
    );
  say(`Installing ${missing.join(', ')} from Debian's packages …`);
  const quiet = { DEBIAN_FRONTEND: 'noninteractive' };
  const apt = /** @param {string[]} args */ (...args) => {
    const [command, ...rest] = [...by, 'env', 'DEBIAN_FRONTEND=noninteractive', 'apt-get', ...args];
    return run(/** @type {string} */ (command), rest, quiet);
  };
  await apt('update', '-qq');
  await apt('install', '-y', '-qq', '--no-install-recommends', ...missing);
  const still = missing.filter((name) => !DEBIAN[name]());
  if (still.length > 0)
    throw new Stop(
      `${still.join(' and ')} could not be installed. Look at the messages above, or run: ${byHand}`,
    );
}

/** npm ci, when the lock file is another than the one that node_modules was made from. */
export async function ensureNpm() {
  const stamp = `${root}/.build/packages.stamp`;
  const wanted = createHash('sha256')
    .update(readFileSync(`${root}/package-lock.json`))
    .update(process.version)
    .digest('hex');
  if (existsSync(`${root}/node_modules/next`) && existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted)
    return;
  say('Installing npm packages …');
  if ((await run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'])) !== 0)
    throw new Stop(
      'npm ci failed. Check that the npm registry can be reached, and that this folder can be written.',
    );
  mkdirSync(`${root}/.build`, { recursive: true });
  writeFileSync(stamp, wanted);
}
