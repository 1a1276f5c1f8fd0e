/** A store with a job and a worker, for tests that take in logs. */

import { demoSystem } from '@/core/simulate/demo';
import type { Clock } from '@/core/log/clock';
import type { Intake } from '@/core/log/intake';
import { beginIntake } from '@/server/beginIntake';
import { startWorker, type Worker } from '@/server/worker';
import type { Store } from '@/store/database';
import { findIntake, takePart } from '@/store/intakes';
import { findJob, insertJob, insertSystem, type StoredJob } from '@/store/jobs';
import { setRecordingClocks } from '@/store/recordings';
import { takeTestStore, testDatabaseUrl } from './testStore';

export const { job, system } = demoSystem('harbour-office');
export const START = Date.UTC(2026, 8, 21);
export const MINUTE = 60_000;

export const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** A monitor's log of so many minutes; `volts` tells files apart. */
export const log = (from: number, minutes: number, volts: number): Buffer =>
  Buffer.from(
    'time,battery voltage (V),battery current (A)\n' +
      Array.from(
        { length: minutes },
        (_, i) =>
          `${new Date(START + (from + i) * MINUTE).toISOString().slice(0, 19)}Z,${volts.toFixed(2)},${(i % 7) - 3}\n`,
      ).join(''),
  );

export interface TakingIn {
  store: Store;
  worker: Worker;
  /** A job without logs, new for each test. */
  stored: StoredJob;
  begin(size: number, fileName?: string, modified?: number): Promise<Intake>;
  setClock(id: string, clock: Clock): ReturnType<typeof setRecordingClocks>;
  until(id: string, state: Intake['state']): Promise<Intake>;
  /** Sends a whole file and waits for the state. */
  send(bytes: Buffer, state: Intake['state'], fileName?: string): Promise<Intake>;
}

/** Within a describe: what its tests work with, set up before them and cleared after. */
export function takingIn(): TakingIn {
  let release: () => Promise<void>;
  const at: TakingIn = {
    store: undefined!,
    worker: undefined!,
    stored: undefined!,
    begin: (size, fileName = 'monitor.csv', modified = 7) =>
      beginIntake(at.store, at.stored, { fileName, size, modified, description: { device: 'monitor' } }),
    setClock: (id, clock) => setRecordingClocks(at.store, [{ id, clock }]),
    async until(id, state) {
      for (let i = 0; i < 150; i++) {
        const now = (await findIntake(at.store, id))!;
        if (now.state === state) return now;
        if (now.state === 'failed') throw new Error(now.problem!);
        await pause(100);
      }
      throw new Error(`It never was ${state}.`);
    },
    async send(bytes, state, fileName) {
      const { id } = await at.begin(bytes.length, fileName);
      await takePart(at.store, id, 0, bytes);
      return at.until(id, state);
    },
  };
  beforeAll(async () => {
    const taken = await takeTestStore();
    at.store = taken.store;
    release = taken.release;
    at.worker = await startWorker(testDatabaseUrl!);
  }, 60_000);
  beforeEach(async () => {
    await at.store.deleteFrom('systems').execute();
    at.stored = (await findJob(
      at.store,
      await insertJob(at.store, await insertSystem(at.store, system), job),
    ))!;
  });
  afterAll(async () => {
    await at.worker.stop();
    await release();
  });
  return at;
}
