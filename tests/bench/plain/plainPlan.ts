/** The plan of a plain site: what a draw decides, what a fault changes, and what a technician would write down of it. */

import type { Random } from '@/core/simulate/random';
import { type Job, type System, systemSchema } from '@/core/system/schema';

export interface PlainCharger {
  id: string;
  kind: 'solar' | 'mains' | 'generator';
  ratedA: number;
  givesA: number;
  /** V of the bank at 25 °C, and mV per °C and cell. */
  absorptionV: number;
  floatV: number;
  compensationMv: number;
  minutes: number;
  tailA: number | undefined;
  ohms: number;
  /** Hours of the day for which mains or an engine is there, and from when. */
  from: number;
  hours: number;
  blockBelowC: number | undefined;
  logged: boolean;
  tellsStage: boolean;
}

export interface PlainPlan {
  chemistry: 'flooded' | 'agm' | 'gel' | 'lfp';
  blocks: number;
  capacityAh: number;
  holdsAh: number;
  resistance: number;
  chargers: PlainCharger[];
  /** Ah a day. */
  drawn: number;
  pattern: 'even' | 'evening' | 'day' | 'cycling';
  days: number;
  everySeconds: number;
  meanC: number;
  dailyC: number;
  clear: number;
  start: number;
  logs: { charger: boolean; monitor: boolean; heat: boolean; load: boolean; bms: boolean; reading: boolean };
  monitor: {
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
  };
  /** What runs beside the usual loads, and what lets go. */
  cut: {
    amps: number;
    everyHours: number;
    minutes: number;
    volts: number | undefined;
    percent: number | undefined;
    ohms: number;
    awaySeconds: number;
  } | null;
  cellAh: number[];
  cellCharge: number[];
  complaint: Job['complaints'][number];
}

export const isLeadPlan = ({ chemistry }: PlainPlan): boolean => chemistry !== 'lfp';

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
      ratedA,
      givesA: ratedA * random.uniform(0.96, 1.02),
      absorptionV,
      floatV,
      compensationMv,
      minutes: lead ? random.pick([180, 240, 300]) : random.pick([10, 30, 60, 120]),
      tailA: random.next() < 0.5 ? capacityAh * random.uniform(0.01, 0.02) + drawn / 24 : undefined,
      ohms: random.uniform(0.0008, 0.002) * blocks * Math.min(1, 30 / ratedA),
      from: random.uniform(0, 24),
      hours,
      blockBelowC: undefined,
      logged: k === 0 || random.next() < 0.75,
      tellsStage: random.next() < 0.5,
    };
  });
  const everySeconds = random.pick([10, 30, 60, 60, 60, 120, 300, 600]);
  const kept = random.pick(['both', 'both', 'charger', 'monitor']);
  return {
    chemistry,
    blocks,
    capacityAh,
    holdsAh: capacityAh * random.uniform(0.93, 1.06),
    resistance: random.uniform(0.7, 1.5),
    chargers,
    drawn,
    pattern: random.pick(['even', 'evening', 'day', 'cycling']),
    days: everySeconds <= 10 ? 7 : Math.round(random.uniform(8, 24)),
    everySeconds,
    meanC: random.uniform(lead ? 8 : 12, 25),
    dailyC: random.uniform(1, 6),
    clear: random.uniform(0.3, 0.8),
    start: random.uniform(0.6, 0.95),
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
    },
    cut: null,
    cellAh: Array.from({ length: lead ? 0 : cells }, () => random.uniform(0.994, 1.006)),
    cellCharge: Array.from({ length: lead ? 0 : cells }, () => random.uniform(-0.0008, 0.0008)),
    complaint: 'undercharging',
  };
}

/** What a technician would write down of it. */
export function describePlain(plan: PlainPlan, cells: number): System {
  const lead = isLeadPlan(plan);
  const { monitor, blocks, chemistry } = plan;
  const range = (low: number, high: number) => ({
    min: Number((low * blocks).toFixed(1)),
    max: Number((high * blocks).toFixed(1)),
  });
  return systemSchema.parse({
    name: 'Plain',
    timeZone: 'Europe/Rome',
    bank: {
      chemistry,
      cellsInSeries: cells,
      stringsInParallel: 1,
      capacityAh: plan.capacityAh,
      capacityHours: lead ? 20 : 5,
      chargeVolts: chemistry === 'gel' ? range(14, 14.2) : range(14.2, 14.6),
      floatVolts: lead ? range(13.5, 13.8) : range(13.2, 13.6),
      ...(lead ? { compensationMvPerCellPerC: { min: -5, max: -3 } } : { chargeAboveC: 0 }),
    },
    sources: plan.chargers.map((one) => ({
      id: one.id,
      name: one.id,
      kind: one.kind,
      ratedA: one.ratedA,
      profile: {
        absorptionV: Number(one.absorptionV.toFixed(2)),
        absorptionMinutes: one.minutes,
        floatV: Number(one.floatV.toFixed(2)),
        compensationMvPerCellPerC: one.compensationMv,
        ...(one.tailA === undefined ? {} : { tailA: Number(one.tailA.toFixed(1)) }),
        ...(one.blockBelowC === undefined ? {} : { chargeAboveC: one.blockBelowC }),
      },
      counted: monitor.misses.includes(one.id) ? null : true,
      senses: 'own-terminals',
    })),
    monitor: {
      method: monitor.byVolts ? 'voltage' : 'shunt',
      capacityAh: monitor.capacityAh,
      chargedV: monitor.chargedV,
      tailPercent: monitor.tailPercent,
      detectionMinutes: monitor.minutes,
      efficiencyPercent: monitor.efficiency,
      peukert: monitor.peukert,
      floorPercent: lead ? 50 : 10,
    },
    loads: [
      {
        id: 'load',
        name: 'Load',
        kind: 'dc',
        counted: monitor.misses.includes('load') ? null : true,
        ...(plan.cut?.volts === undefined ? {} : { cutoffV: plan.cut.volts }),
        ...(plan.cut?.percent === undefined ? {} : { cutoffPercent: plan.cut.percent }),
      },
    ],
    ...(lead
      ? {}
      : {
          bms: {
            cellHighV: 3.65,
            cellLowV: 2.5,
            cellHighReleaseV: 3.4,
            cellLowReleaseV: 3,
            balanceV: 3.45,
            chargeAboveC: 0,
          },
        }),
  });
}
