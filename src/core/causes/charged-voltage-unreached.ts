/** The charged voltage of the monitor is above what the chargers reach. */

import { volts } from '../quantity/text';
import { blocksInSeries, isLead } from '../system/chemistry';
import type { Cause, Evidence, Observations } from './cause';
import { DRIFT_PRIOR, missingMonitor } from './drifting';
import { MISSED_WEIGHTS, weighMissed } from './missedSync';

const WEIGHTS = {
  ...MISSED_WEIGHTS,
  /** Set above every charger's charge voltage, or well under the lowest. */
  setAbove: 9,
  /** The same for lithium, plainly: nothing raises what its chargers hold. */
  setPlainlyAbove: 14,
  setUnder: -3,
} as const;

/** At this and above, V a 12 V block, it is above; so much is plainly so. */
const ABOVE = { least: -0.02, plainly: 0.1 };

/** Charge voltages of the chargers across the whole bank, V; null where one is not known. */
function chargeVolts({ system }: Observations): number[] | null {
  const all = system.sources.filter((one) => (one.across ?? 'bank') === 'bank');
  const told = all.flatMap(({ profile }) => profile.absorptionV ?? []);
  return told.length === all.length && told.length > 0 ? told : null;
}

export const chargedVoltageUnreached: Cause = {
  code: 'charged-voltage-unreached',
  title: 'The monitor’s charged voltage is never reached',
  complaint: 'drifting-soc',
  chemistries: 'all',
  families: ['counting'],
  needs: 'the battery’s voltage and current over charges that fill it, and the monitor’s settings',
  signature: 'full charges without a sync; the highest voltage that stands lies below the setting',
  prior: DRIFT_PRIOR,
  weights: WEIGHTS,
  onSite: { 'charged-voltage-above-highest': 14, 'never-synced': 5, 'has-synced': -6 },
  tests: {
    'read-monitor-settings': [
      { name: 'charged voltage above what the charger holds', ifHolds: 0.93, ifNot: 0.05 },
      { name: 'charged voltage well below it', ifHolds: 0.07, ifNot: 0.95 },
    ],
  },
  described(seen): Evidence[] {
    const set = seen.system.monitor?.chargedV;
    const told = chargeVolts(seen);
    if (set === undefined || !told || seen.system.monitor?.method === 'voltage') return [];
    const highest = Math.max(...told);
    const { chemistry, cellsInSeries } = seen.system.bank;
    const blocks = chemistry && cellsInSeries ? blocksInSeries({ chemistry, cellsInSeries }) : highest / 14.4;
    const above = (set - highest) / blocks;
    if (above >= ABOVE.least)
      return [
        {
          text: `The monitor wants ${volts(set)} before it calls the battery full; no charger is set above ${volts(highest)}.`,
          decibans:
            chemistry && !isLead(chemistry) && above >= ABOVE.plainly
              ? WEIGHTS.setPlainlyAbove
              : WEIGHTS.setAbove,
          group: 'settings',
          spans: [],
        },
      ];
    return set < Math.min(...told) - 0.1 * blocks
      ? [
          {
            text: `The monitor’s charged voltage, ${volts(set)}, is under what the chargers are set to.`,
            decibans: WEIGHTS.setUnder,
            group: 'settings',
            spans: [],
          },
        ]
      : [];
  },
  weigh: (seen) => weighMissed(seen, ['voltage']),
  remedy({ counting, bank }) {
    const tops = (counting?.missed ?? []).map((one) => one.topVolts).filter((one) => one === one);
    const set = tops.length > 0 ? Math.min(...tops) - 0.2 * blocksInSeries(bank) : null;
    return {
      text: `Set the charged voltage a little under what the battery is held at${set === null ? '' : `: ${volts(set)}, 0.2 V a 12 V block under the lowest of these charges`}. Then charge once until the charger itself says float, and see that the reading goes to 100 %.`,
      caution: null,
    };
  },
  missing: (seen, evidence) => [
    ...missingMonitor(seen),
    ...(seen.counting && evidence.length === 0 ? ['a charge that fills the battery'] : []),
  ],
};
