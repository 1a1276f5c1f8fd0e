/**
 * Runs that end at one voltage, however long they ran: a limit ended them, though the battery stands above it. What lies between is lost
 * in the load's cable.
 */

import { medianStep } from '../log/grid';
import { median, quantile, robustDeviation } from '../quantity/numbers';
import { blocksInSeries } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import type { Found } from './alike';
import { type Drop, isOfCurrent, LEAST_PART } from './drops';
import { idOf, voltLimits } from './loadCurrents';

/** So far above its limit the battery may stand, V a 12 V block: more no cable that was laid for its load loses (common practice, no source). */
const ABOVE = 0.5;
const FEWEST = 5;
/** The ends agree in voltage: within this part of what their lengths would part them by as the voltage sank, and that is so much at least, V a 12 V block. */
const AGREE = { part: 0.35, least: 0.08 };
/** Runs of one length scatter by no more than this part of it. */
const ONE_LENGTH = 0.03;
/** Runs that are all of one length, and shorter than the whole ones, end nearer their limit, V a 12 V block. */
const CLOSE = 0.2;
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
    const isLike = (one: Drop) => isOfCurrent(one, amps);
    const runs = near.filter(isLike);
    const close = runs.filter((one) => one.moment.volts <= limit + CLOSE * blocks);
    const whole = wholeLength(
      drops.filter((one) => one.load === load && isLike(one) && !close.includes(one)),
    );
    const agree = (some: readonly Drop[], apartMs: number, deviation = robustDeviation) => {
      if (some.length < FEWEST) return false;
      const parted = (apartMs / step) * median(some.map((one) => one.moment.sinks.volts));
      const spread = deviation(some.map((one) => one.moment.volts));
      return parted >= AGREE.least * blocks && spread < AGREE.part * parted;
    };
    const lengths = runs.map((one) => one.ranMs);
    // Where days are alike the runs that were cut are of one length too: the whole ones are longer.
    const cut = [robustDeviation, widthOf].some((deviation) => agree(runs, deviation(lengths), deviation))
      ? runs
      : agree(close, whole - Math.max(...close.map((one) => one.ranMs)))
        ? close
        : [];
    const level = median(cut.map((one) => one.moment.volts));
    return cut
      .filter((one) => Math.abs(one.moment.volts - level) <= NEAR * blocks)
      .map((drop) => ({ drop, at: drop.at, by: idOf(load), why: 'volts', moment: drop.moment }));
  });
}

/** Standard deviation by the middle four fifths: of runs by noon and by night, which are of two lengths, the middle says nothing. */
const widthOf = (values: ArrayLike<number>): number => (quantile(values, 0.9) - quantile(values, 0.1)) / 2.56;

/** How long runs are that are all of one length, ms; 0 where they are not. */
function wholeLength(runs: readonly Drop[]): number {
  if (runs.length < FEWEST) return 0;
  const lengths = runs.map((one) => one.ranMs);
  const middle = median(lengths);
  return robustDeviation(lengths) <= ONE_LENGTH * middle ? middle : 0;
}
