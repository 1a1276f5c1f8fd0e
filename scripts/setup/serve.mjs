// Starts the built web application and waits until it answers.
import { spawn } from 'node:child_process';
import { root, Stop } from './shell.mjs';

/**
 * @param {{ port: number, databaseUrl: string }} options
 * @returns {Promise<{ pid: number, address: string, ended: Promise<number>, stop(): Promise<void> }>}
 */
export async function serve({ port, databaseUrl }) {
  const child = spawn(
    process.execPath,
    ['node_modules/next/dist/bin/next', 'start', '-H', '127.0.0.1', '-p', String(port)],
    {
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
    },
  );
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
  const stop = async () => {
    if (running && child.pid)
      try {
        process.kill(-child.pid, 'SIGTERM');
      } catch {
        // It has just ended by itself.
      }
    await Promise.race([ended, new Promise((done) => setTimeout(done, 5000))]);
    if (running && child.pid) process.kill(-child.pid, 'SIGKILL');
  };
  return { pid: child.pid ?? 0, address, ended, stop };
}
