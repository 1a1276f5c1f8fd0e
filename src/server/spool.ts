/** Files that stand on disk while they are worked on. Each carries its process's id: what a killed process left is cleared at the next start. */

import { randomUUID } from 'node:crypto';
import { mkdir, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const FOLDER = join(tmpdir(), 'pazienza-spool');

/** A path that nothing stands at yet, for a file or a folder. */
export async function spoolPath(): Promise<string> {
  await mkdir(FOLDER, { recursive: true, mode: 0o700 });
  return join(FOLDER, `${process.pid}-${randomUUID()}`);
}

export const clearPath = (path: string): Promise<void> => rm(path, { recursive: true, force: true });

/** Clears what processes that are gone have left. */
export async function clearSpool(): Promise<void> {
  for (const name of await readdir(FOLDER).catch(() => [])) {
    const pid = Number(/^(\d+)-/.exec(name)?.[1]);
    if (!(pid > 0) || !isAlive(pid)) await clearPath(join(FOLDER, name));
  }
}

function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    // Somebody else's process is one that lives.
    return (error as { code?: string }).code === 'EPERM';
  }
}
