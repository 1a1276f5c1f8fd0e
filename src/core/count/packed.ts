/** A counter's log as bytes, for the way to the browser: how many samples, then time, current, voltage and reading, column by column. */

import type { CounterLog } from './counterLog';

export type PackedLog = Pick<CounterLog, 'time' | 'amps' | 'volts' | 'reading'>;

/** Pieces in order; all little-endian, as every machine that runs this has it. NaN stands for what was not logged. */
export function packLog({ time, amps, volts, reading }: PackedLog): Uint8Array[] {
  const none = new Float32Array(time.length).fill(NaN);
  return [Float64Array.of(time.length), time, amps, volts ?? none, reading ?? none].map(
    (one) => new Uint8Array(one.buffer, one.byteOffset, one.byteLength),
  );
}

/** @throws RangeError when the bytes are not such a log */
export function unpackLog(bytes: ArrayBuffer): PackedLog {
  const count = bytes.byteLength >= 8 ? new Float64Array(bytes, 0, 1)[0]! : NaN;
  if (!Number.isInteger(count) || bytes.byteLength !== 8 + count * 20)
    throw new RangeError('These bytes are not a counter’s log: load the page anew.');
  const column = (k: number) => new Float32Array(bytes, 8 + 8 * count + 4 * count * k, count);
  const kept = (values: Float32Array) => (values.some((one) => one === one) ? values : null);
  return {
    time: new Float64Array(bytes, 8, count),
    amps: column(0),
    volts: kept(column(1)),
    reading: kept(column(2)),
  };
}
