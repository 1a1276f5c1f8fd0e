/** Something that starts draws so much for a moment that a protection trips. */

import { isNumber, median } from '../quantity/numbers';
import { amps, counted, volts } from '../quantity/text';
import { isLead } from '../system/chemistry';
import { NEARLY_TRIPS } from '../cutoff/types';
import { type Cause, type Evidence, shrunk, weightOf } from './cause';
import { CUT_PRIOR, cuttingOf, missingCuts } from './cutting';

const WEIGHTS = {
  /** Share of the cut-offs that came with a spike of the current. */
  share: [
    [0.6, 15],
    [0.3, 9],
    [0.01, 2],
    [0, -8],
  ],
  /** The spike was more than what its protection is set to. */
  overSet: 4,
  /** V a 12 V block at the battery under the spike: what runs so high was not cut for want of voltage. */
  leadStoodAt: [
    [11.6, 3],
    [0, 0],
  ],
  lithiumStoodAt: [
    [12.4, 3],
    [0, 0],
  ],
} as const;

/** Part of the cut-offs that came with a spike. */
const MOSTLY = 0.6;

export const surgeTrip: Cause = {
  code: 'surge-trip',
  title: 'A starting current trips the protection',
  complaint: 'premature-cutoff',
  chemistries: 'all',
  families: ['discharge'],
  needs: 'the load’s current every few seconds, and what its protection trips at',
  signature: 'a spike of the current just before, with a healthy voltage',
  prior: CUT_PRIOR,
  onlyWhenSpokenOf: true,
  weights: WEIGHTS,
  tests: {
    'start-the-load-alone': [
      { name: 'it trips as it starts', ifHolds: 0.85, ifNot: 0.08 },
      { name: 'it starts', ifHolds: 0.15, ifNot: 0.92 },
    ],
  },
  weigh(seen): Evidence[] {
    const cuts = cuttingOf(seen);
    if (!cuts) return [];
    const spikes = cuts.list.filter((one) => one.why === 'surge');
    const evidence: Evidence[] = [
      {
        text:
          spikes.length === 0
            ? 'No cut-off came with a spike of the current.'
            : `${counted(spikes.length, 'cut-off')} of ${cuts.list.length} came with a spike of ${amps(median(spikes.map((one) => one.loadAmps)))}.`,
        decibans: shrunk(weightOf(WEIGHTS.share, cuts.share('surge')), cuts.list.length),
        group: 'spikes',
        spans: cuts.spans,
      },
    ];
    if (cuts.share('surge') < MOSTLY) return evidence;
    const sets = seen.system.loads.flatMap(({ id, surgeA }) =>
      surgeA !== undefined && spikes.some((one) => one.by === id) ? [surgeA] : [],
    );
    const spike = median(spikes.map((one) => one.loadAmps));
    if (sets.length > 0 && spike >= NEARLY_TRIPS * Math.min(...sets))
      evidence.push({
        text: `Its protection is set to ${amps(Math.min(...sets))}.`,
        decibans: shrunk(WEIGHTS.overSet, spikes.length),
        group: 'set',
        spans: [],
      });
    const table = isLead(seen.bank.chemistry) ? WEIGHTS.leadStoodAt : WEIGHTS.lithiumStoodAt;
    const stood = isNumber(cuts.volts) ? shrunk(weightOf(table, cuts.volts), spikes.length) : 0;
    if (stood > 0)
      evidence.push({
        text: `Under the spike the battery stood at ${volts(cuts.volts)} a 12 V block: it did not lack voltage.`,
        decibans: stood,
        group: 'stood',
        spans: [],
      });
    return evidence;
  },
  missing: missingCuts,
  remedy: () => ({
    text: 'Start the loads one after the other, or fit a soft start; size fuse, cable and protection for the largest start on top of what runs.',
    caution: 'Never a larger fuse than its cable carries.',
  }),
};
