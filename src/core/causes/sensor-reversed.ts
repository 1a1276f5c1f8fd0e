/** The current sensor sits the wrong way round. */

import { flowAgainst, FLOWS_AGAINST, isTurnedWhileIdle, sureSources } from '../count/trueCurrent';
import { amps, duration, percent, volts } from '../quantity/text';
import { type Bands, type Cause, type Evidence, shrunk, weightOf } from './cause';
import { HOUR } from '../quantity/span';
import { blocksInSeries } from '../system/chemistry';
import { countOf, DRIFT_PRIOR, missingMonitor } from './drifting';

const WEIGHTS = {
  /** Correlation of steps of voltage with steps of current, the wrong way round. */
  voltage: [
    [0.85, 14],
    [0.6, 10],
    [0.3, 3],
    [0, 0],
    [-0.3, -8],
    [-9, -13],
  ],
  /** So many steps that go the wrong way, if not closely, are no chance. */
  manySteps: 15,
  /** What it calls a charge stands so far under what it calls a discharge, V a 12 V block, over some hours of both. */
  levels: [
    [1.5, 15],
    [1, 12],
    [0.6, 7],
    [0.35, 3],
    [-99, 0],
  ],
  /** Another meter shows the same current with the other sign. */
  otherMeter: 15,
  otherAgrees: -13,
  /** While no charger gives the loads show as a charge, and what chargers give as drawn. */
  idle: 15,
  /** The walk along the wires read charging as negative, or as positive. */
  readsNegative: 15,
  readsPositive: -10,
} as const satisfies Record<string, Bands | number>;

/** Hours of a charge, and of a discharge, that tell their voltages. */
const LEAST_HOURS = 0.5;
/** Correlation of the steps that goes the wrong way, if weakly. */
const AGAINST = -0.2;
/** One that chance does not make: it is at least so close, and so many times its own scatter (R. A. Fisher, Metron 1, 1921: z = artanh r). */
const NO_CHANCE = { correlation: -0.5, sigmas: 5 };

const isNoChance = (correlation: number, steps: number): boolean =>
  correlation <= NO_CHANCE.correlation &&
  steps > 3 &&
  -Math.atanh(correlation) * Math.sqrt(steps - 3) >= NO_CHANCE.sigmas;

export const sensorReversed: Cause = {
  code: 'sensor-reversed',
  title: 'The current sensor is the wrong way round',
  complaint: 'drifting-soc',
  chemistries: 'all',
  families: ['counting'],
  needs: 'the monitor’s current and the battery’s voltage while loads or chargers come and go',
  signature: 'the voltage falls when the current says charge',
  prior: DRIFT_PRIOR,
  weights: WEIGHTS,
  onSite: { 'sensor-turned': 15, 'sign-right': -12 },
  tests: {
    'watch-the-sign': [
      { name: 'charging reads negative', ifHolds: 0.97, ifNot: 0.01 },
      { name: 'charging reads positive', ifHolds: 0.03, ifNot: 0.99 },
    ],
  },
  described({ job }): Evidence[] {
    const reads = job.walk?.chargingReads;
    if (!reads) return [];
    return [
      {
        text: `While a charger ran, the monitor read ${reads}.`,
        decibans: reads === 'negative' ? WEIGHTS.readsNegative : WEIGHTS.readsPositive,
        group: 'sign',
        spans: [],
      },
    ];
  },
  weigh(seen): Evidence[] {
    const count = countOf(seen);
    if (!count) return [];
    const { voltageFollows, bms, shares, whileIdle } = count.meters;
    const evidence: Evidence[] = [];
    const beside = bms && bms.slopeError < 0.5 ? [bms.slope] : [];
    const sources = sureSources(shares);
    const meters = [...beside, ...sources.map((one) => one.share)];
    if (meters.length > 0) {
      const reversed =
        beside.every((one) => one < FLOWS_AGAINST) && (sources.length === 0 || flowAgainst(sources));
      const agrees = meters.some((one) => one > 0.3);
      if (reversed || agrees)
        evidence.push({
          text: reversed
            ? `When ${bms ? 'the BMS shows a charge' : 'the charger gives more'}, the monitor shows ${percent(-100 * Math.min(...meters))} of it as drawn from the battery.`
            : `The monitor’s current goes the way of ${bms ? 'the BMS’s' : 'the charger’s'}.`,
          decibans: reversed ? WEIGHTS.otherMeter : WEIGHTS.otherAgrees,
          group: 'other-meter',
          spans: [count.logged],
        });
    }
    if (meters.length === 0 && whileIdle && isTurnedWhileIdle(count.meters))
      evidence.push({
        text: `In ${duration(whileIdle.hours * HOUR)} without a charger the monitor shows ${amps(whileIdle.amps)} into the battery.`,
        decibans: shrunk(WEIGHTS.idle, whileIdle.hours),
        group: 'other-meter',
        spans: [count.logged],
      });
    const { correlation, steps, chargingV, drawingV, bothHours } = voltageFollows;
    const levels = chargingV - drawingV;
    if (steps >= 3 && correlation === correlation && !(correlation < 0 && levels > 0))
      evidence.push({
        text: `Over ${steps} steps of the current the voltage ${correlation < 0 ? 'falls when the current says charge, and rises when it says discharge' : 'rises with a charging current and falls with a load'}${levels === levels ? ` (${volts(chargingV)} on average at what it calls charge, ${volts(drawingV)} at discharge)` : ''}.`,
        decibans: shrunk(
          isNoChance(correlation, steps) ? WEIGHTS.manySteps : weightOf(WEIGHTS.voltage, -correlation),
          steps / 3,
        ),
        group: 'voltage',
        spans: [count.logged],
      });
    const under = -levels / blocksInSeries(seen.bank);
    const byLevels = weightOf(WEIGHTS.levels, under);
    // A charger that nobody counts holds the voltage up too, but there the steps go the right way.
    if (bothHours >= LEAST_HOURS && correlation < AGAINST && byLevels > 0)
      evidence.push({
        text: `It calls it a charge while the battery stands at ${volts(chargingV)}, and a discharge while it stands at ${volts(drawingV)}.`,
        decibans: shrunk(byLevels, bothHours / LEAST_HOURS),
        group: 'levels',
        spans: [count.logged],
      });
    return evidence;
  },
  remedy: () => ({
    text: 'Turn the sensor round, or its two sense wires, or the sign in the monitor’s settings: one of them, once. Then see that charging reads positive, and synchronise.',
    caution: null,
  }),
  missing: missingMonitor,
};
