/** Faults of plain sites: what is changed in a site in good order, and whether that did harm enough that somebody would be called. */

import type { CauseCode } from '@/core/causes/codes';
import { mean, quantile } from '@/core/quantity/numbers';
import type { Random } from '@/core/simulate/random';
import { isLeadPlan, type PlainPlan } from './plainPlan';
import type { PlainSite } from './plainSite';

export interface PlainFault {
  code: CauseCode;
  complaint: PlainPlan['complaint'];
  /** True as well where it is. */
  also?: readonly CauseCode[];
  fits?(plan: PlainPlan): boolean;
  patch(plan: PlainPlan, random: Random): void;
  hurts?(site: PlainSite): boolean;
}

/** Highest charge of a day, mean over the days but the first, %. */
export function dailyPeak({ truth }: PlainSite): number {
  const days = Math.floor(truth.length / 144);
  return mean(
    Array.from({ length: days - 1 }, (_, day) =>
      Math.max(...truth.slice(144 * (day + 1), 144 * (day + 2)).map((one) => one.held)),
    ),
  );
}

/** By how many points the reading is off at nine tenths of the moments; the first day is left out. */
export const readingOff = ({ truth }: PlainSite): number =>
  quantile(
    truth.slice(144).map((one) => Math.abs(one.held - one.shown)),
    0.9,
  );

const neverFull = (site: PlainSite): boolean => dailyPeak(site) < 96;
const drifts = (site: PlainSite): boolean => readingOff(site) > 12;
const cutsOften = ({ cuts }: PlainSite): boolean => cuts.length >= 3;

/** Hours so few and loads so large that what a charger does wrong is not made up for. */
function busy(plan: PlainPlan, random: Random): void {
  plan.drawn = plan.capacityAh * random.uniform(0.28, 0.42);
  for (const one of plan.chargers) {
    if (one.kind === 'mains') one.hours = random.uniform(8, 12);
    const hours = one.kind === 'solar' ? 5 : one.hours;
    const least = (2 * plan.drawn) / hours / plan.chargers.length;
    one.givesA *= Math.max(1, least / one.ratedA);
    one.ratedA = Math.round(Math.max(least, one.ratedA));
    if (one.tailA !== undefined) one.tailA = 0.015 * plan.capacityAh + plan.drawn / 22;
  }
}

/** A reading that is logged beside the charger. */
function counting(plan: PlainPlan): void {
  plan.logs = { ...plan.logs, charger: true, monitor: true, reading: true };
}

/** A heavy load now and then, that lets go at its own limit. */
function heavy(plan: PlainPlan, random: Random): NonNullable<PlainPlan['cut']> {
  plan.logs = { ...plan.logs, charger: true, monitor: true };
  plan.everySeconds = Math.min(plan.everySeconds, 60);
  plan.cut = {
    amps: plan.capacityAh * random.uniform(0.15, 0.35),
    everyHours: random.pick([6, 8, 12, 24]),
    minutes: random.uniform(20, 80),
    volts: (isLeadPlan(plan) ? 11.4 : 12) * plan.blocks,
    percent: undefined,
    ohms: 0.001 * plan.blocks,
    awaySeconds: random.uniform(1800, 7200),
  };
  return plan.cut;
}

export const PLAIN_FAULTS: readonly PlainFault[] = [
  {
    code: 'charge-voltage-low',
    complaint: 'undercharging',
    patch(plan, random) {
      busy(plan, random);
      const by = plan.blocks * random.uniform(0.45, 0.8);
      for (const one of plan.chargers) {
        one.absorptionV -= by;
        one.floatV = Math.min(one.floatV, one.absorptionV - 0.1 * plan.blocks);
      }
    },
    hurts: (site) => !isLeadPlan(site.plan) || neverFull(site),
  },
  {
    code: 'charge-voltage-high',
    complaint: 'undercharging',
    patch(plan, random) {
      for (const one of plan.chargers) one.absorptionV += plan.blocks * random.uniform(0.5, 0.9);
    },
  },
  {
    code: 'absorption-too-short',
    complaint: 'undercharging',
    fits: isLeadPlan,
    patch(plan, random) {
      busy(plan, random);
      for (const one of plan.chargers)
        Object.assign(one, { minutes: random.pick([15, 20, 30, 45]), tailA: undefined });
    },
    hurts: neverFull,
  },
  {
    code: 'tail-threshold-high',
    complaint: 'undercharging',
    fits: isLeadPlan,
    patch(plan, random) {
      busy(plan, random);
      for (const one of plan.chargers)
        one.tailA = plan.capacityAh * random.uniform(0.07, 0.12) + plan.drawn / 24;
    },
    hurts: neverFull,
  },
  {
    code: 'source-derated',
    complaint: 'undercharging',
    fits: ({ chargers }) => chargers.every((one) => one.kind !== 'solar'),
    patch(plan, random) {
      busy(plan, random);
      plan.logs.charger = true;
      for (const one of plan.chargers) {
        one.givesA *= random.uniform(0.35, 0.55);
        one.logged = true;
      }
    },
    hurts: neverFull,
  },
  {
    code: 'charge-path-drop',
    complaint: 'undercharging',
    patch(plan, random) {
      busy(plan, random);
      plan.logs = { ...plan.logs, charger: true, monitor: true };
      for (const one of plan.chargers) {
        one.logged = true;
        one.ohms = (plan.blocks * random.uniform(0.5, 0.9)) / one.ratedA;
      }
    },
  },
  {
    code: 'compensation-missing',
    complaint: 'undercharging',
    fits: isLeadPlan,
    patch(plan, random) {
      busy(plan, random);
      Object.assign(plan, { meanC: random.uniform(-2, 6), dailyC: random.uniform(4, 8) });
      plan.logs.heat = true;
      for (const one of plan.chargers) one.compensationMv = 0;
    },
  },
  {
    code: 'cold-charge-block',
    complaint: 'undercharging',
    fits: (plan) => !isLeadPlan(plan),
    patch(plan, random) {
      Object.assign(plan, { meanC: random.uniform(1, 5), dailyC: random.uniform(5, 8) });
      plan.logs = { ...plan.logs, charger: true, monitor: true, heat: true };
      for (const one of plan.chargers) Object.assign(one, { blockBelowC: 5, logged: true });
    },
    hurts: neverFull,
  },
  {
    code: 'capacity-wrong',
    complaint: 'drifting-soc',
    patch(plan, random) {
      counting(plan);
      plan.drawn = plan.capacityAh * random.uniform(0.3, 0.5);
      plan.monitor.capacityAh = Math.round(
        plan.capacityAh * (random.next() < 0.5 ? random.uniform(0.45, 0.62) : random.uniform(1.6, 2.2)),
      );
    },
    hurts: drifts,
  },
  {
    code: 'current-offset',
    complaint: 'drifting-soc',
    patch(plan, random) {
      counting(plan);
      plan.monitor.offsetA = random.pick([-1, 1]) * plan.capacityAh * random.uniform(0.006, 0.012);
    },
    hurts: (site) => readingOff(site) > 8,
  },
  {
    code: 'sensor-reversed',
    complaint: 'drifting-soc',
    patch(plan) {
      counting(plan);
      plan.monitor.gain = -1;
    },
  },
  {
    code: 'current-scale',
    complaint: 'drifting-soc',
    fits: ({ chargers }) => chargers.length === 1,
    patch(plan, random) {
      counting(plan);
      plan.monitor.gain = random.pick([0.5, 2, 0.67, 1.5]);
    },
  },
  {
    code: 'source-not-counted',
    complaint: 'drifting-soc',
    fits: ({ chargers }) => chargers.length === 2,
    patch(plan) {
      counting(plan);
      plan.monitor.misses = [plan.chargers[1]!.id];
      plan.chargers[1]!.logged = true;
    },
    hurts: drifts,
  },
  {
    code: 'load-not-counted',
    complaint: 'drifting-soc',
    patch(plan, random) {
      counting(plan);
      plan.drawn = plan.capacityAh * random.uniform(0.25, 0.4);
      plan.monitor.misses = ['load'];
    },
    hurts: drifts,
  },
  {
    code: 'voltage-guess',
    complaint: 'drifting-soc',
    patch(plan) {
      counting(plan);
      plan.monitor.byVolts = true;
    },
  },
  {
    code: 'never-started',
    complaint: 'drifting-soc',
    also: ['charged-voltage-unreached', 'full-too-rarely', 'source-too-small'],
    patch(plan) {
      counting(plan);
      plan.monitor.chargedV = Number((15.5 * plan.blocks).toFixed(1));
      plan.monitor.startReading = plan.start > 0.75 ? 25 : 100;
    },
    hurts: drifts,
  },
  {
    code: 'capacity-lost',
    complaint: 'premature-cutoff',
    also: ['fake-full', 'capacity-wrong'],
    patch(plan, random) {
      heavy(plan, random);
      plan.holdsAh = plan.capacityAh * random.uniform(0.4, 0.62);
      plan.drawn = plan.capacityAh * random.uniform(0.2, 0.3);
    },
    hurts: cutsOften,
  },
  {
    code: 'load-path-drop',
    complaint: 'premature-cutoff',
    patch(plan, random) {
      const cut = heavy(plan, random);
      plan.logs.load = true;
      cut.ohms = (plan.blocks * random.uniform(0.9, 1.5)) / cut.amps;
      plan.drawn = 0.12 * plan.capacityAh;
    },
    hurts: cutsOften,
  },
  {
    code: 'cutoff-set-high',
    complaint: 'premature-cutoff',
    patch(plan, random) {
      const cut = heavy(plan, random);
      cut.volts = (isLeadPlan(plan) ? random.uniform(12.2, 12.4) : random.uniform(13, 13.1)) * plan.blocks;
      plan.drawn = 0.15 * plan.capacityAh;
    },
    hurts: cutsOften,
  },
  {
    code: 'weak-cell',
    complaint: 'premature-cutoff',
    also: ['capacity-lost', 'runner-stops-charge', 'cell-imbalance'],
    fits: (plan) => !isLeadPlan(plan),
    patch(plan, random) {
      heavy(plan, random).volts = undefined;
      plan.logs.bms = true;
      plan.cellAh[Math.floor(random.next() * plan.cellAh.length)] = random.uniform(0.5, 0.7);
      plan.drawn = 0.45 * plan.capacityAh;
    },
    hurts: cutsOften,
  },
  {
    code: 'percentage-cutoff',
    complaint: 'premature-cutoff',
    also: ['capacity-wrong'],
    patch(plan, random) {
      const cut = heavy(plan, random);
      Object.assign(cut, { volts: undefined, percent: Math.round(random.uniform(30, 45)) });
      plan.logs.reading = true;
      plan.monitor.capacityAh = Math.round(0.5 * plan.capacityAh);
      plan.drawn = 0.25 * plan.capacityAh;
    },
    hurts: cutsOften,
  },
];
