/** Story: the charger stops below the voltage at which the BMS begins to balance, so one cell runs ahead; the monitor waits for a voltage that is never reached. */

import type { KnownMonitor } from '../../system/known';
import { evenCells } from '../lithiumBattery';
import { type DemoSystem, hourInRome, ISLANDS, islandMains, START, ZONE } from './demoSystem';

/** As it is set, and as it counts. */
const monitor: KnownMonitor = {
  method: 'shunt',
  capacityAh: 120,
  chargedV: 53.9,
  tailPercent: 4,
  detectionMinutes: 3,
  efficiencyPercent: 98,
  peukert: 1.05,
  floorPercent: 10,
  thresholdA: 0.1,
  startPercent: 80,
};

/** The generator also rests on Sunday mornings, when the service is sent out. */
const sunday = (ms: number): boolean =>
  new Date(ms).getUTCDay() === 0 && hourInRome(ms) >= 7 && hourInRome(ms) < 13.5;

export const parishRadio: DemoSystem = {
  slug: 'parish-radio',
  job: {
    title: 'Transmitter goes off on Sundays, never shows 100 %',
    complaints: ['drifting-soc', 'premature-cutoff'],
    openedAt: '2026-10-26T15:10:00Z',
    notes:
      'The display has not shown 100 % since it was installed. The BMS opened twice during the Sunday service.',
    since: 'Installed in November 2025',
    tried: 'The inverter’s cut-off was raised to 44.7 V.',
    works: ['inspect', 'charge-test'],
  },
  system: {
    name: 'Parish radio transmitter',
    owner: 'Parish of Monte Fermo',
    timeZone: ZONE,
    bank: {
      chemistry: 'lfp',
      cellsInSeries: 15,
      stringsInParallel: 1,
      capacityAh: 120,
      capacityHours: 5,
      installedOn: '2025-11-14',
      chargeVolts: { min: 52.4, max: 54.6 },
      floatVolts: { min: 49.8, max: 51 },
      maxChargeA: 60,
      chargeAboveC: 0,
    },
    sources: [
      {
        id: 'mains',
        name: 'Mains charger',
        kind: 'mains',
        ratedA: 30,
        profile: {
          preset: 'own',
          absorptionV: 52.4,
          absorptionMinutes: 60,
          floatV: 50.2,
          rebulkV: 49.5,
          compensationMvPerCellPerC: 0,
        },
        counted: true,
        senses: 'battery',
        hoursPerDay: 18,
      },
    ],
    monitor,
    loads: [
      {
        id: 'transmitter',
        name: 'Transmitter inverter',
        kind: 'inverter',
        usualA: 14,
        hoursPerDay: 16,
        alarmV: 46.2,
        cutoffV: 44.7,
        reconnectV: 47.9,
        counted: true,
        conductor: { metres: 2, squareMm: 35 },
      },
    ],
    bms: {
      cellHighV: 3.63,
      cellLowV: 2.72,
      cellHighReleaseV: 3.44,
      cellLowReleaseV: 3.02,
      balanceV: 3.54,
      balanceA: 0.08,
      chargeAboveC: 0,
      dischargeAboveC: -20,
      maxChargeA: 60,
      maxDischargeA: 120,
    },
    site: { coldestC: 9, warmestC: 31 },
  },
  simulated: {
    seed: 16,
    site: {
      from: START,
      days: 21,
      stepSeconds: 30,
      battery: {
        kind: 'lithium',
        // One cell stands ahead of the others, one behind: the charger never gets to where they would be balanced.
        cells: evenCells(15, 118, 0.86, (i) => ((i * 7) % 5) * 0.0012 - 0.0024).map((cell, i) =>
          i === 8 ? { ...cell, charge: 0.925 } : i === 4 ? { ...cell, charge: 0.7 } : cell,
        ),
        bms: {
          cellHighV: 3.63,
          cellLowV: 2.72,
          cellHighReleaseV: 3.44,
          cellLowReleaseV: 3.02,
          balanceV: 3.54,
          balanceA: 0.08,
          chargeAboveC: 0,
        },
        celsius: 20,
        warmingHours: 5,
      },
      startCharge: 0.86,
      chargers: [
        {
          id: 'mains',
          ratedA: 30,
          absorptionV: 52.4,
          floatV: 50.2,
          compensationVPerC: 0,
          absorptionMinutes: 60,
          rebulkV: 49.5,
          pathOhms: 0.004,
          capableAmps: (ms) => (islandMains(ms) && !sunday(ms) ? 30 : 0),
          inputVolts: (ms) => (islandMains(ms) && !sunday(ms) ? 228 : 0),
        },
      ],
      climate: { ...ISLANDS, meanC: 19, dailyC: 2, clear: 0.5, mixed: 0.3 },
      loads: [
        {
          id: 'transmitter',
          amps: (ms, random) =>
            (sunday(ms) ? 18 : hourInRome(ms) > 6 && hourInRome(ms) < 22 ? 14.5 : 5) + random.normal(0, 0.1),
          pathOhms: 0.0025,
          cutoffV: 44.7,
          cutoffSeconds: 30,
          reconnectV: 47.9,
        },
      ],
      monitor,
      startReading: 80,
    },
    loggers: [
      {
        path: 'logs/bms.csv',
        device: 'bms',
        everySeconds: 60,
        timeHeading: 'Local time',
        timeStyle: 'local',
        timeZone: ZONE,
        delimiter: ',',
        decimalChar: '.',
        columns: [
          { heading: 'Pack voltage (V)', channel: 'battery_voltage', quantum: 0.01, noise: 0.005 },
          { heading: 'Pack current (A)', channel: 'battery_current', quantum: 0.1, noise: 0.06 },
          ...Array.from({ length: 15 }, (_, i) => ({
            heading: `Cell ${i + 1} (mV)`,
            channel: `cell_${String(i + 1).padStart(2, '0')}_voltage` as const,
            scale: 0.001,
            quantum: 0.001,
            noise: 0.0008,
          })),
          { heading: 'Temperature (°C)', channel: 'battery_temperature', quantum: 1, noise: 0.1 },
          { heading: 'Charge allowed', channel: 'bms_charge_allowed', quantum: 1 },
          { heading: 'Discharge allowed', channel: 'bms_discharge_allowed', quantum: 1 },
        ],
      },
      {
        path: 'logs/transmitter-monitor.csv',
        device: 'monitor',
        everySeconds: 60,
        timeHeading: 'time',
        timeStyle: 'epoch',
        timeZone: 'UTC',
        delimiter: ',',
        decimalChar: '.',
        columns: [
          { heading: 'bus_voltage', channel: 'battery_voltage', quantum: 0.01, noise: 0.006 },
          { heading: 'bus_current', channel: 'battery_current', quantum: 0.1, noise: 0.05 },
          { heading: 'soc', channel: 'soc', quantum: 0.1 },
        ],
      },
      {
        path: 'logs/parish-charger.csv',
        device: 'mains',
        everySeconds: 60,
        timeHeading: 'Date/Time',
        timeStyle: 'local-12h',
        timeZone: ZONE,
        // It loses half a minute a day.
        clockGainsPerDay: -28,
        delimiter: ',',
        decimalChar: '.',
        columns: [
          { heading: 'Output voltage (V)', channel: 'source_voltage', quantum: 0.02, noise: 0.01 },
          { heading: 'Output current (A)', channel: 'source_current', quantum: 0.1, noise: 0.05 },
          {
            heading: 'State',
            channel: 'source_stage',
            quantum: 1,
            words: { absorption: 'constant voltage', bulk: 'constant current' },
          },
        ],
      },
    ],
  },
};
