/** The battery's resistance by steps of its current: what the voltage moves by within a sample or two, over what the current moves by. */

import { interpolateAt } from '../log/interpolateAt';
import { isNumber, mean, median, quantile, sum } from '../quantity/numbers';
import { medianStep } from '../log/grid';
import { anyLogWith, type Timeline } from '../log/timeline';
import { chargingVolts } from '../count/unseen';
import type { KnownBank } from '../system/known';
import { bankOhms, coldShare } from '../system/sag';
import { APART, drawnSteps } from './steps';
import { type Measure, resistanceTrend } from './trend';
import type { StepResistance } from './types';

/** Steps of at least this part of the capacity, A; fewest that tell, and most that are needed. */
const STEP = { least: 0.02, fewest: 12 };
/** Fewer tell as well where they are alike: parts of their median that all but the furthest out are within. */
const ALIKE = { fewest: 6, spread: 0.15 };
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
  const heat = anyLogWith(timeline, 'battery_temperature');
  const found = drawnSteps(log.time, amps, STEP.least * bank.capacityAh);
  // Loads run at night too: what counts is how cold it was at the steps.
  const at = Float64Array.from(found, (i) => log.time[i]!);
  const celsius = heat ? interpolateAt(heat.time, heat.channels.battery_temperature!, at) : null;
  const charging = chargingVolts(bank);
  const steps: Step[] = [];
  found.forEach((i, k) => {
    const step = amps[i]! - amps[i - 1]!;
    const moved = volts[i]! - volts[i - 1]!;
    if (moved !== moved || volts[i]! < 6 || volts[i - 1]! < 6 || heldAt(at[k]!) < CHARGED) return;
    // A charger that comes as the load goes moves the voltage; its current may lie within the noise.
    if (Math.max(volts[i]!, volts[i - 1]!) >= charging) return;
    steps.push({
      at: at[k]!,
      weight: Math.abs(step),
      ohms: moved / step,
      celsius: celsius ? celsius[k]! : NaN,
    });
  });
  if (steps.length < STEP.fewest && !areAlike(steps)) return null;
  const sorted = [...steps].sort((a, b) => a.ohms - b.ohms);
  const cut = Math.floor(TRIM * sorted.length);
  const kept = sorted.slice(cut, sorted.length - cut);
  // A coarse meter shows most steps as none and some as too large: their mean by weight is right all the same.
  const total = sum(kept.map((one) => one.weight));
  const ohms = sum(kept.map((one) => one.weight * one.ohms)) / total;
  const cold = ({ celsius: at }: Step) => coldShare(bank.chemistry, at);
  const usualCold = coldShare(bank.chemistry, median(steps.map((one) => one.celsius).filter(isNumber)));
  return {
    ohms,
    error: deviation(kept.map((one) => one.ohms)) / Math.sqrt(kept.length),
    steps: steps.length,
    usual: AT_ONCE * bankOhms(bank) * usualCold,
    // Brought to one temperature: a cold week is no ageing.
    trend: resistanceTrend(kept.map((one) => ({ ...one, ohms: (one.ohms * usualCold) / cold(one) }))),
  };
}

function areAlike(steps: readonly Step[]): boolean {
  if (steps.length < ALIKE.fewest) return false;
  const ohms = steps.map((one) => one.ohms);
  return quantile(ohms, 0.9) - quantile(ohms, 0.1) <= ALIKE.spread * Math.abs(median(ohms));
}

interface Step extends Measure {
  celsius: number;
}

function deviation(values: readonly number[]): number {
  const middle = mean(values);
  return Math.sqrt(mean(values.map((one) => (one - middle) ** 2)));
}
