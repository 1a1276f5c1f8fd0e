/** A load loses as much in its cable each time, and less with less current: what ends far above where it is cut as a rule has ended by itself. */

import { median, robustDeviation } from '../quantity/numbers';
import { blocksInSeries } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import type { Found } from './alike';
import { type Drop, endVolts } from './drops';
import { voltLimits } from './loadCurrents';

/**
 * So many cut-offs at its current or more, but for this part of it, show where that is. Far above is so much, V a 12 V block, or so many of the
 * deviations that they have themselves, and what the voltage sinks by in so many samples: a log does not see the lowest.
 */
const RULE = { fewest: 5, less: 0.25, above: 0.1, deviations: 3, samples: 2 };

/** Cut-offs by a voltage that is known and seen from the battery, without those that lie far above the others of the same load. */
export function withoutFarAbove(found: readonly Found[], system: KnownSystem): Found[] {
  const seen = found.flatMap(({ drop, why }) =>
    drop &&
    why === 'volts' &&
    !(drop.loadVolts === drop.loadVolts) &&
    voltLimits(system, drop.load).length > 0
      ? [drop]
      : [],
  );
  const isFar = (drop: Drop): boolean => {
    const others = seen.filter((one) => one.load === drop.load && one.amps >= (1 - RULE.less) * drop.amps);
    // A cable only ever loses: what sinks far under the limit before it is cut says nothing of that.
    const limit = Math.max(...voltLimits(system, drop.load));
    const volts = others.map((one) => Math.max(endVolts(one), limit));
    const above =
      Math.max(RULE.above * blocksInSeries(system.bank), RULE.deviations * robustDeviation(volts)) +
      RULE.samples * Math.max(0, drop.moment.sinks.volts || 0);
    return others.length >= RULE.fewest && endVolts(drop) > median(volts) + above;
  };
  const far = new Set(seen.filter(isFar));
  return found.filter(({ drop }) => drop === null || !far.has(drop));
}
