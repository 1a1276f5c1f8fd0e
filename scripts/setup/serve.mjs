// Starts the built web application, and the workers that take in logs for it.
import { spawn } from 'node:child_process';
import { root, Stop } from './shell.mjs';

/**
 * @param {{ port: number, databaseUrl: string }} options
 * @returns {Promise<{ pid: number, address: string, ended: Promise<number>, stop(): Promise<void> }>}
 */
export async function serve({ port, databaseUrl }) {
  const child = spawn(process.execPath, ['.build/web.cjs', '--port', String(port)], {
    cwd: root,
    // A group of its own: Ctrl-C reaches only us, and we end things in order.
    detached: true,
    stdio: ['ignore', 'ignore', 'inherit'],
    env: {
      ...process.env,
      NODE_ENV: 'production',
      NEXT_TELEMETRY_DISABLED: '1',
      DATABASE_URL: databaseUrl,
    },
  });
  /** @type {Promise<number>} */
  const ended = new Promise((resolve) => {
    child.once('exit', (code) => resolve(code ?? 1));
    child.once('error', () => resolve(127));
  });
  let running = true;
  void ended.then(() => (running = false));
  const address = `http://127.0.0.1:${port}`;
  for (let i = 0; running; i++) {
    try {
      const answer = await fetch(`${address}/api/health`);
      if (answer.ok) break;
      if (i > 300)
        throw new Stop(
          `The web application answers ${answer.status} at ${address}/api/health: ${await answer.text()}`,
        );
    } catch (error) {
      if (error instanceof Stop || i > 300) throw error;
    }
    await new Promise((done) => setTimeout(done, 100));
  }
  if (!running)
    throw new Stop('The web application ended as soon as it was started. Look at the messages above.');
  return { pid: child.pid ?? 0, address, ended, stop: stopper(child, ended) };
}

/** Ends a process group: first kindly, after five seconds for good. @param {import('node:child_process').ChildProcess} child @param {Promise<number>} ended */
const stopper = (child, ended) => async () => {
  let running = child.exitCode === null && child.signalCode === null;
  void ended.then(() => (running = false));
  if (running && child.pid)
    try {
      process.kill(-child.pid, 'SIGTERM');
    } catch {
      // It has just ended by itself.
    }
  await Promise.race([ended, new Promise((done) => setTimeout(done, 5000))]);
  if (running && child.pid) process.kill(-child.pid, 'SIGKILL');
};

/**
 * Starts a worker that takes logs off the queue, and starts it again whenever it has ended by itself.
 * @param {string} databaseUrl
 * @returns {{ pid(): number, stop(): Promise<void> }}
 */
export function keepWorker(databaseUrl) {
  let stopping = false;
  let pid = 0;
  /** @type {() => Promise<void>} */
  let stop = async () => {};
  const begin = () => {
    const child = spawn(process.execPath, ['.build/admin.cjs', 'work'], {
      cwd: root,
      detached: true,
      // The channel closes when we are gone, however that came: the worker ends itself then.
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
      env: { ...process.env, DATABASE_URL: databaseUrl },
    });
    pid = child.pid ?? 0;
    /** @type {Promise<number>} */
    const ended = new Promise((resolve) => {
      child.once('exit', (code) => resolve(code ?? 1));
      child.once('error', () => resolve(127));
    });
    stop = stopper(child, ended);
    void ended.then(() => {
      if (!stopping) setTimeout(begin, 1000);
    });
  };
  begin();
  return {
    pid: () => pid,
    stop: () => {
      stopping = true;
      return stop();
    },
  };
}
