/**
 * The whole way of a log over HTTP, against a cluster, a web server and a worker of its own: seconds from the first byte to the first
 * strip, the largest memory of the server's processes, and how long tiles of every zoom take.
 */

import { closeSync, existsSync, openSync, readFileSync, readSync, statSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Intake, PART_BYTES } from '@/core/log/intake';
import { COARSEST_LEVEL, tileSpan } from '@/core/log/tiles';
import { demoSite } from '@/core/simulate/demo';
import { migrate, openStore } from '@/store/database';
import { insertJob, insertSystem } from '@/store/jobs';
import { onEmptyDatabase } from '../support/setUp';

export interface IntakeMeasured {
  rows: number;
  megabytes: number;
  /** From the first byte sent until the last was, until the log was stored, and until its first strip could be drawn, ms. */
  sent: number;
  stored: number;
  firstStrip: number;
  /** Largest resident memory of worker and web server, MB. */
  workerMb: number;
  webMb: number;
  /** Tiles of every zoom, at ten places each: median and slowest, ms. */
  tileMedian: number;
  tileSlowest: number;
}

const DATABASE = 'pazienza_bench';
const CHANNELS = 'source_voltage,source_current,battery_temperature';

/** A log of so many million rows: the million of the benchmark again and again, ten seconds apart throughout. */
export function repeatedLog(million: string, times: number): string {
  const path = join(tmpdir(), `pazienza-bench-${times}-million.csv`);
  if (existsSync(path)) return path;
  const [heading, ...rows] = readFileSync(million, 'utf8').trimEnd().split('\n');
  const start = Date.parse(rows[0]!.split(',')[0]!);
  const tails = rows.map((row) => row.slice(row.indexOf(',')));
  const file = openSync(path, 'w');
  writeSync(file, heading + '\n');
  let at = start;
  for (let turn = 0; turn < times; turn++)
    for (let from = 0; from < tails.length; from += 50_000) {
      let text = '';
      for (const tail of tails.slice(from, from + 50_000)) {
        text += `${new Date(at).toISOString().slice(0, 19)}Z${tail}\n`;
        at += 10_000;
      }
      writeSync(file, text);
    }
  closeSync(file);
  return path;
}

export const measureIntake = (paths: readonly string[]): Promise<IntakeMeasured[]> =>
  onEmptyDatabase('bench', DATABASE, async (databaseUrl, { serve, keepWorker, freePort }) => {
    const store = openStore(databaseUrl);
    await migrate(store);
    const { job, system } = demoSite('tide-gauge');
    const measured: IntakeMeasured[] = [];
    for (const path of paths) {
      const jobId = await insertJob(store, await insertSystem(store, system), job);
      // New processes for each, so that their memory is this log's.
      const web = await serve({ port: await freePort(3300, 'the measured application'), databaseUrl });
      const worker = keepWorker(databaseUrl);
      try {
        measured.push(await oneIntake(web.address, jobId, path, { worker: worker.pid(), web: web.pid }));
      } finally {
        await worker.stop();
        await web.stop();
      }
    }
    await store.destroy();
    return measured;
  });

/** Sends a log and waits until it is stored and weighed. Times from the first byte, ms. */
export async function sendLog(
  address: string,
  jobId: string,
  path: string,
): Promise<{ intake: Intake; sent: number; stored: number }> {
  const { size } = statSync(path);
  const json = async <T>(url: string, init?: RequestInit): Promise<T> => {
    const answer = await fetch(address + url, init);
    if (!answer.ok) throw new Error(`${url} answers ${answer.status}: ${await answer.text()}`);
    return (await answer.json()) as T;
  };
  const started = performance.now();
  const since = () => performance.now() - started;
  const { id } = await json<Intake>(`/api/jobs/${jobId}/intakes`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: address },
    body: JSON.stringify({ fileName: 'log.csv', size, modified: 1, description: { device: 'solar' } }),
  });
  const file = openSync(path, 'r');
  const part = Buffer.alloc(PART_BYTES);
  for (let at = 0; at < size;) {
    const length = readSync(file, part, 0, PART_BYTES, at);
    const body = part.subarray(0, length);
    at = (
      await json<{ received: number }>(`/api/intakes/${id}?at=${at}`, {
        method: 'PUT',
        headers: { 'content-type': 'application/octet-stream', origin: address },
        body,
      })
    ).received;
  }
  closeSync(file);
  const sent = since();
  let stored = NaN;
  let intake: Intake;
  for (;;) {
    intake = await json<Intake>(`/api/intakes/${id}`);
    if (intake.state === 'failed') throw new Error(intake.problem!);
    if (stored !== stored && intake.recordingId) stored = since();
    if (intake.state === 'done') break;
    await new Promise((done) => setTimeout(done, 50));
  }
  return { intake, sent, stored };
}

async function oneIntake(
  address: string,
  jobId: string,
  path: string,
  pids: { worker: number; web: number },
): Promise<IntakeMeasured> {
  const { size } = statSync(path);
  const started = performance.now();
  const since = () => performance.now() - started;
  const { intake, sent, stored } = await sendLog(address, jobId, path);
  // What the browser asks for first: the page of the strips, and the tiles that it shows.
  await (await fetch(`${address}/jobs/${jobId}/charging`)).text();
  const tile = async (level: number, index: number) => {
    const before = performance.now();
    const answer = await fetch(
      `${address}/api/recordings/${intake.recordingId}/tiles?level=${level}&index=${index}&channels=${CHANNELS}`,
    );
    await answer.arrayBuffer();
    if (!answer.ok) throw new Error(`A tile answers ${answer.status}.`);
    return performance.now() - before;
  };
  const { from, to } = await spanOf(address, jobId);
  const indexAt = (level: number, ms: number) => {
    const { from: first, to: next } = tileSpan(level, 0);
    return Math.floor((ms - first) / (next - first));
  };
  await tile(8, indexAt(8, from));
  const firstStrip = since();
  const times: number[] = [];
  for (let level = 0; level <= COARSEST_LEVEL; level++)
    for (let place = 0; place < 10; place++)
      times.push(await tile(level, indexAt(level, from + ((to - from) * (place + 0.5)) / 10)));
  times.sort((a, b) => a - b);
  return {
    rows: Math.round((to - from) / 10_000) + 1,
    megabytes: size / 2 ** 20,
    sent,
    stored,
    firstStrip,
    workerMb: peakMb(pids.worker),
    webMb: peakMb(pids.web),
    tileMedian: times[times.length >> 1]!,
    tileSlowest: times.at(-1)!,
  };
}

/** First and last moment of the one log of a job, read off the timeline's edges. */
async function spanOf(address: string, jobId: string): Promise<{ from: number; to: number }> {
  const page = await (await fetch(`${address}/jobs/${jobId}/logs`)).text();
  const found = /\\?"from\\?":(\d+(?:\.\d+)?),\\?"to\\?":(\d+(?:\.\d+)?),\\?"channels/.exec(page);
  if (!found) throw new Error('The page of the logs does not tell their span.');
  return { from: Number(found[1]), to: Number(found[2]) };
}

/** The most memory that a process has had at a time. */
function peakMb(pid: number): number {
  const line = /VmHWM:\s+(\d+) kB/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'));
  return Number(line?.[1] ?? NaN) / 1024;
}
