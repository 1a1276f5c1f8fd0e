/** Web worker: keeps a counter's log, replays it by other settings, and finds those that would have kept it truest. */

import { type BenchLog, fitSettings, type Preset, type Trial, tryOut } from '@/core/count/bench';
import { unpackLog } from '@/core/count/packed';
import type { CounterKind } from '@/core/count/kinds';
import type { CounterSettings } from '@/core/count/settings';
import type { KnownBank } from '@/core/system/known';

export type BenchTask =
  | ({ kind: 'load'; url: string; by: CounterKind } & Pick<BenchLog, 'truth' | 'fulls' | 'start'>)
  | { kind: 'try'; settings: CounterSettings; points: number }
  | { kind: 'presets'; presets: Preset[] }
  | { kind: 'fit'; bank: KnownBank; from: CounterSettings[] };

export type BenchAnswer =
  | { kind: 'loaded'; samples: number }
  /** `at` epoch ms and `reading` %, so many points spread over the log. */
  | { kind: 'tried'; trial: Trial; at: Float64Array; reading: Float32Array }
  | { kind: 'presets'; trials: Trial[] }
  | { kind: 'fitting'; done: number }
  | { kind: 'fitted'; settings: CounterSettings; trial: Trial }
  | { kind: 'problem'; problem: string };

let log: BenchLog | null = null;
let scratch: Float32Array<ArrayBuffer> | null = null;

const answer = (message: BenchAnswer) => postMessage(message);

async function load({ url, by, truth, fulls, start }: Extract<BenchTask, { kind: 'load' }>): Promise<void> {
  const response = await fetch(url);
  if (!response.ok)
    throw new Error('The log could not be fetched: check that the server runs, and load the page anew.');
  const packed = unpackLog(await response.arrayBuffer());
  const first = packed.reading?.find((one) => one === one);
  log = { ...packed, kind: by, truth, fulls, start: first ?? start };
  scratch = new Float32Array(packed.time.length);
  answer({ kind: 'loaded', samples: packed.time.length });
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

onmessage = ({ data: task }: MessageEvent<BenchTask>) => {
  const work = async () => {
    if (task.kind === 'load') return load(task);
    if (!log || !scratch) return;
    if (task.kind === 'try') {
      const { trial, reading } = tryOut(log, task.settings, scratch);
      return answer({ kind: 'tried', trial, ...thinned(log.time, reading, task.points) });
    }
    if (task.kind === 'presets') {
      const bench = log;
      const room = scratch;
      return answer({
        kind: 'presets',
        trials: task.presets.map((one) => tryOut(bench, one.settings, room).trial),
      });
    }
    const found = fitSettings(log, task.bank, task.from, (done) => answer({ kind: 'fitting', done }));
    answer({ kind: 'fitted', ...found });
  };
  work().catch((error: unknown) =>
    answer({ kind: 'problem', problem: error instanceof Error ? error.message : String(error) }),
  );
};
