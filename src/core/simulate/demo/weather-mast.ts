/** Story: a lithium battery on a lead profile, temperature compensation included, on a mast where the BMS refuses to charge on cold mornings. */

import type { KnownMonitor } from '../../system/known';
import { evenCells } from '../lithiumBattery';
import { type DemoSystem, ISLANDS, ZONE } from './demoSystem';

/** As it is set, and as it counts. */
const monitor: KnownMonitor = {
  method: 'hall',
  capacityAh: 60,
  chargedV: 14.2,
  tailPercent: 4,
  detectionMinutes: 4,
  efficiencyPercent: 98,
  peukert: 1.05,
  floorPercent: 10,
  thresholdA: 0.1,
};

/** Four weeks of autumn on the plateau. */
const AUTUMN = Date.UTC(2026, 9, 11, 22);

export const weatherMast: DemoSystem = {
  slug: 'weather-mast',
  job: {
    title: 'Weather mast dies after frosty nights',
    complaints: ['undercharging', 'premature-cutoff'],
    openedAt: '2026-11-09T11:00:00Z',
    notes: 'Readings stop before noon after nights below freezing. In summer the mast ran without a gap.',
    since: 'October 2026',
    changed: 'The lead battery was replaced by lithium in April; the controller stayed.',
    works: ['inspect'],
  },
  system: {
    name: 'Weather mast, Piana Alta',
    owner: 'Island observatory',
    timeZone: ZONE,
    bank: {
      chemistry: 'lfp',
      cellsInSeries: 4,
      stringsInParallel: 1,
      capacityAh: 60,
      capacityHours: 5,
      installedOn: '2026-04-02',
      chargeVolts: { min: 14.2, max: 14.6 },
      floatVolts: { min: 13.3, max: 13.6 },
      maxChargeA: 30,
      chargeAboveC: 0,
      dischargeAboveC: -20,
    },
    sources: [
      {
        id: 'solar',
        name: 'Solar controller',
        kind: 'solar',
        ratedA: 15,
        profile: {
          preset: 'agm',
          absorptionV: 14.4,
          absorptionMinutes: 120,
          floatV: 13.6,
          rebulkV: 13.2,
          compensationMvPerCellPerC: -4,
        },
        counted: true,
        senses: 'own-terminals',
        hoursPerDay: 4,
        conductor: { metres: 3, squareMm: 10 },
      },
    ],
    monitor,
    loads: [
      {
        id: 'station',
        name: 'Weather station',
        kind: 'dc',
        usualA: 0.8,
        hoursPerDay: 24,
        alarmV: 12.6,
        cutoffV: 11.8,
        reconnectV: 12.9,
        counted: true,
      },
    ],
    bms: {
      cellHighV: 3.65,
      cellLowV: 2.5,
      balanceV: 3.4,
      chargeAboveC: 0,
      dischargeAboveC: -20,
      maxChargeA: 30,
      maxDischargeA: 60,
    },
    site: { coldestC: -11, warmestC: 26 },
  },
  simulated: {
    seed: 52,
    site: {
      from: AUTUMN,
      days: 27,
      stepSeconds: 30,
      battery: {
        kind: 'lithium',
        cells: evenCells(4, 60, 0.9, (i) => [0.003, -0.002, 0.001, -0.004][i]!),
        bms: {
          cellHighV: 3.65,
          cellLowV: 2.5,
          cellHighReleaseV: 3.45,
          cellLowReleaseV: 2.9,
          balanceV: 3.4,
          balanceA: 0.05,
          chargeAboveC: 0,
        },
        celsius: 4,
        warmingHours: 5,
      },
      startCharge: 0.9,
      chargers: [
        {
          id: 'solar',
          ratedA: 15,
          absorptionV: 14.4,
          floatV: 13.6,
          compensationVPerC: -0.016,
          absorptionMinutes: 120,
          rebulkV: 13.2,
          pathOhms: 0.006,
          // Low sun on a panel meant for summer.
          capableAmps: (_, sun) => Math.min(15, 9 * sun),
          inputVolts: (_, sun, amps) => (sun > 0.003 ? 18 + 2 * sun - 0.03 * amps : 0.3),
        },
      ],
      climate: { ...ISLANDS, meanC: -1, dailyC: 5.5, clear: 0.4, mixed: 0.3 },
      loads: [
        {
          id: 'station',
          amps: (ms, random) => (ms % 600_000 < 60_000 ? 2.2 : 0.65) + Math.abs(random.normal(0, 0.01)),
          cutoffV: 11.8,
          cutoffSeconds: 60,
          reconnectV: 12.9,
        },
      ],
      monitor,
      startReading: 93,
    },
    loggers: [
      {
        path: 'logs/mast-bms.csv',
        device: 'bms',
        everySeconds: 120,
        timeHeading: 'epoch (s)',
        timeStyle: 'epoch',
        timeZone: 'UTC',
        // Its clock came with the wrong summer time.
        clockAheadSeconds: 3600,
        delimiter: ';',
        decimalChar: '.',
        columns: [
          { heading: 'pack_mV', channel: 'battery_voltage', scale: 0.001, quantum: 0.001, noise: 0.003 },
          { heading: 'pack_mA', channel: 'battery_current', scale: 0.001, quantum: 0.01, noise: 0.01 },
          ...Array.from({ length: 4 }, (_, i) => ({
            heading: `cell${i + 1}_mV`,
            channel: `cell_${String(i + 1).padStart(2, '0')}_voltage` as const,
            scale: 0.001,
            quantum: 0.001,
            noise: 0.001,
          })),
          { heading: 'pack_temp_C', channel: 'battery_temperature', quantum: 0.5, noise: 0.1 },
          { heading: 'charge_enabled', channel: 'bms_charge_allowed', quantum: 1 },
          { heading: 'discharge_enabled', channel: 'bms_discharge_allowed', quantum: 1 },
        ],
      },
      {
        path: 'logs/mast-controller.csv',
        device: 'solar',
        everySeconds: 60,
        timeHeading: 'Local date',
        timeStyle: 'local',
        timeZone: ZONE,
        delimiter: ',',
        decimalChar: '.',
        columns: [
          { heading: 'Battery terminal (V)', channel: 'source_voltage', quantum: 0.01, noise: 0.006 },
          { heading: 'Charge current (A)', channel: 'source_current', quantum: 0.01, noise: 0.02 },
          { heading: 'Array (V)', channel: 'source_input_voltage', quantum: 0.1, noise: 0.1 },
          { heading: 'Charge state', channel: 'source_stage', quantum: 1, words: { off: 'no sun' } },
        ],
      },
      {
        path: 'logs/mast-monitor.csv',
        device: 'monitor',
        everySeconds: 60,
        timeHeading: 'UTC time',
        timeStyle: 'utc',
        timeZone: 'UTC',
        delimiter: ',',
        decimalChar: '.',
        columns: [
          { heading: 'U [V]', channel: 'battery_voltage', quantum: 0.01, noise: 0.005 },
          { heading: 'I [A]', channel: 'battery_current', quantum: 0.02, noise: 0.02, offset: 0.01 },
          { heading: 'SoC [%]', channel: 'soc', quantum: 0.1 },
        ],
      },
    ],
  },
};
