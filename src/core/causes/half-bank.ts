/** The monitor sees one half of a split bank, and the halves are not alike. */

import type { SourceCharging } from '../charge/types';
import type { Counting } from '../count/types';
import { median } from '../quantity/numbers';
import { counted, duration, percent, points, volts } from '../quantity/text';
import { blocksInSeries } from '../system/chemistry';
import { DAY, HOUR } from '../quantity/span';
import { type Bands, type Cause, type Evidence, weightOf } from './cause';
import { DRIFT_PRIOR, missingMonitor } from './drifting';

const WEIGHTS = {
  /** Configured: it sits in one half, each with a charger of its own. */
  configuredHalf: 9,
  describedChargers: 3,
  whole: -9,
  /** By how much the halves stand apart at rest and under load, V a 12 V block of a half. */
  apart: [
    [0.3, 13],
    [0.18, 9],
    [0.1, 4],
    [0, -7],
  ],
  /** Their chargers hold them apart. */
  heldApart: [
    [0.3, 7],
    [0.2, 3],
    [0, 0],
  ],
  /** So many times as often as the other. */
  filled: [
    [3, 9],
    [2, 3],
    [0, -5],
  ],
  /** Points by which what the halves hold lies apart, by the ledger of each. */
  holdsApart: [
    [15, 13],
    [8, 9],
    [4, 3],
    [0, -4],
  ],
  /** Measured by hand. */
  measured: [
    [0.3, 9],
    [0.1, 5],
    [0, -6],
  ],
} as const satisfies Record<string, Bands | number>;

export const halfBank: Cause = {
  code: 'half-bank',
  title: 'The monitor sees half of the bank',
  complaint: 'drifting-soc',
  chemistries: 'all',
  families: [],
  needs: 'which half the monitor sits in, and the voltage between the halves',
  signature: 'the midpoint moves away from half of the voltage; the reading stands for one half only',
  prior: DRIFT_PRIOR,
  onlyWhenSpokenOf: true,
  weights: WEIGHTS,
  onSite: { 'halves-apart': 6 },
  tests: {
    'meter-each-half': [
      { name: 'the halves differ by more than 0.1 V', ifHolds: 0.85, ifNot: 0.08 },
      { name: 'they are alike', ifHolds: 0.15, ifNot: 0.92 },
    ],
  },
  described({ system, job }): Evidence[] {
    const sees = system.monitor?.sees;
    const split = system.sources.some((one) => (one.across ?? 'bank') !== 'bank');
    const evidence: Evidence[] = [];
    if (sees && sees !== 'bank')
      evidence.push({
        text: `The monitor sits in the ${sees} half of the bank.`,
        decibans: WEIGHTS.configuredHalf,
        group: 'told',
        spans: [],
      });
    else if (sees === 'bank' || !split)
      evidence.push({
        text: 'The monitor sees the whole bank.',
        decibans: WEIGHTS.whole,
        group: 'told',
        spans: [],
      });
    if (split && evidence.some((one) => one.decibans > 0))
      evidence.push({
        text: 'Each half has a charger of its own: what one gives, the other half does not get.',
        decibans: WEIGHTS.describedChargers,
        group: 'chargers',
        spans: [],
      });
    const { lowerV, upperV } = job.walk?.halves ?? {};
    if (lowerV !== undefined && upperV !== undefined)
      evidence.push({
        text: `The lower half measured ${volts(lowerV)}, the upper ${volts(upperV)}.`,
        decibans: weightOf(
          WEIGHTS.measured,
          Math.abs(lowerV - upperV) / Math.max(1, Math.round(lowerV / 12)),
        ),
        group: 'measured',
        spans: [],
      });
    return evidence;
  },
  weigh({ counting, charging }): Evidence[] {
    const halves = counting?.halves;
    const apart = [...weighCharges(charging), ...weighHeld(counting)];
    if (!halves) return apart;
    const decibans = weightOf(
      WEIGHTS.apart,
      Math.max(halves.apartVolts, halves.mostVolts / 2) / halves.blocks,
    );
    // Halves that are alike at rest may still be charged apart.
    if (halves.by === 'chargers' && decibans <= 0) return apart;
    const byMeters = halves.by === 'chargers' ? 'By the meters of their chargers at rest, the' : 'The';
    return [
      ...apart,
      {
        text: `${byMeters} halves stand ${volts(halves.apartVolts)} apart in the middle of ${duration(halves.hours * HOUR)}, and up to ${volts(halves.mostVolts)}.`,
        decibans,
        group: 'apart',
        spans: [halves.logged],
      },
    ];
  },
  remedy: () => ({
    text: 'Charge both halves completely, each by its own charger, and bring them level (within 0.1 V). Then either put one shunt between the halves, where both charging currents pass it, or count one half and take it for both while they stay alike, or count the whole bank and synchronise by hand after each complete charge.',
    caution: null,
  }),
  missing: missingMonitor,
};

/** The two halves by what each held. */
function weighHeld(counting: Counting | null): Evidence[] {
  const half = counting?.otherHalf;
  if (!half) return [];
  const sees = half.part === 'upper' ? 'lower' : 'upper';
  const by = Math.abs(half.above);
  return [
    {
      text: `By what its charger gave and the loads took, the ${half.part} half held ${by < 1 ? 'as much as' : `${points(by)} ${half.above > 0 ? 'less' : 'more'} than`} the ${sees} half in the middle of ${duration(half.hours * HOUR)}; at last ${percent(half.other)} against ${percent(half.seen)}.`,
      decibans: weightOf(WEIGHTS.holdsApart, by),
      group: 'apart',
      spans: [counting.logged],
    },
  ];
}

/** V a 12 V block by which the charge voltages of the halves may differ. */
const HELD = 0.2;

/** The two halves by what their chargers did. */
function weighCharges(charging: readonly SourceCharging[]): Evidence[] {
  const of = (across: 'lower' | 'upper') => charging.filter((one) => one.source?.across === across);
  const [lower, upper] = [of('lower'), of('upper')];
  if (lower.length === 0 || upper.length === 0) return [];
  const fulls = (half: SourceCharging[]) => half.flatMap((one) => one.charges).filter((one) => one.full);
  // A charger that floats on for days fills its half once, and keeps it full on each of them.
  const days = (half: SourceCharging[]) =>
    fulls(half).reduce((sum, { from, to }) => sum + Math.max(1, Math.round((to - from) / DAY)), 0);
  const [low, high] = [days(lower), days(upper)];
  const evidence: Evidence[] = [];
  if (Math.max(low, high) >= 3)
    evidence.push({
      text: `The lower half was full on ${counted(low, 'day')}, the upper on ${high}.`,
      decibans: weightOf(WEIGHTS.filled, Math.max(low, high) / Math.max(1, Math.min(low, high))),
      group: 'filled',
      spans: [...fulls(lower), ...fulls(upper)],
    });
  const held = (half: SourceCharging[]) =>
    median(
      half.flatMap((one) =>
        one.setpoints.absorption ? [one.setpoints.absorption.volts / blocksInSeries(one.bank)] : [],
      ),
    );
  const by = Math.abs(held(lower) - held(upper));
  if (by >= HELD)
    evidence.push({
      text: `Their chargers hold the halves ${volts(by)} a 12 V block apart.`,
      decibans: weightOf(WEIGHTS.heldApart, by),
      group: 'held',
      spans: [],
    });
  return evidence;
}
