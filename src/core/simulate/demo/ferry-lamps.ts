/** Story: the monitor calls the battery full under a passing cloud: charged voltage, tail and detection time are all too easy. */

import type { KnownMonitor } from '../../system/known';
import { usualLeadBattery } from '../leadBattery';
import { type DemoSystem, hourInRome, ISLANDS, START, ZONE } from './demoSystem';

/** As it is set, and as it counts. */
const monitor: KnownMonitor = {
  method: 'shunt',
  capacityAh: 110,
  chargedV: 13.2,
  tailPercent: 12,
  detectionMinutes: 1,
  efficiencyPercent: 85,
  peukert: 1.25,
  floorPercent: 50,
  thresholdA: 0.1,
};

export const ferryLamps: DemoSystem = {
  slug: 'ferry-lamps',
  job: {
    title: 'Signal lamps alarm at “75 %”',
    complaints: ['drifting-soc'],
    openedAt: '2026-10-23T10:20:00Z',
    notes: 'The low-voltage alarm sounded before dawn on four nights while the display said 72 to 78 %.',
    since: 'First cloudy week of September',
    changed: 'A new battery monitor in June.',
    reading: { displayedPercent: 88, volts: 12.31, hoursAtRest: 2, celsius: 21 },
    works: ['inspect', 'charge-test'],
  },
  system: {
    name: 'Ferry signal lamps, Molo Nord',
    owner: 'Harbour authority',
    timeZone: ZONE,
    bank: {
      chemistry: 'gel',
      cellsInSeries: 6,
      stringsInParallel: 1,
      capacityAh: 110,
      capacityHours: 20,
      installedOn: '2024-11-05',
      chargeVolts: { min: 14, max: 14.2 },
      floatVolts: { min: 13.5, max: 13.8 },
      maxChargeA: 22,
    },
    sources: [
      {
        id: 'solar',
        name: 'Solar controller',
        kind: 'solar',
        ratedA: 20,
        profile: {
          preset: 'gel',
          absorptionV: 14.1,
          absorptionMinutes: 180,
          tailA: 2.2,
          floatV: 13.7,
          rebulkV: 13,
          compensationMvPerCellPerC: -4,
        },
        counted: true,
        senses: 'own-terminals',
        hoursPerDay: 5,
        conductor: { metres: 2, squareMm: 10 },
      },
    ],
    monitor,
    loads: [
      {
        id: 'lamps',
        name: 'Signal lamps',
        kind: 'dc',
        usualA: 4,
        hoursPerDay: 11,
        alarmV: 12,
        cutoffV: 11.6,
        reconnectV: 12.6,
        counted: true,
        conductor: { metres: 4, squareMm: 10 },
      },
    ],
    site: { coldestC: 6, warmestC: 33 },
  },
  simulated: {
    seed: 61,
    site: {
      from: START,
      days: 27,
      stepSeconds: 30,
      battery: { ...usualLeadBattery(108, 6), resistance: 1.1 },
      startCharge: 0.8,
      chargers: [
        {
          id: 'solar',
          ratedA: 20,
          absorptionV: 14.1,
          floatV: 13.7,
          compensationVPerC: -0.024,
          absorptionMinutes: 180,
          tailA: 2.2,
          rebulkV: 13,
          pathOhms: 0.004,
          capableAmps: (_, sun) => Math.min(20, 17 * sun),
          inputVolts: (_, sun, amps) => (sun > 0.003 ? 17.8 + 2.5 * sun - 0.03 * amps : 0.3),
        },
      ],
      // Three weeks of showers.
      climate: { ...ISLANDS, meanC: 20, dailyC: 4, clear: 0.25, mixed: 0.45 },
      loads: [
        {
          id: 'lamps',
          amps: (ms, random) =>
            (hourInRome(ms) > 19 || hourInRome(ms) < 6 ? 4 : 0.2) + Math.abs(random.normal(0, 0.04)),
          pathOhms: 0.014,
          cutoffV: 11.6,
          cutoffSeconds: 60,
          reconnectV: 12.6,
        },
      ],
      monitor,
      startReading: 82,
    },
    loggers: [
      {
        path: 'logs/lamp-controller.csv',
        device: 'solar',
        everySeconds: 60,
        timeHeading: 'Datum',
        clockHeading: 'Uhrzeit',
        timeStyle: 'local-two',
        timeZone: ZONE,
        delimiter: ';',
        decimalChar: ',',
        columns: [
          { heading: 'Batteriespannung [V]', channel: 'battery_voltage', quantum: 0.01, noise: 0.006 },
          { heading: 'Ladestrom [A]', channel: 'source_current', quantum: 0.1, noise: 0.04 },
          { heading: 'Panel [V]', channel: 'source_input_voltage', quantum: 0.1, noise: 0.1 },
        ],
      },
      {
        path: 'logs/lamp-monitor.csv',
        device: 'monitor',
        everySeconds: 60,
        timeHeading: 'when',
        timeStyle: 'utc',
        timeZone: 'UTC',
        delimiter: ',',
        decimalChar: '.',
        columns: [
          { heading: 'voltage (mV)', channel: 'battery_voltage', scale: 0.001, quantum: 0.01, noise: 0.004 },
          { heading: 'current (mA)', channel: 'battery_current', scale: 0.001, quantum: 0.01, noise: 0.02 },
          { heading: 'state of charge (%)', channel: 'soc', quantum: 0.1 },
        ],
      },
    ],
  },
};
