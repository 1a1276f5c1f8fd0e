/**
 * A job's logs on one even grid, as the replay of charging needs them: the battery's volts and amperes, its temperature, and what each
 * source gave. As bytes too, for the way to the browser.
 */

import { corrected } from '../count/corrected';
import { counterLog } from '../count/counterLog';
import type { Wrong } from '../count/trueCurrent';
import { type Grid, medianStep, toGrid } from '../log/grid';
import { anyLogWith, batteryCurrent, logOf, type Timeline } from '../log/timeline';
import { DAY, MINUTE } from '../quantity/span';
import type { KnownSystem } from '../system/known';

export interface Minutes {
  /** Begin of the first cell, epoch ms, and the length of a cell. */
  from: number;
  stepMs: number;
  count: number;
  /** V at the battery and A into it; NaN where the log is silent. */
  volts: Float32Array;
  amps: Float32Array;
  /** Battery temperature, else that of the air, °C; null when not logged. */
  celsius: Float32Array | null;
  /** A of each source that has a log of its own. */
  sources: { id: string; amps: Float32Array }[];
}

/** Of a longer log its last days are replayed. */
export const MOST_DAYS = 62;
/** Cells that a day divides into, min. */
const STEPS = [1, 2, 3, 4, 5, 6, 10, 15, 20, 30, 60];
const MOST_CELLS = 50_000;

/** Null where the battery's voltage or current was not logged. @param wrong what is wrong with the monitor's current, as it was found */
export function minutesOf(system: KnownSystem, logged: Timeline, wrong: Wrong | null): Minutes | null {
  const counter = wrong ? counterLog(system, logged) : null;
  const timeline = counter && wrong ? corrected(logged, counter, wrong) : logged;
  const current = batteryCurrent(timeline);
  const volts = anyLogWith(timeline, 'battery_voltage');
  if (!current || !volts || current.time.length < 2) return null;
  const to = current.time[current.time.length - 1]!;
  const span = { from: Math.max(current.time[0]!, to - MOST_DAYS * DAY), to };
  const least = Math.max(medianStep(current.time), (span.to - span.from) / MOST_CELLS) / MINUTE;
  const stepMs = (STEPS.find((one) => one >= least) ?? 60) * MINUTE;
  const from = Math.ceil(span.from / stepMs) * stepMs;
  const count = Math.floor((span.to - from) / stepMs);
  if (count < 2) return null;
  const grid: Grid = { from, step: stepMs, count, cuts: [] };
  const heat = anyLogWith(timeline, 'battery_temperature') ?? anyLogWith(timeline, 'ambient_temperature');
  const celsius = heat?.channels.battery_temperature ?? heat?.channels.ambient_temperature;
  return {
    from,
    stepMs,
    count,
    volts: toGrid(volts.time, volts.channels.battery_voltage!, grid),
    amps: toGrid(current.time, current.amps, grid),
    celsius: heat && celsius ? toGrid(heat.time, celsius, grid) : null,
    sources: system.sources.flatMap(({ id }) => {
      const log = logOf(timeline, id, 'source_current');
      return log ? [{ id, amps: toGrid(log.time, log.channels.source_current!, grid) }] : [];
    }),
  };
}

interface Head {
  from: number;
  stepMs: number;
  count: number;
  celsius: boolean;
  sources: string[];
}

/** Pieces in order: the length of the head, the head as JSON filled up to eight bytes, then column by column. */
export function packMinutes({ from, stepMs, count, volts, amps, celsius, sources }: Minutes): Uint8Array[] {
  const head: Head = {
    from,
    stepMs,
    count,
    celsius: celsius !== null,
    sources: sources.map((one) => one.id),
  };
  const text = new TextEncoder().encode(JSON.stringify(head));
  const padded = new Uint8Array(Math.ceil(text.length / 8) * 8).fill(32);
  padded.set(text);
  const columns = [volts, amps, ...(celsius ? [celsius] : []), ...sources.map((one) => one.amps)];
  return [Float64Array.of(padded.length), padded, ...columns].map(
    (one) => new Uint8Array(one.buffer, one.byteOffset, one.byteLength),
  );
}

/** @throws RangeError when the bytes are not such a log */
export function unpackMinutes(bytes: ArrayBuffer): Minutes {
  const strange = () => new RangeError('These bytes are not a log on a grid: load the page anew.');
  if (bytes.byteLength < 16) throw strange();
  const length = new Float64Array(bytes, 0, 1)[0]!;
  if (!(length > 0 && length % 8 === 0 && 8 + length <= bytes.byteLength)) throw strange();
  let head: Head;
  try {
    head = JSON.parse(new TextDecoder().decode(new Uint8Array(bytes, 8, length))) as Head;
  } catch {
    throw strange();
  }
  const { from, stepMs, count } = head;
  const columns = 2 + (head.celsius ? 1 : 0) + head.sources.length;
  if (bytes.byteLength !== 8 + length + 4 * count * columns) throw strange();
  let next = 0;
  const column = () => new Float32Array(bytes, 8 + length + 4 * count * next++, count);
  return {
    from,
    stepMs,
    count,
    volts: column(),
    amps: column(),
    celsius: head.celsius ? column() : null,
    sources: head.sources.map((id) => ({ id, amps: column() })),
  };
}
