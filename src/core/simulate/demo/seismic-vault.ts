/** Story: the rectifier's equalisation is set below the voltage that the flooded cells need, so no attempt ever counts; compensation is off. */

import type { KnownMonitor } from '../../system/known';
import { usualLeadBattery } from '../leadBattery';
import { type DemoSystem, hourInRome, ISLANDS, islandMains, START, ZONE } from './demoSystem';

/** As it is set, and as it counts. */
const monitor: KnownMonitor = {
  method: 'shunt',
  capacityAh: 400,
  chargedV: 26.8,
  tailPercent: 4,
  detectionMinutes: 3,
  efficiencyPercent: 84,
  peukert: 1.25,
  floorPercent: 50,
  thresholdA: 0.2,
};

/** Gravity of a cell in each round, thousandths over 1.000: two of them fall behind since the rectifier was replaced. */
const ROUNDS: readonly { on: string; celsius: number; cells: readonly number[] }[] = [
  { on: '2025-10-14', celsius: 19, cells: [249, 250, 247, 251, 250, 248, 250, 249, 247, 251, 250, 249] },
  { on: '2026-01-16', celsius: 14, cells: [252, 251, 250, 253, 252, 251, 253, 252, 249, 253, 252, 251] },
  { on: '2026-04-15', celsius: 16, cells: [249, 250, 240, 251, 249, 248, 250, 248, 238, 250, 249, 248] },
  { on: '2026-07-15', celsius: 24, cells: [245, 246, 229, 247, 246, 244, 246, 245, 226, 247, 245, 244] },
  { on: '2026-10-14', celsius: 20, cells: [246, 247, 219, 248, 247, 245, 247, 246, 215, 248, 246, 245] },
];

export const seismicVault: DemoSystem = {
  slug: 'seismic-vault',
  records: {
    'hydrometer-round': ROUNDS.map(({ on, celsius, cells }, k) => ({
      id: `00000000-0000-4000-8000-${String(k + 1).padStart(12, '0')}`,
      on,
      afterFullCharge: true,
      celsius,
      takenOf: 'electrolyte',
      instrument: 'Glass with the blue bulb',
      compensates: false,
      readings: cells.map((one, cell) => ({ cell: String(cell + 1), gravity: (1000 + one) / 1000 })),
    })),
  },
  job: {
    title: 'Cells of the seismic vault drift apart',
    complaints: ['undercharging'],
    openedAt: '2026-10-21T09:00:00Z',
    notes:
      'The last two hydrometer rounds show cells 3 and 9 falling behind. The rectifier says that it equalises every quarter.',
    since: 'Spring 2026',
    changed: 'The rectifier was replaced in February.',
    tried: 'Water was topped up twice.',
    works: ['inspect', 'water', 'equalise'],
  },
  system: {
    name: 'Seismic vault, Monte Fermo',
    owner: 'Island observatory',
    timeZone: ZONE,
    bank: {
      chemistry: 'flooded',
      cellsInSeries: 12,
      stringsInParallel: 1,
      capacityAh: 400,
      capacityHours: 20,
      installedOn: '2021-06-08',
      chargeVolts: { min: 28.4, max: 29.2 },
      floatVolts: { min: 26.8, max: 27.4 },
      compensationMvPerCellPerC: { min: -5, max: -4 },
      equalise: { volts: 31, minutes: 120, everyDays: 30, lastOn: '2026-01-15' },
      fullGravity: 1.25,
      maxChargeA: 80,
    },
    sources: [
      {
        id: 'rectifier',
        name: 'Mains rectifier',
        kind: 'mains',
        ratedA: 50,
        profile: {
          preset: 'own',
          absorptionV: 28.8,
          absorptionMinutes: 360,
          tailA: 8,
          floatV: 27.2,
          rebulkV: 25.4,
          compensationMvPerCellPerC: 0,
          equalise: { volts: 29.6, minutes: 60, everyDays: 90, retryDays: 0 },
        },
        counted: true,
        senses: 'battery',
        hoursPerDay: 18,
        conductor: { metres: 4, squareMm: 25 },
      },
    ],
    monitor,
    loads: [
      {
        id: 'instruments',
        name: 'Seismometers and clock',
        kind: 'dc',
        usualA: 6,
        hoursPerDay: 24,
        alarmV: 24.6,
        cutoffV: 23.8,
        reconnectV: 25.6,
        counted: true,
      },
    ],
    site: { coldestC: 7, warmestC: 19, airflow: 3 },
    schools: { resync: 'weekly', gravity: 'ieee' },
  },
  simulated: {
    seed: 23,
    site: {
      from: START,
      days: 27,
      stepSeconds: 30,
      battery: { ...usualLeadBattery(388, 12), gassing: 1.5, resistance: 1.2 },
      startCharge: 0.9,
      chargers: [
        {
          id: 'rectifier',
          ratedA: 50,
          absorptionV: 28.8,
          floatV: 27.2,
          compensationVPerC: 0,
          absorptionMinutes: 360,
          tailA: 8,
          rebulkV: 25.4,
          pathOhms: 0.003,
          // The one attempt of the quarter: an hour at a voltage that the cells hardly notice.
          equalise: { volts: 29.6, minutes: 60, dueAt: [START + 12 * 86_400_000] },
          capableAmps: (ms) => (islandMains(ms) ? 50 : 0),
          inputVolts: (ms) => (islandMains(ms) ? 231 : 0),
        },
      ],
      climate: { ...ISLANDS, meanC: 12, dailyC: 1.5, clear: 0.5, mixed: 0.3 },
      loads: [
        {
          id: 'instruments',
          amps: (ms, random) => (hourInRome(ms) % 6 < 0.5 ? 9 : 5.8) + random.normal(0, 0.05),
        },
      ],
      monitor,
      startReading: 88,
    },
    loggers: [
      {
        path: 'logs/rectifier.csv',
        device: 'rectifier',
        everySeconds: 60,
        timeHeading: 'Timestamp',
        timeStyle: 'local-12h',
        timeZone: ZONE,
        // Set by a wrist watch: four minutes ahead.
        clockAheadSeconds: 250,
        delimiter: ',',
        decimalChar: '.',
        preamble: ['Rectifier history', 'Plant: vault'],
        columns: [
          { heading: 'DC output (V)', channel: 'source_voltage', quantum: 0.01, noise: 0.008 },
          { heading: 'DC output (A)', channel: 'source_current', quantum: 0.1, noise: 0.08 },
          { heading: 'Mains (V)', channel: 'source_input_voltage', quantum: 1, noise: 1.2 },
          {
            heading: 'Battery temperature (°F)',
            channel: 'battery_temperature',
            scale: 5 / 9,
            offset: 160 / 9,
            quantum: 5 / 9,
            noise: 0.1,
          },
          {
            heading: 'Mode',
            channel: 'source_stage',
            quantum: 1,
            words: { equalise: 'equalize', off: 'standby' },
          },
        ],
      },
      {
        path: 'logs/vault-monitor.csv',
        device: 'monitor',
        everySeconds: 120,
        timeHeading: 'utc',
        timeStyle: 'epoch',
        timeZone: 'UTC',
        delimiter: ';',
        decimalChar: '.',
        columns: [
          { heading: 'Vbatt', channel: 'battery_voltage', quantum: 0.01, noise: 0.005 },
          { heading: 'Ibatt', channel: 'battery_current', quantum: 0.1, noise: 0.06 },
          { heading: 'SoC %', channel: 'soc', quantum: 0.5 },
        ],
      },
    ],
  },
};
