/**
 * What a source could have given while its charger held it back. In bulk it gave all it had. In absorption and float it gave what the
 * battery and the loads took: mains and engines could have gone up to their limit, the sun up to what the same hours gave on the days
 * about, or the hour that lies as far from noon on the other side, as bright as that day was; where no such hour was free, a half wave from sunrise to sunset.
 */

import { quantile } from '../quantity/numbers';
import { DAY, type Span } from '../quantity/span';

export interface SourceRecord {
  /** A; NaN where the log is silent. */
  gave: Float32Array;
  /** 1 where it held a voltage: it may have had more to give. */
  heldBack: Uint8Array;
  /** Most that it ever gives, A. */
  mostA: number;
  sun: boolean;
}

interface Cells {
  from: number;
  stepMs: number;
  count: number;
}

/** A day in so many parts, and the days on either side that its brightness is taken from. */
const BINS = 144;
const ABOUT_DAYS = 10;
/** Of bright hours this one is taken: clouds' edges give more for a moment. */
const BRIGHT = 0.85;
/** The brightness of an hour is that of the hours about it, this far, in bins; the rest of the day says a little. */
const NEAR_BINS = 9;
const REST_OF_DAY = 0.03;
/** Weight of the usual day in it. */
const USUAL_WEIGHT = 0.15;

/** A that it could have given in each cell: what it gave where it was free, 0 where its log is silent. */
export function couldGive(record: SourceRecord, cells: Cells): Float32Array {
  const { gave, heldBack, mostA, sun } = record;
  const could = Float32Array.from(gave, (one) => (one > 0 ? one : 0));
  const sky = sun ? skyOf(record, cells) : null;
  for (let cell = 0; cell < cells.count; cell++)
    if (heldBack[cell]) could[cell] = Math.max(could[cell]!, Math.min(mostA, sky ? sky(cell) : mostA));
  return could;
}

/** From a cell to the current that the sun offered. */
function skyOf({ gave, heldBack }: SourceRecord, { from, stepMs, count }: Cells): (cell: number) => number {
  const firstDay = Math.floor(from / DAY);
  const dayOf = (cell: number) => Math.floor((from + cell * stepMs) / DAY) - firstDay;
  const binOf = (cell: number) => Math.floor((((from + cell * stepMs) % DAY) / DAY) * BINS);
  const days = dayOf(count - 1) + 1;
  const sums = new Float64Array(days * BINS);
  const counts = new Uint32Array(days * BINS);
  for (let cell = 0; cell < count; cell++) {
    if (heldBack[cell] || !(gave[cell]! >= 0)) continue;
    const at = dayOf(cell) * BINS + binOf(cell);
    sums[at]! += gave[cell]!;
    counts[at]!++;
  }
  const free = (day: number, bin: number) => {
    const at = day * BINS + bin;
    return counts[at] ? sums[at]! / counts[at] : NaN;
  };
  const bright = brightest(days, free, daylightOf(gave, binOf));
  const usual = usualShare(days, free, bright);
  const offeredIn = (day: number, bin: number): number => {
    let got = USUAL_WEIGHT * usual * bright[day * BINS + bin]!;
    let offered = USUAL_WEIGHT * bright[day * BINS + bin]!;
    for (let near = 0; near < BINS; near++) {
      const value = free(day, near);
      if (value !== value) continue;
      const weight = REST_OF_DAY + Math.exp(-Math.abs(near - bin) / NEAR_BINS);
      got += weight * value;
      offered += weight * bright[day * BINS + near]!;
    }
    return offered > 0 ? (got / offered) * bright[day * BINS + bin]! : 0;
  };
  // Cells of one bin share it.
  const found = new Map<number, number>();
  return (cell) => {
    const day = dayOf(cell);
    const bin = binOf(cell);
    const known = found.get(day * BINS + bin);
    if (known !== undefined) return known;
    const amps = offeredIn(day, bin);
    found.set(day * BINS + bin, amps);
    return amps;
  };
}

/** Noon, and how long before and after it the sun gives anything; in bins, which may run over midnight UTC. */
interface Daylight {
  noon: number;
  half: number;
}

function daylightOf(gave: Float32Array, binOf: (cell: number) => number): Daylight {
  const sums = new Float64Array(BINS);
  gave.forEach((one, cell) => one > 0 && (sums[binOf(cell)]! += one));
  let x = 0;
  let y = 0;
  sums.forEach((sum, bin) => {
    const angle = (2 * Math.PI * (bin + 0.5)) / BINS;
    x += sum * Math.cos(angle);
    y += sum * Math.sin(angle);
  });
  // Held back in the afternoon, most of what it gave lies before noon; the hours in which it gave anything do not.
  const top = Math.max(...sums);
  const centre = Math.floor((Math.atan2(y, x) / (2 * Math.PI)) * BINS);
  let first = 0;
  let last = 0;
  for (let off = -BINS / 2; off < BINS / 2; off++) {
    if (sums[wrapped(centre + off)]! < 0.02 * top) continue;
    first = Math.min(first, off);
    last = Math.max(last, off);
  }
  return { noon: centre + (first + last + 1) / 2, half: (last - first + 1) / 2 };
}

const wrapped = (bin: number): number => ((bin % BINS) + BINS) % BINS;

/** A half wave from sunrise to sunset, 1 at noon. */
function wave({ noon, half }: Daylight, bin: number): number {
  const off = wrapped(bin + 0.5 - noon + BINS / 2) - BINS / 2;
  return Math.abs(off) < half ? Math.cos((Math.PI / 2) * (off / half)) : 0;
}

/** What bright hours gave about each day: the hour itself and the hour mirrored at noon, on the days about it; else by the half wave. */
function brightest(
  days: number,
  free: (day: number, bin: number) => number,
  daylight: Daylight,
): Float32Array {
  const bright = new Float32Array(days * BINS);
  const mirrored = (bin: number) => wrapped(Math.round(2 * daylight.noon) - 1 - bin);
  for (let day = 0; day < days; day++) {
    const about: Span = { from: Math.max(0, day - ABOUT_DAYS), to: Math.min(days, day + ABOUT_DAYS + 1) };
    const row = new Array<number>(BINS);
    for (let bin = 0; bin < BINS; bin++) {
      const seen: number[] = [];
      for (let other = about.from; other < about.to; other++)
        for (const one of [bin, mirrored(bin)]) {
          const value = free(other, one);
          if (value === value) seen.push(value);
        }
      row[bin] = seen.length > 0 ? quantile(seen, BRIGHT) : NaN;
    }
    bright.set(completed(row, daylight), day * BINS);
  }
  return bright;
}

/** Near sunrise and sunset a half wave says little of noon. */
const LEAST_OF_WAVE = 0.15;

/** Hours that are not known follow the half wave through those that are. */
function completed(row: readonly number[], daylight: Daylight): number[] {
  const tops = row.flatMap((value, bin) => {
    const share = wave(daylight, bin);
    return value === value && share > LEAST_OF_WAVE ? [value / share] : [];
  });
  const top = tops.length > 0 ? quantile(tops, 0.5) : 0;
  return row.map((value, bin) => (value === value ? value : top * wave(daylight, bin)));
}

/** The usual brightness as a part of a bright hour: median over the hours in which it was free. */
function usualShare(days: number, free: (day: number, bin: number) => number, bright: Float32Array): number {
  const top = bright.reduce((most, one) => Math.max(most, one), 0);
  const shares: number[] = [];
  for (let day = 0; day < days; day++)
    for (let bin = 0; bin < BINS; bin++) {
      const value = free(day, bin);
      const most = bright[day * BINS + bin]!;
      if (value === value && most > 0.2 * top) shares.push(value / most);
    }
  return shares.length > 0 ? quantile(shares, 0.5) : 1;
}
