/**
 * Random sites with a known fault, for calibrating the weights and for tests: every parameter spread as widely as the trade
 * meets it, so that nothing is tuned to one battery, one logger or one climate.
 */

import { DAY, HOUR } from '../quantity/span';
import { CHEMISTRY } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import type { Job } from '../system/schema';
import type { DemoLog } from './demo';
import { writeLog, type LoggedColumn } from './logger';
import type { Random } from './random';
import { runSite } from './site';

export const FAULTS = ['none', 'absorption-too-short', 'charge-voltage-low', 'source-too-small'] as const;
export type Fault = (typeof FAULTS)[number];

export interface RandomJob {
  fault: Fault;
  job: Job;
  system: KnownSystem;
  logs: DemoLog[];
  /** Mean true state of charge at the end of each day's charging, %, to see what the fault did. */
  truth: { bestDaily: number };
}

/**
 * A site with one fault, or none. The same random numbers give the same site. A fault that does the battery no harm (a short
 * absorption that a long float makes up for) is not what a technician is called for: such a site is drawn again.
 */
export function randomJob(fault: Fault, random: Random): RandomJob {
  for (let tries = 0; tries < 60; tries++) {
    const site = drawJob(fault, random);
    const { bestDaily } = site.truth;
    if (fault === 'none' ? bestDaily > 95 : bestDaily < 96) return site;
  }
  throw new Error(`No site with the fault ${fault} came up in 60 draws.`);
}

function drawJob(fault: Fault, random: Random): RandomJob {
  const chemistry = random.pick(['flooded', 'agm', 'gel'] as const);
  const blocks = random.pick([1, 2, 4]);
  const cells = 6 * blocks;
  const capacity = random.pick([80, 120, 200, 300, 450]);
  const trueCapacity = capacity * random.uniform(0.85, 1.1);
  const solar = random.next() < 0.6;
  const figures = CHEMISTRY[chemistry];
  const chargeVolts = {
    min: round(figures.chargeV.min * cells, 1),
    max: round(figures.chargeV.max * cells, 1),
  };
  const compensation = random.pick([-3, -4, -5]);
  const middle = (chargeVolts.min + chargeVolts.max) / 2 + random.uniform(-0.08, 0.08) * blocks;
  const absorptionV = round(
    fault === 'charge-voltage-low' ? chargeVolts.min - random.uniform(0.2, 0.6) * blocks : middle,
    2,
  );
  const floatV = round(Math.min(absorptionV - 0.25 * blocks, random.uniform(13.5, 13.8) * blocks), 2);
  const short = fault === 'absorption-too-short';
  const tooSmallMains = fault === 'source-too-small' && !solar;
  const away = tooSmallMains ? 0 : fault === 'none' ? random.uniform(4, 9) : random.uniform(7, 12);
  // Hours of good sun are about six; mains is away for a few hours so that there is something to charge.
  const drawn = capacity * (fault === 'none' ? random.uniform(0.15, 0.4) : random.uniform(0.25, 0.45));
  const chargingHours = solar ? 5.5 : 24 - away;
  const need = (drawn * 1.1) / chargingHours;
  const ratedA =
    fault === 'source-too-small'
      ? (drawn * random.uniform(0.55, 0.85)) / (solar ? 6 : 24)
      : Math.max(capacity * random.uniform(0.09, 0.2), 2.2 * need);
  const meanLoad = drawn / 24;
  const tailPercent = random.uniform(0.6, 1.8);
  const absorptionMinutes = short ? random.pick([15, 20, 30, 45]) : random.pick([240, 300, 360, 480]);
  const usesTail = !short && random.next() < 0.6;
  const days = Math.round(random.uniform(6, 25));
  const from = Date.UTC(2026, Math.floor(random.uniform(2, 10)), 1 + Math.floor(random.uniform(0, 27)));
  const climate = {
    latitude: random.uniform(36, 46),
    longitude: random.uniform(5, 25),
    meanC: random.uniform(8, 26),
    dailyC: random.uniform(1, 7),
    clear: solar && fault !== 'source-too-small' ? random.uniform(0.6, 0.85) : random.uniform(0.3, 0.6),
    mixed: 0.15,
  };
  const away0 = random.uniform(0, 24);
  const isAway = (ms: number) => ((ms % DAY) / HOUR + 24 - away0) % 24 < away;
  const pulse =
    random.next() < 0.5
      ? { every: random.pick([600, 900, 3600]) * 1000, share: random.uniform(0.05, 0.2) }
      : null;
  const nightLoad = !solar ? 3 : 1;

  const truth = runSite(
    {
      from,
      days,
      stepSeconds: 30,
      battery: {
        capacityAh: trueCapacity,
        cells,
        resistance: random.uniform(0.7, 1.8),
        gassing: random.uniform(0.7, 2) * (chemistry === 'flooded' ? 1.5 : 1),
        availableShare: random.uniform(0.3, 0.5),
        levelHours: random.uniform(0.5, 1.2),
      },
      startCharge: fault === 'none' ? random.uniform(0.7, 0.98) : random.uniform(0.45, 0.9),
      chargers: [
        {
          id: 'charger',
          ratedA,
          absorptionV,
          floatV,
          compensationVPerC: (compensation * cells) / 1000,
          absorptionMinutes,
          tailA: usesTail ? (tailPercent / 100) * capacity + meanLoad : undefined,
          rebulkV: 12.6 * blocks,
          pathOhms: random.uniform(0.001, 0.004) * blocks,
          capableAmps: solar
            ? (_, sun) => Math.min(ratedA, 1.1 * ratedA * sun)
            : (ms) => (isAway(ms) ? 0 : ratedA),
          inputVolts: (ms, sun) =>
            solar ? (sun > 0.003 ? 18 * blocks + 3 * sun : 0.3) : isAway(ms) ? 0 : 230,
        },
      ],
      climate,
      loads: [
        {
          id: 'load',
          amps: (ms) => {
            const base = meanLoad * (!solar && isAway(ms) ? nightLoad : solar ? 1 : 0.5);
            if (!pulse) return base;
            // No pump or fan keeps step with a logger: each run of it begins at a moment of its own.
            const turn = Math.floor(ms / pulse.every);
            const start = ((turn * 2_654_435_761) % 1000) / 1000;
            const within = (ms % pulse.every) / pulse.every;
            return within >= start * (1 - pulse.share) && within < start * (1 - pulse.share) + pulse.share
              ? (0.4 * base) / pulse.share + 0.6 * base
              : 0.6 * base;
          },
        },
      ],
    },
    random,
  );

  const system: KnownSystem = {
    name: `Random ${fault}`,
    timeZone: 'Europe/Rome',
    bank: {
      chemistry,
      cellsInSeries: cells,
      stringsInParallel: 1,
      capacityAh: capacity,
      capacityHours: 20,
      chargeVolts,
      floatVolts: { min: 13.5 * blocks, max: 13.8 * blocks },
      compensationMvPerCellPerC: { min: -5, max: -3 },
    },
    sources: [
      {
        id: 'charger',
        name: 'Charger',
        kind: solar ? 'solar' : 'mains',
        ratedA: round(ratedA, 1),
        // What was told of the settings is sometimes little.
        profile: {
          absorptionV,
          ...(random.next() < 0.5 ? { absorptionMinutes } : {}),
          ...(random.next() < 0.6 ? { floatV } : {}),
          ...(random.next() < 0.6 ? { compensationMvPerCellPerC: compensation } : {}),
        },
        counted: true,
        senses: 'own-terminals',
      },
    ],
    monitor: {
      method: 'shunt',
      capacityAh: capacity,
      chargedV: absorptionV - 0.2 * blocks,
      tailPercent: 4,
      detectionMinutes: 3,
      efficiencyPercent: 85,
      peukert: 1.25,
      floorPercent: 50,
    },
    loads: [{ id: 'load', name: 'Load', kind: 'dc', counted: true }],
  };

  const everySeconds = random.pick([30, 60, 60, 120, 300, 600]);
  const volt = (heading: string, channel: LoggedColumn['channel']): LoggedColumn => ({
    heading,
    channel,
    quantum: random.pick([0.01, 0.01, 0.02, 0.05, 0.1]) * Math.sqrt(blocks),
    noise: 0.005 * blocks,
    gain: random.normal(1, 0.002),
  });
  const amp = (heading: string, channel: LoggedColumn['channel']): LoggedColumn => ({
    heading,
    channel,
    quantum: random.pick([0.01, 0.1, 0.1]),
    noise: 0.0004 * capacity,
    gain: random.normal(1, 0.006),
    offset: random.normal(0, 0.0003 * capacity),
  });
  const which = random.pick(['both', 'charger', 'monitor', 'both'] as const);
  const shared = {
    timeStyle: 'utc',
    timeZone: 'UTC',
    delimiter: ',',
    decimalChar: '.',
    gapChance: random.pick([0, 0, 0.0005]),
  } as const;
  const logs: DemoLog[] = [];
  if (which !== 'monitor')
    logs.push({
      path: 'logs/charger.csv',
      device: 'charger',
      text: writeLog(
        truth.series,
        {
          ...shared,
          everySeconds,
          timeHeading: 'time',
          columns: [
            volt('charger voltage (V)', 'source_voltage'),
            amp('charger current (A)', 'source_current'),
            ...(random.next() < 0.7
              ? [
                  {
                    heading: 'battery temperature (°C)',
                    channel: 'battery_temperature',
                    quantum: 0.5,
                    noise: 0.2,
                  } as const,
                ]
              : []),
            ...(random.next() < 0.3
              ? [{ heading: 'state', channel: 'source_stage', quantum: 1 } as const]
              : []),
          ],
        },
        random,
      ),
    });
  if (which !== 'charger')
    logs.push({
      path: 'logs/monitor.csv',
      device: 'monitor',
      text: writeLog(
        truth.series,
        {
          ...shared,
          everySeconds: random.pick([60, 60, 120, 300]),
          timeHeading: 'timestamp',
          columns: [
            volt('battery voltage (V)', 'battery_voltage'),
            amp('battery current (A)', 'battery_current'),
          ],
        },
        random,
      ),
    });
  return {
    fault,
    job: { title: 'Random', complaints: ['undercharging'], openedAt: '2026-11-01T08:00:00Z', notes: '' },
    system,
    logs,
    truth: { bestDaily: bestDaily(truth.trueCharge, 2880) },
  };
}

/** Mean over days of the highest true state of charge, %; the first day is left out. */
function bestDaily(charge: Float32Array, perDay: number): number {
  let total = 0;
  let days = 0;
  for (let start = perDay; start + perDay <= charge.length; start += perDay) {
    total += charge.subarray(start, start + perDay).reduce((a, b) => Math.max(a, b), 0);
    days++;
  }
  return total / days;
}

const round = (value: number, digits: number): number => Number(value.toFixed(digits));
