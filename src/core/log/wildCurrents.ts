/**
 * Currents that cannot have flowed: a leap for a row that the voltage beside it knows nothing of, more than a charger can give, a current
 * back into a charger or out of a load.
 */

import type { Series } from './channels';
import { gapLimit } from './grid';
import { stepOf, writtenRows } from './holes';
import { resolutionOf } from './resolution';

/** What a log's battery and charger can do. */
export interface Possible {
  capacityAh: number;
  /** Ω of a good battery such as it sees; null where that is not known. */
  ohms: number | null;
  /** What the charger whose log it is can give, A; null where that is not known, and of any other log. */
  ratedA: number | null;
}

/** So many times its rating no charger gives, and so much of it none takes. */
const BEYOND = { times: 1.5, backwards: 0.1 };
/** A leap is at least this part of the capacity, 1/h; the rows before and after it agree to this part of it. */
const LEAP = { least: 0.1, agree: 0.3 };
/**
 * A battery moves by this part at least of what a good one of its kind does for a current (common practice, no source: the stiffest packs
 * have twice that); a leap under which it moves by less than this part of it is none.
 */
const STIFF = { ohms: 0.3, part: 0.35 };
/** So many times the noise of the voltage, or half its last digit, it must be before its absence says anything. */
const CLEAR = 4;
/**
 * A log that reads its voltage sooner or later than the current, or smoothed, leaves it behind at every start: the voltage says something
 * only where it goes with the current at this share of all other steps.
 */
const TOGETHER = 0.8;
/** Of so few steps one more or less says nothing. */
const FEW = 3;
/** Where more than this share of the rows is so, that is how the log is written. */
const MOST_SHARE = 0.01;

/** Marks the rows whose current is wild. @param isWild a value a row, 1 where it is */
export function markCurrents(series: Series, isWild: Uint8Array, possible: Possible): void {
  const { battery_current, source_current, load_current } = series.channels;
  const { battery_voltage, source_voltage, load_voltage } = series.channels;
  const { capacityAh, ratedA } = possible;
  const mark = (amps: Float32Array | undefined, volts: Float32Array | undefined, flow: Flow) =>
    amps && markOne(series.time, amps, volts, possible, flow, isWild);
  mark(battery_current, battery_voltage, { mayTrip: false, within: null });
  mark(source_current, source_voltage ?? battery_voltage, {
    mayTrip: false,
    within: ratedA === null ? null : { least: -BEYOND.backwards * ratedA, most: BEYOND.times * ratedA },
  });
  mark(load_current, load_voltage ?? battery_voltage, {
    mayTrip: true,
    within: { least: -LEAP.least * capacityAh, most: Infinity },
  });
}

interface Flow {
  /** What carries it may trip: then a current that is gone for a row has happened. */
  mayTrip: boolean;
  /** What can flow, A; null where that is not known. */
  within: { least: number; most: number } | null;
}

function markOne(
  time: Float64Array,
  amps: Float32Array,
  volts: Float32Array | undefined,
  { capacityAh, ohms }: Possible,
  { mayTrip, within }: Flow,
  isWild: Uint8Array,
): void {
  const least = LEAP.least * capacityAh;
  if (!leaps(amps, least)) return;
  const rows = writtenRows(amps);
  const limit = gapLimit(stepOf(time, rows));
  const stepTo = (k: number): number => {
    const [last, at] = [rows[k - 1]!, rows[k]!];
    return time[at]! - time[last]! > limit ? NaN : amps[at]! - amps[last]!;
  };
  const { noise, quantum } = volts && ohms ? resolutionOf(volts) : { noise: Infinity, quantum: 0 };
  const goes = (step: number) => STIFF.ohms * Math.abs(step) * (ohms ?? 0);
  const shows = (step: number) => goes(step) > CLEAR * Math.max(noise, quantum / 2);
  /** By how much the voltage moves with a step, in parts of what the stiffest pack would; NaN where it was not written. */
  const moves = (step: number, k: number) => Math.abs(volts![rows[k]!]! - volts![rows[k - 1]!]!) / goes(step);
  const stands = (step: number, k: number) => moves(step, k) < STIFF.part;
  const beyond = (k: number) =>
    within !== null && (amps[rows[k]!]! < within.least || amps[rows[k]!]! > within.most);
  const wild: number[] = [];
  const silent: number[] = [];
  let others = 0;
  let followed = 0;
  for (let k = 1; k < rows.length; k++) {
    const step = stepTo(k);
    if (!(Math.abs(step) >= least)) continue;
    const back = k + 1 < rows.length ? stepTo(k + 1) : NaN;
    const leap = Math.min(Math.abs(step), Math.abs(back));
    const isLeap = leap >= least && Math.abs(step + back) <= LEAP.agree * leap;
    const isBeyond = isLeap && beyond(k) && !beyond(k - 1) && !beyond(k + 1);
    const isSilent = isLeap && shows(leap) && stands(leap, k) && stands(leap, k + 1);
    if (isBeyond || (isSilent && !(mayTrip && step < 0))) {
      (isBeyond ? wild : silent).push(k);
      // The step back belongs to the leap.
      k++;
    } else if (shows(step) && moves(step, k) >= 0) {
      others++;
      if (!stands(step, k)) followed++;
    }
  }
  if (followed + FEW >= TOGETHER * (others + FEW)) wild.push(...silent);
  if (wild.length <= MOST_SHARE * rows.length) for (const k of wild) isWild[rows[k]!] = 1;
}

/** Whether a current is anywhere far from the one before: all logs go through this. */
function leaps(amps: Float32Array, least: number): boolean {
  let before = NaN;
  for (let i = 0; i < amps.length; i++) {
    const now = amps[i]!;
    if (now !== now) continue;
    if (Math.abs(now - before) >= least) return true;
    before = now;
  }
  return false;
}
