/** The battery's resistance by steps of its current: what the voltage moves by within a sample or two, over what the current moves by. */

import { interpolateAt } from '../count/interpolateAt';
import { mean, median, sum } from '../quantity/numbers';
import { MINUTE } from '../quantity/span';
import { medianStep } from '../log/grid';
import { anyLogWith, type Timeline } from '../log/timeline';
import type { KnownBank } from '../system/known';
import { bankOhms, coldShare } from '../system/sag';
import type { StepResistance } from './types';

/** Steps of at least this part of the capacity, A; fewest that tell, and most that are needed. */
const STEP = { least: 0.02, fewest: 12, most: 4000 };
/** Samples further apart than this show more than the resistance. */
const APART = 2.5 * MINUTE;
/** Of what some minutes of load cost, steps within a sample show so much (common practice, no source). */
const AT_ONCE = 0.7;

/** What is nearly empty shows more than its resistance, %. */
const CHARGED = 40;
/** The furthest out at either end are left out. */
const TRIM = 0.1;

/**
 * Null where current and voltage of the battery were not logged together, or hardly ever stepped.
 * @param heldAt what the battery held at a moment, %, NaN where not known
 */
export function stepResistance(
  bank: KnownBank,
  timeline: Timeline,
  heldAt: (at: number) => number,
): StepResistance | null {
  const log =
    timeline.series.find(
      (one) => one.channels.battery_current && one.channels.battery_voltage && one.device !== 'bms',
    ) ?? anyLogWith(timeline, 'battery_current');
  const volts = log?.channels.battery_voltage;
  const amps = log?.channels.battery_current;
  if (!log || !volts || !amps || medianStep(log.time) > APART) return null;
  const steps: { at: number; amps: number; ohms: number }[] = [];
  for (let i = 2; i + 1 < amps.length && steps.length < STEP.most; i++) {
    const step = amps[i]! - amps[i - 1]!;
    if (!(Math.abs(step) >= STEP.least * bank.capacityAh) || log.time[i]! - log.time[i - 1]! > APART)
      continue;
    // Out of the battery before and after: what charges it moves the voltage by more than its resistance.
    if (!(amps[i]! < 0 && amps[i - 1]! < 0)) continue;
    // It stood before, and it stays after.
    if (Math.abs(amps[i - 1]! - amps[i - 2]!) > 0.3 * Math.abs(step)) continue;
    if (Math.abs(amps[i + 1]! - amps[i]!) > 0.3 * Math.abs(step)) continue;
    const moved = volts[i]! - volts[i - 1]!;
    if (moved !== moved || volts[i]! < 6 || volts[i - 1]! < 6 || heldAt(log.time[i]!) < CHARGED) continue;
    steps.push({ at: log.time[i]!, amps: Math.abs(step), ohms: moved / step });
  }
  if (steps.length < STEP.fewest) return null;
  const sorted = steps.sort((a, b) => a.ohms - b.ohms);
  const cut = Math.floor(TRIM * sorted.length);
  const kept = sorted.slice(cut, sorted.length - cut);
  // A coarse meter shows most steps as none and some as too large: their mean by weight is right all the same.
  const total = sum(kept.map((one) => one.amps));
  const ohms = sum(kept.map((one) => one.amps * one.ohms)) / total;
  const heat = anyLogWith(timeline, 'battery_temperature');
  // Loads run at night too: what counts is how cold it was at the steps.
  const times = Float64Array.from(steps.map((one) => one.at)).sort();
  const celsius = heat ? median(interpolateAt(heat.time, heat.channels.battery_temperature!, times)) : NaN;
  return {
    ohms,
    error: deviation(kept.map((one) => one.ohms)) / Math.sqrt(kept.length),
    steps: steps.length,
    usual: AT_ONCE * bankOhms(bank) * coldShare(bank.chemistry, celsius),
  };
}

function deviation(values: readonly number[]): number {
  const middle = mean(values);
  return Math.sqrt(mean(values.map((one) => (one - middle) ** 2)));
}
