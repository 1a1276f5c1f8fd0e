/** A percentage lets go where the reading comes to it: what ran on under it, where others were cut at it, has ended by itself. */

import type { KnownSystem } from '../system/known';
import type { Found } from './alike';
import type { Drop } from './drops';
import { loadOf } from './loadCurrents';

/** So many cut-offs within so many points of a percentage that is known show where it lets go, besides what the reading falls by until the next sample. */
const AT = { fewest: 3, points: 1 };

/**
 * Cut-offs by a percentage that is known, without those that lie further under it than others of the same load.
 * @param isRefused whether a run was over as it began: under its percentage a load is let go at once
 */
export function withoutFarUnder(
  found: readonly Found[],
  system: KnownSystem,
  isRefused: (drop: Drop) => boolean,
): Found[] {
  /** Points to the percentage that is nearest to what was shown; under it they are negative. */
  const over = ({ load, moment: { shown } }: Drop): number =>
    loadOf(system, load).reduce((nearest, { cutoffPercent = NaN }) => {
      const points = shown - cutoffPercent;
      return !(Math.abs(points) >= Math.abs(nearest)) && points === points ? points : nearest;
    }, NaN);
  const byPercent = found.flatMap(({ drop, why }) => (drop && why === 'percent' ? [drop] : []));
  const at = byPercent.filter((one) => Math.abs(over(one)) <= AT.points);
  const far = new Set(
    byPercent.filter(
      (drop) =>
        over(drop) < -AT.points - Math.max(0, drop.moment.shownFalls || 0) &&
        !isRefused(drop) &&
        at.filter((one) => one.load === drop.load).length >= AT.fewest,
    ),
  );
  return found.filter(({ drop }) => drop === null || !far.has(drop));
}
