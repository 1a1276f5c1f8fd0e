// Small helpers of the set-up scripts. Only Node's own modules: this runs before anything is installed.
import { spawn, spawnSync } from 'node:child_process';
import { createServer } from 'node:net';
import { readFileSync, readlinkSync, realpathSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

export const root = realpathSync(fileURLToPath(new URL('../..', import.meta.url)));
export const isRoot = process.getuid?.() === 0;

/** A reason why the set-up cannot go on, as a sentence for the user. */
export class Stop extends Error {}

/** @param {string} line */
export const say = (line) => console.log(line);

/** Runs a command and returns its standard output. @param {string} command @param {string[]} args @param {import('node:child_process').SpawnSyncOptions} [options] */
export function capture(command, args, options = {}) {
  const result = spawnSync(command, args, { encoding: 'utf8', ...options });
  return {
    ok: result.status === 0,
    out: String(result.stdout ?? '').trim(),
    err: String(result.stderr ?? result.error?.message ?? '').trim(),
  };
}

/** Runs a command with its output shown. @param {string} command @param {string[]} args @param {Record<string, string>} [env] @returns {Promise<number>} exit code */
export function run(command, args, env = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, ...env },
    });
    child.once('error', () => resolve(127));
    child.once('exit', (code) => resolve(code ?? 1));
  });
}

/** Runs a command whose output is shown when it has ended: others may run beside it. @param {string} command @param {string[]} args @returns {Promise<{ code: number, out: string }>} */
export function runAside(command, args) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
    let out = '';
    const add = (/** @type {Buffer} */ bytes) => (out += bytes);
    child.stdout.on('data', add);
    child.stderr.on('data', add);
    child.once('error', () => resolve({ code: 127, out }));
    child.once('close', (code) => resolve({ code: code ?? 1, out }));
  });
}

/** @param {string} name */
export const onPath = (name) => capture('sh', ['-c', `command -v ${name}`]).ok;

/** Whether a port on loopback can be had. @param {number} port @returns {Promise<boolean>} */
export function portFree(port) {
  return new Promise((resolve) => {
    const server = createServer();
    server.once('error', () => resolve(false));
    server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)));
  });
}

/** The wanted port or the next free one. @param {number} wanted @param {string} what said when another is taken */
export async function freePort(wanted, what) {
  for (let port = wanted; port < wanted + 200; port++)
    if (await portFree(port)) {
      if (port !== wanted) say(`Port ${wanted} is busy: ${what} takes ${port}.`);
      return port;
    }
  throw new Stop(`No free port was found between ${wanted} and ${wanted + 199} for ${what}.`);
}

/** Command line of a running process, or null when there is none. @param {number} pid */
export function processLine(pid) {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').replaceAll('\0', ' ').trim() || null;
  } catch {
    return null;
  }
}

/** Folder that a process works in, or null. @param {number} pid */
export function processFolder(pid) {
  try {
    return readlinkSync(`/proc/${pid}/cwd`);
  } catch {
    return null;
  }
}

/** Ends a process by its id and waits until it has gone. @param {number} pid */
export async function endProcess(pid) {
  for (const signal of /** @type {const} */ (['SIGTERM', 'SIGKILL'])) {
    try {
      process.kill(pid, signal);
    } catch {
      return;
    }
    for (let i = 0; i < 50; i++) {
      if (processLine(pid) === null) return;
      await new Promise((done) => setTimeout(done, 100));
    }
  }
}

/** Runs a script's main function; a Stop is printed as a sentence. @param {() => Promise<number | void>} main */
export function start(main) {
  main().then(
    (code) => process.exit(code ?? 0),
    (error) => {
      if (error instanceof Stop) console.error(`\nPazienza cannot go on: ${error.message}`);
      else console.error(error);
      process.exit(1);
    },
  );
}
