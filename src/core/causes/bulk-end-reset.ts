/** The percentage is a charger's own: it counts its own current alone, and takes the end of its bulk for a fixed state. */

import { median } from '../quantity/numbers';
import { MINUTE } from '../quantity/span';
import { counted, percent } from '../quantity/text';
import type { Cause, Evidence } from './cause';
import { DRIFT_PRIOR, missingMonitor } from './drifting';
import { isMadeFromVolts, resetsIn } from './reading';

const WEIGHTS = {
  /** Configured: the reading is the source's own count, and to what it resets. */
  told: 15,
  configuredAlone: 6,
  configuredReset: 3,
  counts: -5,
  /** Jumps to one and the same value under full, again and again. */
  sameJumps: 15,
  /** Twice may be chance. */
  twice: 8,
  noJumps: -1,
  /** A reading that follows the voltage comes to one value again and again too. */
  madeFromVolts: -12,
} as const;

export const bulkEndReset: Cause = {
  code: 'bulk-end-reset',
  title: 'The percentage is the charger’s own, reset at the end of bulk',
  complaint: 'drifting-soc',
  chemistries: 'all',
  families: ['reading'],
  needs: 'the percentage over several charges',
  signature: 'jumps to the same value at each end of bulk, whatever was in the battery',
  prior: DRIFT_PRIOR,
  weights: WEIGHTS,
  tests: {
    'other-sources-on': [
      { name: 'the percentage stays while another source charges', ifHolds: 0.9, ifNot: 0.06 },
      { name: 'it rises', ifHolds: 0.1, ifNot: 0.94 },
    ],
  },
  described({ system, counting }): Evidence[] {
    const { method, bulkEndPercent } = system.monitor ?? {};
    if (!method) return [];
    // What was seen goes before what was told.
    if (method !== 'source-count' && counting && resetsIn(counting).same.length > 2) return [];
    if (method !== 'source-count')
      return [
        { text: 'The monitor has a sensor of its own.', decibans: WEIGHTS.counts, group: 'told', spans: [] },
      ];
    const others = system.sources.length > 1;
    return [
      {
        text: `The percentage is a charger’s own count${others ? ', and other sources charge this battery' : ''}.`,
        decibans: others ? WEIGHTS.told : WEIGHTS.configuredAlone,
        group: 'told',
        spans: [],
      },
      ...(bulkEndPercent === undefined
        ? []
        : [
            {
              text: `At each end of its bulk it is set to ${percent(bulkEndPercent)}.`,
              decibans: WEIGHTS.configuredReset,
              group: 'told',
              spans: [],
            },
          ]),
    ];
  },
  weigh({ counting, system }): Evidence[] {
    if (!counting) return [];
    const isMade = isMadeFromVolts(counting);
    const { within, same } = resetsIn(counting);
    if (same.length < 2)
      return within.length === 0
        ? [
            {
              text: 'The reading never jumps to a value under full.',
              decibans: WEIGHTS.noJumps,
              group: 'jumps',
              spans: [counting.logged],
            },
          ]
        : [];
    const middle = median(same.map((one) => one.to));
    return [
      ...(isMade || system.monitor?.method === 'voltage'
        ? [
            {
              text: isMade
                ? 'But the same voltage gives the same reading: it comes there with the voltage.'
                : 'But the monitor makes its percentage from the voltage: it comes there with the voltage.',
              decibans: WEIGHTS.madeFromVolts,
              group: 'volts',
              spans: [],
            },
          ]
        : []),
      {
        text: `${counted(same.length, 'time')} the reading jumped to about ${percent(middle)}, from anywhere between ${percent(Math.min(...same.map((one) => one.from)))} and ${percent(Math.max(...same.map((one) => one.from)))}.`,
        decibans: same.length > 2 ? WEIGHTS.sameJumps : WEIGHTS.twice,
        group: 'jumps',
        spans: same.map(({ at }) => ({ from: at - 5 * MINUTE, to: at + 5 * MINUTE })),
      },
    ];
  },
  remedy: () => ({
    text: 'Fit a shunt that everything passes, or take the reading from the BMS; where one source charges alone, live with the reset, and mind that it knows of nothing that is wired to the battery directly.',
    caution: null,
  }),
  missing: missingMonitor,
};
