/** Puts the times of a log in order: a clock that fell back to its epoch, rows out of order, rows that come twice, times too coarse. */

import { MINUTE } from '../quantity/span';
import type { LogAnswers } from './answers';
import { isJump, type Stray, strayRows } from './strayRows';

export interface SettledTimes {
  /** Rising, epoch ms. */
  time: Float64Array;
  /** For each kept sample its place in what was given; null when all were kept in their order. */
  from: Uint32Array | null;
  /** What was done, a sentence each, and how many rows were lost by it. */
  notes: string[];
  lost: number;
  /** Rows set aside because their time lies far outside the rest; not among `lost`. */
  stray: Stray[];
}

/**
 * @param time epoch ms in the order of the file, `length` of them
 * @param same whether two rows hold the same readings, by place. @param answer what was said of rows far from the rest
 * @throws LogAsks when that has to be asked
 */
export function settleTimes(
  time: Float64Array,
  length: number,
  same: (a: number, b: number) => boolean,
  answer?: LogAnswers['strayRows'],
): SettledTimes {
  const times = time.subarray(0, length);
  let rises = true;
  let jumps = false;
  for (let i = 1; i < length; i++) {
    rises &&= times[i]! > times[i - 1]!;
    jumps ||= isJump(times[i - 1]!, times[i]!);
  }
  if (rises && !jumps) return { time: times.slice(), from: null, notes: [], lost: 0, stray: [] };

  const stray = jumps ? strayRows(times, answer) : [];
  const aside = new Set(stray.map((one) => one.row));
  const notes: string[] = [];
  let lost = 0;
  const kept = Array.from({ length }, (_, i) => i).filter((i) => !aside.has(i));
  if (rises)
    return {
      time: Float64Array.from(kept, (i) => times[i]!),
      from: Uint32Array.from(kept),
      notes,
      lost,
      stray,
    };

  const out = Float64Array.from(kept, (i) => times[i]!);
  const spread = spreadCoarse(out, (a, b) => same(kept[a]!, kept[b]!));
  if (spread > 0)
    notes.push(
      `Times are written too coarsely for how often was sampled: ${count(spread)} that shared a time with others were spread evenly over it.`,
    );

  let backwards = 0;
  for (let i = 1; i < out.length; i++) if (out[i]! < out[i - 1]!) backwards++;
  let order: number[] = Array.from({ length: out.length }, (_, i) => i);
  if (backwards > 0) {
    order = order.sort((a, b) => out[a]! - out[b]! || a - b);
    notes.push(
      `The times go back ${backwards === 1 ? 'once' : `${backwards} times`}; the rows were put in order.`,
    );
  }
  const single = order.filter((i, k) => k === 0 || out[i]! !== out[order[k - 1]!]!);
  if (single.length < order.length) {
    lost += order.length - single.length;
    const twice = order.length - single.length;
    notes.push(
      `${count(twice)} ${twice === 1 ? 'repeats' : 'repeat'} a time that was read before; the first of each is kept.`,
    );
  }
  return {
    time: Float64Array.from(single, (i) => out[i]!),
    from: Uint32Array.from(single, (i) => kept[i]!),
    notes,
    lost,
    stray,
  };
}

const count = (rows: number): string => `${rows} ${rows === 1 ? 'row' : 'rows'}`;

/**
 * Rows that share a time in a run, with differing readings, were sampled more often than the clock was written: they are spread evenly
 * up to the next time. @returns how many were moved
 */
function spreadCoarse(time: Float64Array, same: (a: number, b: number) => boolean): number {
  // A row here and there that comes twice is no coarse clock: most times must be shared.
  let shared = 0;
  let distinct = 0;
  for (let i = 0; i < time.length; i++) {
    if (i > 0 && time[i] === time[i - 1]) continue;
    distinct++;
    if (time[i] === time[i + 1]) shared++;
  }
  if (shared < distinct / 2 || shared < 2) return 0;
  let moved = 0;
  for (let start = 0; start < time.length;) {
    let end = start + 1;
    while (end < time.length && time[end] === time[start]) end++;
    const run = end - start;
    const next = time[end];
    const differ = run > 1 && !same(start, start + 1);
    if (differ) {
      // A run at the end, or before a gap, is taken to fill as much as the run before it.
      const room = next !== undefined && next > time[start]! ? Math.min(next - time[start]!, MINUTE) : MINUTE;
      for (let i = 1; i < run; i++) time[start + i] = time[start]! + (room * i) / run;
      moved += run - 1;
    }
    start = end;
  }
  return moved;
}
