/** The plan of a plain site: what a draw decides and what a fault changes. */

import type { Random } from '@/core/simulate/random';
import type { Job } from '@/core/system/schema';
import { PLAIN_STYLES } from './plainLogs';

export interface PlainCharger {
  id: string;
  kind: 'solar' | 'mains' | 'generator';
  /** Of a split bank each half has its own. */
  across: 'bank' | 'lower' | 'upper';
  ratedA: number;
  givesA: number;
  /** V of what it charges at 25 °C, and mV per °C and cell. */
  absorptionV: number;
  floatV: number;
  compensationMv: number;
  minutes: number;
  tailA: number | undefined;
  equalise: { volts: number; minutes: number; everyDays: number } | undefined;
  ohms: number;
  /** Hours of the day for which mains or an engine is there, and from when. */
  from: number;
  hours: number;
  blockBelowC: number | undefined;
  logged: boolean;
  tellsStage: boolean;
}

/** What runs beside the usual loads, and what lets go. */
export interface PlainCut {
  amps: number;
  everyHours: number;
  minutes: number;
  volts: number | undefined;
  percent: number | undefined;
  /** What its start draws for a step, and from what its protection trips. */
  surge: { amps: number; tripA: number } | undefined;
  ohms: number;
  awaySeconds: number;
  /** All loads let go with it. */
  takesAll: boolean;
}

export interface PlainMonitor {
  capacityAh: number;
  chargedV: number;
  tailPercent: number;
  minutes: number;
  efficiency: number;
  peukert: number;
  gain: number;
  offsetA: number;
  misses: string[];
  startReading: number | null;
  byVolts: boolean;
  /** Stands at this as the bulk of its own charger ends. */
  bulkEndPercent: number | undefined;
  restarts: { day: number; percent: number; silentHours: number }[];
}

export interface PlainPlan {
  chemistry: 'flooded' | 'agm' | 'gel' | 'lfp';
  /** Of 12 V, in series. */
  blocks: number;
  capacityAh: number;
  holdsAh: number;
  resistance: number;
  /** By how much more than 1 the exponent of Peukert's law of the battery is. */
  peukert: number;
  chargers: PlainCharger[];
  /** Two halves with a charger each, the monitor in the lower. */
  isSplit: boolean;
  /** Ah a day. */
  drawn: number;
  pattern: 'even' | 'evening' | 'day' | 'cycling';
  days: number;
  everySeconds: number;
  monitorEverySeconds: number;
  meanC: number;
  dailyC: number;
  clear: number;
  /** For how long a sky lasts. */
  skySeconds: number;
  start: number;
  style: keyof typeof PLAIN_STYLES;
  /** Hours from when and for how long no log is written. */
  outage: { from: number; hours: number } | undefined;
  logs: { charger: boolean; monitor: boolean; heat: boolean; load: boolean; bms: boolean; reading: boolean };
  monitor: PlainMonitor;
  cut: PlainCut | null;
  cellAh: number[];
  cellCharge: number[];
  bleedA: number;
  /** Flooded cells that are to be equalised. */
  equalise: { volts: number; minutes: number; everyDays: number; lastOn: string } | undefined;
  complaint: Job['complaints'][number];
}

export const isLeadPlan = ({ chemistry }: Pick<PlainPlan, 'chemistry'>): boolean => chemistry !== 'lfp';

/** A site in good order. */
export function drawPlainPlan(random: Random): PlainPlan {
  const chemistry = random.pick(['flooded', 'agm', 'gel', 'lfp', 'lfp'] as const);
  const lead = chemistry !== 'lfp';
  const blocks = random.pick([1, 2, 2, 4]);
  const cells = blocks * (lead ? 6 : 4);
  const capacityAh = random.pick([60, 100, 150, 210, 280, 400]);
  const drawn = capacityAh * random.uniform(0.12, lead ? 0.3 : 0.45);
  const kinds = random.pick([
    ['solar'],
    ['solar'],
    ['mains'],
    ['generator'],
    ['solar', 'mains'],
    ['solar', 'solar'],
  ] as const);
  const absorptionV = (chemistry === 'gel' ? 14.1 : 14.4) * blocks;
  const floatV = (lead ? random.pick([13.6, 13.7, 13.8]) : random.pick([13.4, 13.5])) * blocks;
  const compensationMv = lead ? random.pick([-3, -4, -5]) : 0;
  const chargers = kinds.map((kind, k): PlainCharger => {
    const hours = kind === 'solar' ? 5 : kind === 'generator' ? random.uniform(6, 9) : random.uniform(15, 24);
    const ratedA = Math.round(
      Math.max(
        capacityAh * random.uniform(0.1, lead ? 0.2 : 0.35),
        (2.2 * drawn) / Math.min(14, hours) / kinds.length,
      ),
    );
    return {
      id: `source-${k + 1}`,
      kind,
      across: 'bank',
      ratedA,
      givesA: ratedA * random.uniform(0.96, 1.02),
      absorptionV,
      floatV,
      compensationMv,
      minutes: lead ? random.pick([180, 240, 300]) : random.pick([10, 30, 60, 120]),
      tailA: random.next() < 0.5 ? capacityAh * random.uniform(0.01, 0.02) + drawn / 24 : undefined,
      equalise: undefined,
      ohms: random.uniform(0.0008, 0.002) * blocks * Math.min(1, 30 / ratedA),
      from: random.uniform(0, 24),
      hours,
      blockBelowC: undefined,
      logged: k === 0 || random.next() < 0.75,
      tellsStage: random.next() < 0.5,
    };
  });
  const everySeconds = random.pick([10, 30, 60, 60, 60, 120, 300, 600]);
  const days = everySeconds <= 10 ? 7 : Math.round(random.uniform(8, 24));
  const kept = random.pick(['both', 'both', 'charger', 'monitor']);
  return {
    chemistry,
    blocks,
    capacityAh,
    holdsAh: capacityAh * random.uniform(0.93, 1.06),
    resistance: random.uniform(0.7, 1.5),
    peukert: random.uniform(0.08, 0.2),
    chargers,
    isSplit: false,
    drawn,
    pattern: random.pick(['even', 'evening', 'day', 'cycling']),
    days,
    everySeconds,
    monitorEverySeconds: everySeconds * random.pick([1, 1, 1, 2, 5]),
    meanC: random.uniform(lead ? 8 : 12, 25),
    dailyC: random.uniform(1, 6),
    clear: random.uniform(0.3, 0.8),
    skySeconds: random.pick([120, 300, 900]),
    start: random.uniform(0.6, 0.95),
    style: random.pick(Object.keys(PLAIN_STYLES) as (keyof typeof PLAIN_STYLES)[]),
    outage:
      random.next() < 0.25
        ? { from: 24 * random.uniform(1, days - 1), hours: random.uniform(0.5, 9) }
        : undefined,
    logs: {
      charger: kept !== 'monitor',
      monitor: kept !== 'charger' || kinds.length > 1,
      heat: random.next() < 0.6,
      load: random.next() < 0.2,
      bms: !lead && random.next() < 0.5,
      reading: random.next() < 0.9,
    },
    monitor: {
      capacityAh,
      chargedV: Number((absorptionV - 0.25 * blocks).toFixed(1)),
      tailPercent: random.pick([3, 4, 4, 5]),
      minutes: random.pick([2, 3, 5]),
      efficiency: lead ? random.pick([85, 88, 90]) : random.pick([98, 99]),
      peukert: lead ? random.pick([1.15, 1.2, 1.25]) : 1.05,
      gain: 1,
      offsetA: 0,
      misses: [],
      startReading: null,
      byVolts: false,
      bulkEndPercent: undefined,
      restarts: [],
    },
    cut: null,
    cellAh: Array.from({ length: lead ? 0 : cells }, () => random.uniform(0.994, 1.006)),
    cellCharge: Array.from({ length: lead ? 0 : cells }, () => random.uniform(-0.0008, 0.0008)),
    bleedA: 0.2,
    equalise: undefined,
    complaint: 'undercharging',
  };
}

/** Splits a bank of two or four blocks: a charger across each half, the shunt in the lead of the lower, its volts the whole bank's. */
export function splitPlan(plan: PlainPlan): void {
  const [one] = plan.chargers as [PlainCharger];
  Object.assign(one, {
    across: 'lower',
    logged: true,
    absorptionV: one.absorptionV / 2,
    floatV: one.floatV / 2,
    ohms: one.ohms / 2,
  });
  plan.chargers = [one, { ...one, id: 'source-2', across: 'upper' }];
  plan.isSplit = true;
}
