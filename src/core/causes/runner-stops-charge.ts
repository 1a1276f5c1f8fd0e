/** A high cell makes the BMS stop the charge before the pack is full. */

import { median } from '../quantity/numbers';
import { DAY, type Span } from '../quantity/span';
import { counted, share, volts } from '../quantity/text';
import { blocksInSeries } from '../system/chemistry';
import { type Cause, type Evidence, shrunk } from './cause';
import { NO_HIDING } from './remedy';

const WEIGHTS = {
  /** The BMS stopped the charge with one cell high above the others. */
  stopped: 15,
  /** The pack was plainly under its charge voltage then. */
  packBelow: 4,
  /** Always the same cell. */
  sameCell: 7,
  /** It did so on few of the days with a charge: what happens now and then keeps no battery from being filled. */
  seldom: -6,
  /** It never stopped the charge for a cell. */
  never: -13,
} as const;

/** V a 12 V block under its charge voltage at which a pack that is stopped is plainly not full. */
const BELOW = 0.15;
/** Part of the days with a charge that is seldom. */
const SELDOM = 0.2;
/** V by which the highest cell stands above the mean of all. */
const AHEAD = 0.08;

export const runnerStopsCharge: Cause = {
  code: 'runner-stops-charge',
  title: 'One high cell stops the charge',
  complaint: 'undercharging',
  chemistries: ['lfp'],
  families: ['bms'],
  needs: 'the log of the BMS with its cells over a few charges',
  signature: 'one cell at its limit, the pack below its target, and the current goes to zero',
  prior: { complained: -7, otherwise: -11 },
  weights: WEIGHTS,
  remedy: ({ bank }) => ({
    text: `Hold the pack near the lower end of its charge range (${bank.chargeVolts.min.toFixed(2)} V) at a small current for hours, so that balancing can bring the high cell down; then raise the voltage step by step. A cell that runs ahead again is weak or has a bad joint.`,
    caution: NO_HIDING,
  }),
  tests: {
    'balance-at-low-current': [
      { name: 'the cell falls in with the others, and charging goes on', ifHolds: 0.85, ifNot: 0.15 },
      { name: 'nothing changes', ifHolds: 0.15, ifNot: 0.85 },
    ],
  },
  weigh({ refusals, system, bank, charging }) {
    if (!refusals) return [];
    const limit = system.bms?.cellHighV ?? 3.6;
    const ahead = refusals.filter(
      (one) => one.highestV - one.meanV > AHEAD && one.highestV > Math.min(limit, 3.6) - 0.1,
    );
    if (ahead.length === 0)
      return refusals.every((one) => one.highestV !== one.highestV) && refusals.length > 0
        ? []
        : [
            {
              text: 'The BMS never stopped the charge for one high cell.',
              decibans: WEIGHTS.never,
              group: 'stopped',
              spans: [],
            },
          ];
    const counts = new Map<string, number>();
    for (const one of ahead) counts.set(one.highestCell, (counts.get(one.highestCell) ?? 0) + 1);
    const [cell, times] = [...counts].sort((a, b) => b[1] - a[1])[0]!;
    const evidence: Evidence[] = [
      {
        text: `The BMS stopped the charge ${counted(ahead.length, 'time')} with one cell ahead, ${times === ahead.length ? `always cell ${cell}` : `mostly cell ${cell}`}: it stood at ${volts(median(ahead.map((one) => one.highestV)))} and the cells on average at ${volts(median(ahead.map((one) => one.meanV)))}.`,
        decibans: shrunk(WEIGHTS.stopped, 6 * ahead.length),
        group: 'stopped',
        spans: ahead,
      },
    ];
    const daysOf = (some: readonly Span[]) => new Set(some.map((one) => Math.floor(one.from / DAY))).size;
    const of = daysOf(charging.flatMap((one) => one.charges));
    if (daysOf(ahead) < SELDOM * of)
      evidence.push({
        text: `So it was on ${share(daysOf(ahead), of, 'day')} with a charge.`,
        decibans: WEIGHTS.seldom,
        group: 'seldom',
        spans: [],
      });
    const packVolts = median(ahead.map((one) => one.meanV)) * bank.cellsInSeries;
    if (packVolts < bank.chargeVolts.min - BELOW * blocksInSeries(bank))
      evidence.push({
        text: `The pack then stood at ${volts(packVolts)}, and is full only from ${volts(bank.chargeVolts.min)} on.`,
        decibans: WEIGHTS.packBelow,
        group: 'pack',
        spans: [],
      });
    if (times >= 2 && times >= 0.8 * ahead.length)
      evidence.push({
        text: `It was cell ${cell} in ${counted(times, 'stop')} of ${ahead.length}: one cell, not chance.`,
        decibans: shrunk(WEIGHTS.sameCell, times),
        group: 'same-cell',
        spans: [],
      });
    return evidence;
  },
};
