/** Story: a long thin cable and a cut-off meant for rest voltage: each blast drops the load although the battery is full. */

import type { KnownMonitor } from '../../system/known';
import { usualLeadBattery } from '../leadBattery';
import { type DemoSystem, hourInRome, ISLANDS, islandMains, START, ZONE } from './demoSystem';

/** As it is set, and as it counts. */
const monitor: KnownMonitor = {
  method: 'shunt',
  capacityAh: 210,
  chargedV: 54,
  tailPercent: 4,
  detectionMinutes: 4,
  efficiencyPercent: 84,
  peukert: 1.25,
  floorPercent: 50,
  thresholdA: 0.2,
};

/** Fog on four of the seven days, for an hour in the early morning. */
const foggy = (ms: number): boolean =>
  Math.floor((ms - START) / 86_400_000) % 2 === 0 && hourInRome(ms) >= 3.5 && hourInRome(ms) < 4.5;

/** Made in spring at the ten-hour rate: minutes and V. */
const CAPACITY_TEST: readonly (readonly [number, number])[] = [
  [0, 50.1],
  [60, 49.5],
  [120, 49.0],
  [180, 48.5],
  [240, 47.9],
  [300, 47.2],
  [360, 46.5],
  [420, 45.6],
  [480, 44.6],
  [510, 43.8],
  [540, 42.6],
  [551, 42.0],
];

export const fogHorn: DemoSystem = {
  slug: 'fog-horn',
  records: {
    'capacity-test': [
      {
        id: '00000000-0000-4000-8000-000000000001',
        on: '2026-04-14',
        from: 'typed',
        wasFull: true,
        celsius: 17,
        endedBy: 'end-voltage',
        ratedAh: 190,
        ratedHours: 10,
        exponent: 1.25,
        endVolts: 42,
        readings: CAPACITY_TEST.map(([minutes, volts]) => ({ minutes, volts, amps: 19 })),
        notes: 'Two heaters as the load. The horn was fed from the van meanwhile.',
      },
    ],
  },
  job: {
    title: 'Fog horn drops out on the second blast',
    complaints: ['premature-cutoff'],
    openedAt: '2026-10-24T06:30:00Z',
    notes:
      'The horn stops on the second or third blast and comes back a minute later. The battery reads 90 % and 51 V at rest.',
    since: 'The horn was moved to the cliff in May.',
    changed: 'The cable to the horn was lengthened.',
    works: ['inspect', 'rewire'],
  },
  system: {
    name: 'Fog horn, Capo Nebbia',
    owner: 'Harbour authority',
    timeZone: ZONE,
    bank: {
      chemistry: 'agm',
      cellsInSeries: 24,
      stringsInParallel: 1,
      capacityAh: 190,
      capacityHours: 10,
      installedOn: '2023-04-20',
      chargeVolts: { min: 57.2, max: 58.4 },
      floatVolts: { min: 54, max: 55.2 },
      maxChargeA: 50,
    },
    sources: [
      {
        id: 'mains',
        name: 'Mains charger',
        kind: 'mains',
        ratedA: 30,
        profile: {
          preset: 'agm',
          absorptionV: 57.6,
          absorptionMinutes: 300,
          tailA: 4,
          floatV: 54.6,
          rebulkV: 51.2,
          compensationMvPerCellPerC: -4,
        },
        counted: true,
        senses: 'battery',
        hoursPerDay: 18,
        conductor: { metres: 2, squareMm: 16 },
      },
    ],
    monitor,
    loads: [
      {
        id: 'horn',
        name: 'Fog horn',
        kind: 'dc',
        usualA: 70,
        hoursPerDay: 1,
        alarmV: 48.4,
        cutoffV: 47.6,
        reconnectV: 48.4,
        counted: true,
        conductor: { metres: 45, squareMm: 25 },
      },
      {
        id: 'control',
        name: 'Control and fog sensor',
        kind: 'dc',
        usualA: 1.2,
        hoursPerDay: 24,
        counted: true,
      },
    ],
    site: { coldestC: 5, warmestC: 30 },
  },
  simulated: {
    seed: 87,
    site: {
      from: START,
      days: 7,
      stepSeconds: 5,
      battery: { ...usualLeadBattery(205, 24), resistance: 1.05 },
      startCharge: 0.95,
      chargers: [
        {
          id: 'mains',
          ratedA: 30,
          absorptionV: 57.6,
          floatV: 54.6,
          compensationVPerC: -0.096,
          absorptionMinutes: 300,
          tailA: 4,
          rebulkV: 51.2,
          pathOhms: 0.004,
          capableAmps: (ms) => (islandMains(ms) ? 30 : 0),
          inputVolts: (ms) => (islandMains(ms) ? 229 : 0),
        },
      ],
      climate: { ...ISLANDS, meanC: 17, dailyC: 2, clear: 0.4, mixed: 0.3 },
      loads: [
        {
          id: 'horn',
          // A blast of five seconds every half minute.
          amps: (ms, random) => (foggy(ms) && ms % 30_000 < 5000 ? 70 + random.normal(0, 1) : 0),
          // 45 m and back, 25 mm² of copper.
          pathOhms: 0.066,
          cutoffV: 47.6,
          cutoffSeconds: 9,
          reconnectV: 48.4,
        },
        { id: 'control', amps: (_, random) => 1.2 + random.normal(0, 0.02) },
      ],
      monitor,
      startReading: 96,
    },
    loggers: [
      {
        path: 'logs/monitor-fast.csv',
        device: 'monitor',
        everySeconds: 5,
        timeHeading: 'Time',
        timeStyle: 'utc',
        timeZone: 'UTC',
        delimiter: ',',
        decimalChar: '.',
        columns: [
          { heading: 'Battery volts', channel: 'battery_voltage', quantum: 0.01, noise: 0.01 },
          { heading: 'Battery amps', channel: 'battery_current', quantum: 0.1, noise: 0.05 },
          { heading: 'Percent full (%)', channel: 'soc', quantum: 1 },
        ],
      },
      {
        path: 'logs/horn-control.csv',
        device: 'horn',
        everySeconds: 5,
        timeHeading: 'Time (local)',
        timeStyle: 'local',
        timeZone: ZONE,
        delimiter: '\t',
        decimalChar: '.',
        columns: [
          { heading: 'Supply at horn [V]', channel: 'load_voltage', quantum: 0.1, noise: 0.03 },
          { heading: 'Horn current [A]', channel: 'load_current', quantum: 0.5, noise: 0.1 },
        ],
      },
      {
        path: 'logs/cape-charger.csv',
        device: 'mains',
        everySeconds: 60,
        timeHeading: 'date and time',
        timeStyle: 'local-dmy',
        timeZone: ZONE,
        // Never set to summer time.
        clockAheadSeconds: -3600,
        delimiter: ';',
        decimalChar: ',',
        columns: [
          { heading: 'charger output voltage (V)', channel: 'source_voltage', quantum: 0.05, noise: 0.02 },
          { heading: 'charger output current (A)', channel: 'source_current', quantum: 0.1, noise: 0.06 },
          { heading: 'stage', channel: 'source_stage', quantum: 1 },
        ],
      },
    ],
  },
};
