/** A load loses as much in its cable each time, and less with less current: what ends far above where it is cut as a rule has ended by itself. */

import { medianStep } from '../log/grid';
import { isNumber, mean, median, robustDeviation } from '../quantity/numbers';
import { blocksInSeries } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import type { Found } from './alike';
import { laterInDay } from './byClock';
import { type Drop, endVolts } from './drops';
import { voltLimits, WIRING_VOLTS } from './loadCurrents';

/**
 * So many that end within so many samples of one time of the day are a clock's doing where they lie this much above as a rule, V a 12 V
 * block, and two steps of the meter: what is cut ends at one voltage. Of many against many the means tell a single step apart.
 */
const DAILY = { fewest: 4, within: 1.5, above: 0.02, samples: 1, steps: 2 };
const MANY = 8;

/**
 * So many cut-offs at its current or more, but for this part of it, show where that is. Far above is so much, V a 12 V block, or so many of the
 * deviations that they have themselves, and what the voltage sinks by in so many samples: a log does not see the lowest.
 */
const RULE = { fewest: 5, less: 0.25, above: 0.1, deviations: 3, samples: 2, steps: 0 };

/** What sinks by more between two samples, V a 12 V block, is as likely to be written far under where it was cut. */
const STEEP = 0.15;
/** A load that is cut within so many samples of its begin may have fallen far under its limit at once. */
const AT_ONCE = 2;

/**
 * Cut-offs by a voltage that is known, without those that lie far above the others of the same load.
 * @param quantum least step of the battery's voltage in the log, V
 */
export function withoutFarAbove(found: readonly Found[], system: KnownSystem, quantum = 0): Found[] {
  const seen = found.flatMap(({ drop, why }) =>
    drop && why === 'volts' && voltLimits(system, drop.load).length > 0 ? [drop] : [],
  );
  /** Whether drops that end alike lie above where the load is cut as a rule, by as much as a rule asks for. */
  const isHigher = (
    some: readonly Drop[],
    rule: { above: number; samples: number; steps: number },
  ): boolean => {
    const { load, amps, loadVolts } = some[0]!;
    const alike = new Set(some);
    const atOnce = AT_ONCE * medianStep(load.time);
    const others = seen.filter(
      (one) =>
        one.load === load &&
        !alike.has(one) &&
        isNumber(one.loadVolts) === isNumber(loadVolts) &&
        one.ranMs > atOnce,
    );
    const limit = Math.max(...voltLimits(system, load));
    const blocks = blocksInSeries(system.bank);
    const sinks = Math.max(0, median(some.map(({ moment }) => moment.sinks.volts)) || 0);
    const isAbove = (those: readonly Drop[]): boolean => {
      if (those.length < RULE.fewest) return false;
      // A cable only ever loses: what sinks far under the limit before it is cut says nothing of how much.
      const slow = those.filter((one) => endVolts(one) > limit && !(one.moment.sinks.volts > STEEP * blocks));
      const least = isNumber(loadVolts) ? limit : limit + WIRING_VOLTS * blocks;
      const volts = (slow.length >= RULE.fewest ? slow : those).map((one) => Math.max(endVolts(one), least));
      const areMany = some.length >= MANY && volts.length >= MANY;
      const over =
        Math.max(
          rule.above * blocks,
          (RULE.deviations * robustDeviation(volts)) / Math.sqrt(some.length),
          (areMany ? rule.steps / 2 : rule.steps) * quantum,
        ) +
        rule.samples * sinks;
      const middle = areMany ? mean : median;
      return middle(some.map(endVolts)) > middle(volts) + over;
    };
    const drawsAsMuch = (one: Drop) => one.amps >= (1 - RULE.less) * amps;
    // What draws plainly more is cut higher; many that end alike above it are no rule against that.
    const more = others.filter((one) => amps <= (1 - RULE.less) * one.amps);
    // What draws less is cut lower; where it ends as high, this is not high.
    const less = others.filter((one) => !drawsAsMuch(one));
    return (
      (isAbove(others.filter(drawsAsMuch)) || isAbove(more)) && (less.length < RULE.fewest || isAbove(less))
    );
  };
  const isDaily = (drop: Drop): boolean => {
    const within = DAILY.within * medianStep(drop.load.time);
    const then = seen.filter(
      (one) => one.load === drop.load && Math.abs(laterInDay(one.at, drop.at)) <= within,
    );
    return then.length >= DAILY.fewest && isHigher(then, DAILY);
  };
  const far = new Set(seen.filter((one) => isHigher([one], RULE) || isDaily(one)));
  return found.filter(({ drop }) => drop === null || !far.has(drop));
}
