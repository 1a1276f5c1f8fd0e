/** Story: in good order. Mains by day, clock and bells on the battery by night. */

import { HOUR } from '../../quantity/span';
import type { KnownMonitor } from '../../system/known';
import { usualLeadBattery } from '../leadBattery';
import { type DemoSystem, hourInRome, ISLANDS, islandMains, START, ZONE } from './demoSystem';

/** As it is set, and as it counts. */
const monitor: KnownMonitor = {
  method: 'shunt',
  capacityAh: 120,
  chargedV: 27.2,
  tailPercent: 4,
  detectionMinutes: 3,
  efficiencyPercent: 90,
  peukert: 1.25,
  floorPercent: 50,
  thresholdA: 0.1,
};

export const harbourOffice: DemoSystem = {
  slug: 'harbour-office',
  job: {
    title: 'Yearly check of clock and bells',
    complaints: ['undercharging'],
    openedAt: '2026-10-19T14:00:00Z',
    notes:
      'The harbour office asked whether the battery still charges as it should. Nobody has noticed anything wrong.',
  },
  records: {
    visit: [
      {
        id: '00000000-0000-4000-8000-000000000021',
        job: '00000000-0000-4000-8000-000000000020',
        on: '2026-10-19',
        passedOver: ['memory', 'shunt'],
        displays: {
          at: '15:10',
          postsV: 27.41,
          celsius: 22,
          shown: {
            monitor: { percent: 100, volts: 27.4, amps: 0.1 },
            mains: { volts: 27.43, amps: 1.3 },
          },
        },
        proof: {
          offA: 0,
          devices: {
            mains: { knownA: 13.8, showsA: 13.6 },
            clock: { clampA: 1.1, showsA: -1.1, startA: 11 },
          },
        },
        mainPath: { fuseA: 40, cableA: 50, busbarA: 100, jumperA: 50 },
        shuntA: 100,
        acceptance: {
          floatBatteryA: 0.1,
          floatLoadsA: 1.2,
          chargeA: 13.8,
          monitorPercent: 97,
          restV: 25.72,
          restHours: 12,
        },
        nextFullOn: '2026-10-26',
        nextVisitOn: '2027-10-18',
        notes: 'In good order. The owner asked for nothing else.',
        signedBy: 'duty technician',
        signedOn: '2026-10-19',
      },
    ],
  },
  system: {
    name: 'Harbour office clock and bells',
    owner: 'Harbour authority',
    timeZone: ZONE,
    bank: {
      chemistry: 'gel',
      cellsInSeries: 12,
      stringsInParallel: 1,
      capacityAh: 120,
      capacityHours: 20,
      installedOn: '2023-10-02',
      chargeVolts: { min: 28.0, max: 28.6 },
      floatVolts: { min: 27.2, max: 27.6 },
      compensationMvPerCellPerC: { min: -5, max: -3 },
      maxChargeA: 24,
    },
    sources: [
      {
        id: 'mains',
        name: 'Mains charger',
        kind: 'mains',
        ratedA: 15,
        profile: {
          absorptionV: 28.2,
          absorptionMinutes: 480,
          tailA: 2.4,
          floatV: 27.4,
          rebulkV: 25.6,
          compensationMvPerCellPerC: -4,
        },
        counted: true,
        senses: 'battery',
        hoursPerDay: 18,
        conductor: { metres: 2, squareMm: 10 },
      },
    ],
    monitor,
    loads: [
      {
        id: 'clock',
        name: 'Clock and bells',
        kind: 'dc',
        usualA: 2,
        hoursPerDay: 24,
        cutoffV: 23.4,
        reconnectV: 25.4,
        counted: true,
        conductor: { metres: 6, squareMm: 6 },
      },
    ],
    site: { coldestC: 12, warmestC: 29, airflow: 10 },
  },
  simulated: {
    seed: 7,
    site: {
      from: START,
      days: 27,
      stepSeconds: 30,
      battery: usualLeadBattery(121, 12),
      startCharge: 0.99,
      chargers: [
        {
          id: 'mains',
          ratedA: 15,
          absorptionV: 28.2,
          floatV: 27.4,
          compensationVPerC: -0.048,
          absorptionMinutes: 480,
          tailA: 2.4,
          rebulkV: 25.6,
          pathOhms: 0.002,
          capableAmps: (ms) => (islandMains(ms) ? 15 : 0),
          inputVolts: (ms) => (islandMains(ms) ? 229 : 0),
        },
      ],
      climate: { ...ISLANDS, meanC: 21, dailyC: 1.5, clear: 0.6, mixed: 0.3 },
      loads: [
        {
          id: 'clock',
          amps: (ms, random) => {
            const onTheHour = ms % HOUR < 60_000;
            return (
              (onTheHour ? 11 : 1.1) +
              Math.abs(random.normal(0, 0.03)) +
              (hourInRome(ms) < 5 || hourInRome(ms) > 20 ? 2.4 : 0)
            );
          },
        },
      ],
      monitor,
    },
    loggers: [
      {
        path: 'logs/mains-charger.csv',
        device: 'mains',
        everySeconds: 60,
        timeHeading: 'Date and time',
        timeStyle: 'local-dmy',
        timeZone: ZONE,
        delimiter: '\t',
        decimalChar: '.',
        columns: [
          { heading: 'Charger V', channel: 'source_voltage', quantum: 0.02, noise: 0.01 },
          { heading: 'Charger A', channel: 'source_current', quantum: 0.1, noise: 0.04 },
          { heading: 'Mains V', channel: 'source_input_voltage', quantum: 1, noise: 1.5 },
          { heading: 'Battery temp °C', channel: 'battery_temperature', quantum: 0.1, noise: 0.1 },
          { heading: 'State', channel: 'source_stage', quantum: 1 },
        ],
      },
      {
        path: 'logs/monitor.csv',
        device: 'monitor',
        everySeconds: 60,
        timeHeading: 'time',
        timeStyle: 'utc',
        timeZone: 'UTC',
        delimiter: ',',
        decimalChar: '.',
        columns: [
          { heading: 'voltage_mV', channel: 'battery_voltage', scale: 0.001, quantum: 0.01, noise: 0.006 },
          { heading: 'current_mA', channel: 'battery_current', scale: 0.001, quantum: 0.01, noise: 0.02 },
          { heading: 'soc_pct', channel: 'soc', quantum: 0.1 },
        ],
      },
    ],
  },
};
