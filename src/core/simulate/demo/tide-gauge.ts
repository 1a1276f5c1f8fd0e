/** Story: the charger's absorption timer is set to 60 min; the battery is never full although every day looks alike. */

import type { KnownMonitor } from '../../system/known';
import { usualLeadBattery } from '../leadBattery';
import { type DemoSystem, ISLANDS, START, ZONE } from './demoSystem';

/** As it is set, and as it counts. */
const monitor: KnownMonitor = {
  method: 'shunt',
  capacityAh: 160,
  chargedV: 14.2,
  tailPercent: 4,
  detectionMinutes: 3,
  efficiencyPercent: 85,
  peukert: 1.25,
  floorPercent: 50,
  thresholdA: 0.1,
};

export const tideGauge: DemoSystem = {
  slug: 'tide-gauge',
  job: {
    title: 'Tide gauge never gets full',
    complaints: ['undercharging'],
    openedAt: '2026-10-19T08:30:00Z',
    notes:
      'The duty technician reports 12.1 V at dawn since the summer. The charge controller was replaced in May. Panels were cleaned, no change.',
  },
  system: {
    name: 'Tide gauge, Porto Lente',
    owner: 'Harbour authority',
    timeZone: ZONE,
    bank: {
      chemistry: 'agm',
      cellsInSeries: 6,
      stringsInParallel: 2,
      capacityAh: 160,
      capacityHours: 20,
      installedOn: '2024-03-12',
      chargeVolts: { min: 14.3, max: 14.7 },
      floatVolts: { min: 13.5, max: 13.8 },
      compensationMvPerCellPerC: { min: -5, max: -3 },
      maxChargeA: 48,
    },
    sources: [
      {
        id: 'solar',
        name: 'Solar controller',
        kind: 'solar',
        ratedA: 40,
        profile: {
          absorptionV: 14.4,
          absorptionMinutes: 60,
          floatV: 13.6,
          rebulkV: 12.8,
          compensationMvPerCellPerC: -4,
        },
        counted: true,
        senses: 'own-terminals',
        hoursPerDay: 5,
        conductor: { metres: 1.5, squareMm: 16 },
      },
    ],
    monitor,
    loads: [
      {
        id: 'gauge',
        name: 'Gauge and logger',
        kind: 'dc',
        usualA: 5,
        hoursPerDay: 24,
        cutoffV: 11.5,
        reconnectV: 12.6,
        counted: true,
      },
      { id: 'modem', name: 'Radio modem', kind: 'dc', usualA: 4, hoursPerDay: 2.4, counted: true },
    ],
    site: { coldestC: 8, warmestC: 34 },
  },
  simulated: {
    seed: 41,
    site: {
      from: START,
      days: 27,
      stepSeconds: 30,
      battery: { ...usualLeadBattery(155, 6), resistance: 1.1 },
      startCharge: 0.62,
      chargers: [
        {
          id: 'solar',
          ratedA: 40,
          absorptionV: 14.4,
          floatV: 13.6,
          compensationVPerC: -0.024,
          absorptionMinutes: 60,
          rebulkV: 12.8,
          pathOhms: 0.003,
          capableAmps: (_, sun) => Math.min(40, 42 * sun),
          inputVolts: (_, sun, amps) => (sun > 0.003 ? 17.5 + 3 * sun - 0.02 * amps : 0.4),
        },
      ],
      climate: { ...ISLANDS, meanC: 19, dailyC: 4, clear: 0.65, mixed: 0.27 },
      loads: [
        {
          id: 'gauge',
          amps: (ms, random) => (ms % (15 * 60_000) < 90_000 ? 9 : 5) + Math.abs(random.normal(0, 0.1)),
        },
      ],
      monitor,
      startReading: 74,
    },
    loggers: [
      {
        path: 'logs/solar-controller.csv',
        device: 'solar',
        everySeconds: 60,
        timeHeading: 'Time (local)',
        timeStyle: 'local',
        timeZone: ZONE,
        delimiter: ';',
        decimalChar: ',',
        preamble: ['Solar controller log', 'Site;Porto Lente'],
        columns: [
          { heading: 'Output voltage [V]', channel: 'source_voltage', quantum: 0.01, noise: 0.006 },
          { heading: 'Output current [A]', channel: 'source_current', quantum: 0.1, noise: 0.05 },
          { heading: 'Panel voltage [V]', channel: 'source_input_voltage', quantum: 0.1, noise: 0.1 },
          { heading: 'Load current [A]', channel: 'load_current', quantum: 0.1, noise: 0.03 },
          { heading: 'Battery temperature [°C]', channel: 'battery_temperature', quantum: 0.5, noise: 0.1 },
        ],
      },
      {
        path: 'logs/monitor.csv',
        device: 'monitor',
        everySeconds: 120,
        timeHeading: 'timestamp',
        timeStyle: 'utc',
        timeZone: 'UTC',
        delimiter: ',',
        decimalChar: '.',
        columns: [
          { heading: 'battery_voltage (V)', channel: 'battery_voltage', quantum: 0.01, noise: 0.004 },
          {
            heading: 'battery_current (A)',
            channel: 'battery_current',
            quantum: 0.01,
            noise: 0.02,
            offset: 0.01,
          },
          { heading: 'soc (%)', channel: 'soc', quantum: 0.1 },
        ],
      },
    ],
  },
};
