/** Something that starts draws so much for a moment that a protection trips. */

import { median } from '../quantity/numbers';
import { amps, counted } from '../quantity/text';
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
} as const;

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
    return [
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
  },
  missing: missingCuts,
  remedy: () => ({
    text: 'Start the loads one after the other, or fit a soft start; size fuse, cable and protection for the largest start on top of what runs.',
    caution: 'Never a larger fuse than its cable carries.',
  }),
};
