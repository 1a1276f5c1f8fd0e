/** The set-up scripts, for programs that start a cluster, a web server or workers of their own. */

import { join } from 'node:path';
import { pathToFileURL } from 'node:url';

interface Served {
  pid: number;
  address: string;
  stop(): Promise<void>;
}

export interface Cluster {
  url(database: string): string;
  createDatabase(database: string): Promise<void>;
  emptyDatabase(database: string): Promise<void>;
  crash(): void;
  stop(): void;
}

interface SetUp {
  startCluster(purpose: string): Promise<Cluster>;
  serve(options: { port: number; databaseUrl: string }): Promise<Served>;
  keepWorker(databaseUrl: string): { pid(): number; stop(): Promise<void> };
  freePort(wanted: number, what: string): Promise<number>;
}

/** They are modules of their own, outside the bundle. */
export async function setUp(): Promise<SetUp> {
  const scripts = ['postgres.mjs', 'serve.mjs', 'shell.mjs'].map(
    (file) => import(pathToFileURL(join(process.cwd(), 'scripts', 'setup', file)).href),
  );
  return Object.assign({}, ...(await Promise.all(scripts))) as SetUp;
}

/** Works on an empty database of a cluster of its own. @param purpose names the cluster */
export async function onEmptyDatabase<T>(
  purpose: string,
  database: string,
  work: (databaseUrl: string, tools: SetUp) => Promise<T>,
): Promise<T> {
  const tools = await setUp();
  const cluster = await tools.startCluster(purpose);
  try {
    await cluster.createDatabase(database);
    await cluster.emptyDatabase(database);
    return await work(cluster.url(database), tools);
  } finally {
    cluster.stop();
  }
}
