/** Web worker: keeps a counter's log, replays it by other settings, and finds those that would have kept it truest. */

import { expose } from 'comlink';
import { type BenchLog, fitSettings, type Preset, type Trial, tryOut } from '@/core/count/bench';
import { inSteps } from './inSteps';
import { unpackLog } from '@/core/count/packed';
import type { CounterKind } from '@/core/count/kinds';
import type { CounterSettings } from '@/core/count/settings';
import type { KnownBank } from '@/core/system/known';

/** Where the bench starts: the log's address, the device whose count it is, and the truth that it is held against. */
export type BenchStart = Pick<BenchLog, 'truth' | 'fulls' | 'start'> & { url: string; by: CounterKind };

/** `at` epoch ms and `reading` %, so many points spread over the log. */
export interface Replayed {
  at: Float64Array;
  reading: Float32Array;
  trial: Trial;
}

let log: BenchLog | null = null;
let scratch: Float32Array<ArrayBuffer> | null = null;

const loaded = (): { bench: BenchLog; room: Float32Array<ArrayBuffer> } => {
  if (!log || !scratch) throw new Error('The log is not there yet.');
  return { bench: log, room: scratch };
};

async function load({ url, by, truth, fulls, start }: BenchStart): Promise<void> {
  const response = await fetch(url);
  if (!response.ok)
    throw new Error('The log could not be fetched: check that the server runs, and load the page anew.');
  const packed = unpackLog(await response.arrayBuffer());
  const first = packed.reading?.find((one) => one === one);
  log = { ...packed, kind: by, truth, fulls, start: first ?? start };
  scratch = new Float32Array(packed.time.length);
}

/** The last reading in each of so many equal spans: what a curve of that width can show. */
function thinned(time: Float64Array, reading: Float32Array, points: number) {
  const stride = Math.max(1, Math.floor(time.length / points));
  const count = Math.ceil(time.length / stride);
  const at = new Float64Array(count);
  const values = new Float32Array(count);
  for (let k = 0; k < count; k++) {
    const i = Math.min(time.length - 1, (k + 1) * stride - 1);
    at[k] = time[i]!;
    values[k] = reading[i]!;
  }
  return { at, reading: values };
}

const counterBench = {
  load,
  /** Replays by other settings; the curve has so many points. */
  tryOut(settings: CounterSettings, points: number): Replayed {
    const { bench, room } = loaded();
    const { trial, reading } = tryOut(bench, settings, room);
    return { trial, ...thinned(bench.time, reading, points) };
  },
  tryEach(presets: Preset[]): Trial[] {
    const { bench, room } = loaded();
    return presets.map((one) => tryOut(bench, one.settings, room).trial);
  },
  /** @param onDone part of the search that is done, 0 to 1 */
  fit(bank: KnownBank, from: CounterSettings[], onDone: (done: number) => void): CounterSettings {
    return fitSettings(loaded().bench, bank, from, inSteps(onDone)).settings;
  },
};

export type CounterBench = typeof counterBench;

expose(counterBench);
