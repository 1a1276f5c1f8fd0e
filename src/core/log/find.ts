/** The next time, or the one before, at which a channel does something. */

import { firstAtOrAfter, gapLimit, medianStep } from './grid';

export const FIND_RULES = ['rises-above', 'falls-below', 'jumps', 'stays-above', 'stays-below'] as const;
export type FindRule = (typeof FIND_RULES)[number];

export interface Wanted {
  rule: FindRule;
  /** In the channel's unit: the level, or the size of a jump. */
  value: number;
  /** For how long it stays, ms. */
  holdMs: number;
}

/**
 * Epoch ms; null where it never does. What it does in a gap is not known: a level that was crossed in one counts when the log is back.
 * @param from the moment to look from; what happens right there is passed over
 */
export function findTime(
  time: Float64Array,
  values: Float32Array,
  wanted: Wanted,
  from: number,
  way: 'next' | 'previous',
): number | null {
  const found = wanted.rule.startsWith('stays') ? stays(time, values, wanted) : steps(time, values, wanted);
  if (way === 'next') {
    for (const at of found) if (at > from) return at;
    return null;
  }
  let last: number | null = null;
  for (const at of found) {
    if (at >= from) break;
    last = at;
  }
  return last;
}

function* steps(
  time: Float64Array,
  values: Float32Array,
  { rule, value }: Wanted,
): Generator<number, void, undefined> {
  // A value that is missing keeps what was there before.
  let before = NaN;
  for (let i = 0; i < time.length; i++) {
    const now = values[i]!;
    if (now !== now) continue;
    if (
      rule === 'jumps'
        ? Math.abs(now - before) >= value
        : rule === 'rises-above'
          ? before <= value && now > value
          : before >= value && now < value
    )
      yield time[i]!;
    before = now;
  }
}

/** Beginnings of the spells in which it stays there for so long. */
function* stays(
  time: Float64Array,
  values: Float32Array,
  { rule, value, holdMs }: Wanted,
): Generator<number, void, undefined> {
  const isThere = (one: number) => (rule === 'stays-above' ? one > value : one < value);
  const limit = gapLimit(medianStep(time));
  let start = NaN;
  let given = false;
  for (let i = 0; i < time.length; i++) {
    if (i > 0 && time[i]! - time[i - 1]! > limit) start = NaN;
    if (!isThere(values[i]!)) {
      start = NaN;
      continue;
    }
    if (start !== start) {
      start = time[i]!;
      given = false;
    }
    if (!given && time[i]! - start >= holdMs) {
      given = true;
      yield start;
    }
  }
}

/** From one crossing to the next that follows it: from so many V down to so many. Null where there is no such pair. */
export function findSpan(
  time: Float64Array,
  values: Float32Array,
  [first, second]: readonly [number, number],
  from: number,
): { from: number; to: number } | null {
  const rising = second > first;
  const crossing = (value: number): Wanted => ({
    rule: rising ? 'rises-above' : 'falls-below',
    value,
    holdMs: 0,
  });
  const begin = findTime(time, values, crossing(first), from, 'next');
  if (begin === null) return null;
  // It may cross both within one sample.
  const to = values[firstAtOrAfter(time, begin)]!;
  const already = rising ? to > second : to < second;
  const end = already ? begin : findTime(time, values, crossing(second), begin, 'next');
  return end === null ? null : { from: begin, to: end };
}
