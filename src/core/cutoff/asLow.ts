/** A load that is drawn again at once, with the battery hardly higher than where it ended, has no limit there: it was switched off. */

import { medianStep } from '../log/grid';
import { HOUR, MINUTE } from '../quantity/span';
import { blocksInSeries } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import type { Found } from './alike';
import { type Drop, endVolts } from './drops';
import { voltLimits } from './loadCurrents';
import type { Moment } from './moment';

/**
 * What lets go at a low voltage waits for the battery to recover, by half a volt a 12 V block and more (common practice, no source). Drawn
 * again within so long, with the battery less than this above where it ended, V a 12 V block, by at least this part of the current and for
 * so many samples and so long, it has not waited; a retry of an inverter is over sooner.
 */
const SOON = { within: 2 * HOUR, after: 3 * MINUTE, samples: 3, above: 0.1, amps: 0.5 };
const RAN = 4 * MINUTE;
/** Of a load's cut-offs by an unknown limit so many parts, and at least so many, show that it has none. */
const MOSTLY = { part: 0.5, fewest: 3 };

/**
 * Cut-offs without those by a limit that nobody knows, of loads that come back as low as they ended.
 * @param drops of all loads
 */
export function withoutAsLow(
  found: readonly Found[],
  drops: readonly Drop[],
  system: KnownSystem,
  readMoment: (at: number) => Moment,
): Found[] {
  const isGuess = ({ drop, why }: Found): boolean =>
    drop !== null && why === 'volts' && voltLimits(system, drop.load).length === 0;
  const above = SOON.above * blocksInSeries(system.bank);
  const comesBack = (drop: Drop): boolean =>
    drops.some((next) => {
      const step = medianStep(next.load.time);
      const begins = next.at - next.ranMs;
      const away = begins - drop.at;
      return (
        next.load === drop.load &&
        away > Math.max(SOON.after, SOON.samples * step) &&
        away <= SOON.within &&
        next.ranMs >= Math.max(RAN, SOON.samples * step) &&
        next.amps >= SOON.amps * drop.amps &&
        readMoment(begins).volts < endVolts(drop) + above
      );
    });
  const guesses = found.filter(isGuess);
  const withNone = new Set(
    guesses
      .map(({ drop }) => drop!.load)
      .filter((load) => {
        const own = guesses.filter(({ drop }) => drop!.load === load);
        const back = own.filter(({ drop }) => comesBack(drop!)).length;
        return back >= MOSTLY.fewest && back >= MOSTLY.part * own.length;
      }),
  );
  return found.filter((one) => !(isGuess(one) && withNone.has(one.drop!.load)));
}
