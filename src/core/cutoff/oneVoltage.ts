/**
 * Runs that end at one voltage, however long they ran: a limit ended them, though the battery stands above it. What lies between is lost
 * in the load's cable.
 */

import { medianStep } from '../log/grid';
import { median, robustDeviation } from '../quantity/numbers';
import { blocksInSeries } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import type { Found } from './alike';
import { type Drop, LEAST_PART } from './drops';
import { idOf, voltLimits } from './loadCurrents';

/** So far above its limit the battery may stand, V a 12 V block: more no cable that was laid for its load loses (common practice, no source). */
const ABOVE = 0.5;
/** Runs of about one current: within these parts of it. */
const LIKE = 0.25;
const FEWEST = 5;
/** The ends agree in voltage: within this part of what their lengths would part them by as the voltage sank, and that is so much at least, V a 12 V block. */
const AGREE = { part: 0.35, least: 0.08 };
/** And those within so much of their middle are the ones that were cut, V a 12 V block. */
const NEAR = 0.12;

/** @param drops beside which other loads go on, that nothing else explains */
export function endAtOneVoltage(drops: readonly Drop[], system: KnownSystem): Found[] {
  const blocks = blocksInSeries(system.bank);
  return [...new Set(drops.map((one) => one.load))].flatMap((load): Found[] => {
    const limits = voltLimits(system, load);
    if (limits.length === 0) return [];
    const limit = Math.max(...limits);
    const step = medianStep(load.time);
    const near = drops.filter(
      ({ load: own, fell, at, ranMs, moment: { volts, sinks } }) =>
        own === load &&
        fell >= LEAST_PART * system.bank.capacityAh &&
        volts <= limit + ABOVE * blocks &&
        at - ranMs + step < sinks.since,
    );
    const amps = median(near.map((one) => one.amps));
    const runs = near.filter((one) => Math.abs(one.amps / amps - 1) <= LIKE);
    if (runs.length < FEWEST) return [];
    const volts = runs.map((one) => one.moment.volts);
    const parted =
      (robustDeviation(runs.map((one) => one.ranMs)) / step) *
      median(runs.map((one) => one.moment.sinks.volts));
    if (!(parted >= AGREE.least * blocks && robustDeviation(volts) < AGREE.part * parted)) return [];
    const level = median(volts);
    return runs
      .filter((one) => Math.abs(one.moment.volts - level) <= NEAR * blocks)
      .map((drop) => ({ drop, at: drop.at, by: idOf(load), why: 'volts', moment: drop.moment }));
  });
}
