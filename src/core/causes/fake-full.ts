/** Lost capacity or sulphation looks like a full battery. */

import type { Charge, SourceCharging, Stage } from '../charge/types';
import { median, sum } from '../quantity/numbers';
import { HOUR } from '../quantity/span';
import { ampHours, counted, percent, volts } from '../quantity/text';
import { blocksInSeries, expectedVolts, fullTailAmps } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import { LOAD_DROPS, restPercent } from '../system/restVoltage';
import { AGE_WEIGHTS, weighAge } from './age';
import { type Cause, type Evidence, shrunk, weightOf } from './cause';
import { SINKS_WEIGHTS, sinksFast } from './sinks';

const WEIGHTS = {
  ...AGE_WEIGHTS,
  ...SINKS_WEIGHTS,
  /**
   * Capacity that a charge to full implies, in parts of the label: what went in over what its voltage said was missing. All doubt is the
   * battery's, so that a good one comes out above its label.
   */
  implied: [
    [1, -12],
    [0.85, -4],
    [0.75, 0],
    [0.65, 5],
    [0.55, 11],
    [0.3, 15],
    [0, 15],
  ],
  /** Several charges say the same. */
  again: 5,
} as const;

/** A charge says how much is missing only from low enough, and with loads small enough for the voltage to be near its rest. */
const MOST_PERCENT = 85;
/** So far may a voltage be off, in points of charge; the doubt goes to the battery. */
const DOUBT = 5;
const MOST_LOAD = 0.02;
/** °C under which no capacity is judged from voltages. */
const COLD = 5;

export const fakeFull: Cause = {
  code: 'fake-full',
  title: 'The battery looks full because it has shrunk',
  complaint: 'undercharging',
  chemistries: ['flooded', 'agm', 'gel'],
  families: ['charging', 'battery-current'],
  needs: 'the battery’s own current over charges that begin low and end full; a capacity test decides',
  signature: 'absorption reached after few ampere-hours, the tail early, and few ampere-hours come out',
  prior: { complained: -5, otherwise: -12 },
  onlyWhenSpokenOf: true,
  weights: WEIGHTS,
  answers: { electrolyte: { found: 6, fine: -2, text: 'Electrolyte was found low: bare plates sulphate.' } },
  remedy: () => ({
    text: 'Test the capacity before anything is bought. Where it is sulphated, long absorption and, for flooded cells, equalisation bring some of it back; where it is worn, set the monitor to what it holds and plan its replacement.',
    caution: null,
  }),
  tests: {
    'capacity-test': [
      { name: 'below 80 % of its rating', ifHolds: 0.9, ifNot: 0.1 },
      { name: 'near its rating', ifHolds: 0.1, ifNot: 0.9 },
    ],
  },
  described: weighAge,
  weigh: ({ charging, counting, bank }) => surest([refilledAfterLittle(charging), sinksFast(counting, bank)]),
  missing: () => ['a capacity test'],
};

/** Ways to say one thing: of those that speak for it the surest counts, and of those that speak against it. */
function surest(ways: readonly (readonly Evidence[])[]): Evidence[] {
  const sum = (way: readonly Evidence[]) => way.reduce((total, { decibans }) => total + decibans, 0);
  const sorted = ways.filter((way) => way.length > 0).sort((a, b) => sum(b) - sum(a));
  const most = sorted[0];
  const least = sorted.at(-1);
  if (!most || !least) return [];
  return sum(most) > 0 && sum(least) < 0 ? [...most, ...least] : sum(most) > 0 ? [...most] : [...least];
}

/** Charges that began low and ended full, and what they say of the capacity. */
export function refilledAfterLittle(charging: readonly SourceCharging[]): Evidence[] {
  // All sources across the same cells see the same charges: the one that sees most of them speaks.
  const most = new Map<string, LowCharges>();
  for (const one of charging) {
    const low = one.knowsBatteryAmps ? lowChargesOf(one) : null;
    const across = one.source?.across ?? 'bank';
    if (low && low.charges.length > (most.get(across)?.charges.length ?? 0)) most.set(across, low);
  }
  return [...most.values()].flatMap(evidenceOf);
}

/**
 * A battery that has absorbed for so long, down to so many of its tails, at no less than so many V a 12 V block
 * under its range, is about so full, as a part of one (common practice, no source).
 */
const NEARLY = { ms: 2 * HOUR, tails: 2, full: 0.95, volts: 0.05 };

/** How full a charge made the battery, as a part of one, at the least; null where it does not show. */
function reachedBy({ full, stages }: Charge, bank: KnownBank): number | null {
  if (full) return 1;
  // At a voltage that is too low the current falls too.
  const fills = (one: Stage) =>
    one.volts >= expectedVolts(bank, 'absorption', one.celsius).min - NEARLY.volts * blocksInSeries(bank);
  const most = NEARLY.tails * fullTailAmps(bank);
  return stages.some(
    (one) =>
      one.stage === 'absorption' &&
      !one.cutOff &&
      !one.blocked &&
      one.endAmpsAreBattery &&
      one.heldMs >= NEARLY.ms &&
      fills(one) &&
      one.settledAmps <= most,
  )
    ? NEARLY.full
    : null;
}

/** Ah that it put in: without what loads draw from the battery once it is through its stages, though the charger goes on. */
function putInBy({ ampHours, stages }: Charge): number {
  const through = stages.findLastIndex(
    ({ stage }) => stage === 'absorption' || stage === 'equalise' || stage === 'float',
  );
  return through < 0 ? ampHours : ampHours - sum(stages.slice(through + 1).map((one) => one.ampHours));
}

/** Charges that began low enough and ended full: Ah put in, and the capacity that each implies, as a part of the label. */
interface LowCharges {
  bank: KnownBank;
  charges: { charge: Charge; before: number; percentBefore: number; put: number; implied: number }[];
}

function lowChargesOf({ charges, bank }: SourceCharging): LowCharges {
  const blocks = blocksInSeries(bank);
  return {
    bank,
    charges: charges.flatMap((charge) => {
      const { volts: before, amps } = charge.before;
      // A cold battery stands lower, and gives and takes less.
      if (charge.stages.some((one) => one.celsius < COLD)) return [];
      const reached = reachedBy(charge, bank);
      if (reached === null || !(amps < 0 && amps > -MOST_LOAD * bank.capacityAh)) return [];
      const rest = before / blocks + (LOAD_DROPS.lead * -amps) / bank.capacityAh;
      const percentBefore = restPercent(bank.chemistry, rest);
      if (percentBefore > MOST_PERCENT) return [];
      const missing = (reached - (percentBefore + DOUBT) / 100) * bank.capacityAh;
      // About a tenth of what goes in is lost.
      const put = putInBy(charge);
      return [{ charge, before, percentBefore, put, implied: (0.9 * put) / missing }];
    }),
  };
}

function evidenceOf({ bank, charges }: LowCharges): Evidence[] {
  const implied = median(charges.map((one) => one.implied));
  const evidence: Evidence[] = [
    {
      text: `${counted(charges.length, 'charge')} began at ${volts(median(charges.map((one) => one.before)))}, about ${percent(median(charges.map((one) => one.percentBefore)))}, and ended full, or nearly, after ${ampHours(median(charges.map((one) => one.put)))}: as if the battery held ${percent(100 * implied)} of its ${ampHours(bank.capacityAh)}.`,
      decibans: shrunk(weightOf(WEIGHTS.implied, implied), charges.length),
      group: 'implied',
      spans: charges.map((one) => one.charge),
    },
  ];
  if (
    implied < 0.62 &&
    charges.length >= 3 &&
    charges.filter((one) => one.implied < 0.75).length >= 0.8 * charges.length
  )
    evidence.push({
      text: 'Nearly every such charge says the same.',
      decibans: WEIGHTS.again,
      group: 'again',
      spans: [],
    });
  return evidence;
}
