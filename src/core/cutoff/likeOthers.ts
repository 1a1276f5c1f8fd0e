/** Runs that end where others of the same load were cut: what its cable loses puts both as far above its limit. */

import { isNumber, median } from '../quantity/numbers';
import { blocksInSeries } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import type { Found } from './alike';
import { type Drop, endVolts, isOfCurrent } from './drops';
import { idOf, voltLimits } from './loadCurrents';
import { perClass } from './runs';

/** So many that sank slowly to their end show where that is. */
const FEWEST = 5;
/** As low is within so much of them, V a 12 V block, and within what the voltage sinks by in so many samples. */
const AS_LOW = { volts: 0.02, samples: 2 };

/** @param ended beside which other loads go on, that nothing else explains, without runs of a usual length @param found cut-offs so far */
export function endLikeOthers(ended: readonly Drop[], found: readonly Found[], system: KnownSystem): Found[] {
  const near = AS_LOW.volts * blocksInSeries(system.bank);
  const level = perClass((load, amps) => {
    const limit = Math.max(...voltLimits(system, load));
    const others = found.flatMap(({ drop, why }) =>
      // What sinks far under its limit at once says nothing of the cable.
      drop?.load === load && why === 'volts' && isOfCurrent(drop, amps) && endVolts(drop) > limit
        ? [endVolts(drop)]
        : [],
    );
    return others.length < FEWEST ? -Infinity : median(others) + near;
  });
  return ended.flatMap((drop): Found[] => {
    const { load, amps, moment, loadVolts } = drop;
    // At the load's own terminals the limit itself is seen.
    if (isNumber(loadVolts)) return [];
    const sinks = AS_LOW.samples * Math.max(0, moment.sinks.volts || 0);
    return endVolts(drop) <= level(load, amps) + sinks
      ? [{ drop, at: drop.at, by: idOf(load), why: 'volts', moment }]
      : [];
  });
}
