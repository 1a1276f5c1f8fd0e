/** What was read and proved on site says for and against a cause. */

import type { Cause, Evidence, Observations } from '../causes/cause';
import { isBegun, judgeVisit } from '../onsite/judge';
import type { FactCode, Said } from '../onsite/said';
import { STOPS } from '../onsite/visit';

/** Facts that the description says again, once they have been fed into it: they are counted together. */
const TOLD: readonly FactCode[] = ['source-unseen', 'sources-shown', 'load-unseen', 'loads-shown'];

const judged = new WeakMap<object, Said[]>();

/** Of each stop what the last visit says that was there. */
function factsOf({ system, job, visits }: Observations): Said[] {
  const known = judged.get(visits);
  if (known) return known;
  const facts = STOPS.flatMap((stop) => {
    const last = visits.findLast((one) => isBegun(one, stop));
    return last ? judgeVisit(system, last, job.checks)[stop].filter((one) => one.fact) : [];
  });
  judged.set(visits, facts);
  return facts;
}

export function evidenceOfVisits(seen: Observations, weights: Cause['onSite'] = {}): Evidence[] {
  if (seen.visits.length === 0) return [];
  return factsOf(seen).flatMap(({ fact, text }): Evidence[] => {
    const decibans = fact && weights[fact];
    return decibans
      ? [
          {
            text: `On site: ${text}`,
            decibans,
            group: TOLD.includes(fact) ? 'told' : `site-${fact}`,
            spans: [],
          },
        ]
      : [];
  });
}
