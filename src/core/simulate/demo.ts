/**
 * The demo systems: an invented service cooperative on an invented archipelago, the Isole Mirtane. Nothing and nobody in it is
 * real. Each system has its story; the logs come out of the simulation, never out of a drawing.
 */

import { DAY, HOUR } from '../quantity/span';
import type { Job, System } from '../system/schema';
import type { LoggerSpec } from './logger';
import { writeLog } from './logger';
import { usualLeadBattery } from './leadBattery';
import { seededRandom } from './random';
import { runSite, type SiteSpec, type Truth } from './site';

export interface DemoLog {
  path: string;
  device: string;
  text: string;
}

export interface DemoJob {
  /** Short name used on the command line and in file names. */
  slug: string;
  system: System;
  job: Job;
  logs: DemoLog[];
}

export interface DemoSystem {
  slug: string;
  system: System;
  job: Job;
  seed: number;
  site: SiteSpec;
  loggers: (LoggerSpec & { path: string; device: string })[];
}

const ZONE = 'Europe/Rome';
const ISLANDS = { latitude: 40.4, longitude: 13.2 };
const START = Date.UTC(2026, 8, 20, 22);

/** Story: the charger's absorption timer is set to 60 min; the battery is never full although every day looks alike. */
const tideGauge: DemoSystem = {
  slug: 'tide-gauge',
  seed: 41,
  job: {
    title: 'Tide gauge never gets full',
    complaints: ['undercharging'],
    openedAt: '2026-10-19T08:30:00Z',
    notes:
      'The duty technician reports 12.1 V at dawn since the summer. The charge controller was replaced in May. Panels were cleaned, no change.',
  },
  system: {
    name: 'Tide gauge, Porto Lente',
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
      },
    ],
    monitor: {
      method: 'shunt',
      capacityAh: 160,
      chargedV: 14.2,
      tailPercent: 4,
      detectionMinutes: 3,
      efficiencyPercent: 85,
      peukert: 1.25,
      floorPercent: 50,
    },
    loads: [
      { id: 'gauge', name: 'Gauge and logger', kind: 'dc', cutoffV: 11.5, reconnectV: 12.6, counted: true },
      { id: 'modem', name: 'Radio modem', kind: 'dc', counted: true },
    ],
  },
  site: {
    from: START,
    days: 27,
    stepSeconds: 30,
    battery: { ...usualLeadBattery(155, 6), resistance: 1.1 },
    startCharge: 0.62,
    charger: {
      id: 'solar',
      ratedA: 40,
      absorptionV: 14.4,
      floatV: 13.6,
      compensationVPerC: -0.024,
      absorptionMinutes: 60,
      rebulkV: 12.8,
      pathOhms: 0.003,
    },
    climate: { ...ISLANDS, meanC: 19, dailyC: 4, clear: 0.65, mixed: 0.27 },
    capableAmps: (_, sun) => Math.min(40, 42 * sun),
    loadAmps: (ms, random) => (ms % (15 * 60_000) < 90_000 ? 9 : 5) + Math.abs(random.normal(0, 0.1)),
    inputVolts: (_, sun, amps) => (sun > 0.003 ? 17.5 + 3 * sun - 0.02 * amps : 0.4),
    monitor: {
      method: 'shunt',
      capacityAh: 160,
      chargedV: 14.2,
      tailPercent: 4,
      detectionMinutes: 3,
      efficiencyPercent: 85,
      peukert: 1.25,
      floorPercent: 50,
    },
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
};

const hourInRome = (ms: number): number => ((ms + 2 * HOUR) % DAY) / HOUR;
/** The islands' generator rests from 23:00 to 05:00. */
const islandMains = (ms: number): boolean => hourInRome(ms) >= 5 && hourInRome(ms) < 23;

/** Story: in good order. Mains by day, clock and bells on the battery by night. */
const harbourOffice: DemoSystem = {
  slug: 'harbour-office',
  seed: 7,
  job: {
    title: 'Yearly check of clock and bells',
    complaints: ['undercharging'],
    openedAt: '2026-10-19T14:00:00Z',
    notes:
      'The harbour office asked whether the battery still charges as it should. Nobody has noticed anything wrong.',
  },
  system: {
    name: 'Harbour office clock and bells',
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
      },
    ],
    monitor: {
      method: 'shunt',
      capacityAh: 120,
      chargedV: 27.2,
      tailPercent: 4,
      detectionMinutes: 3,
      efficiencyPercent: 90,
      peukert: 1.25,
      floorPercent: 50,
    },
    loads: [
      { id: 'clock', name: 'Clock and bells', kind: 'dc', cutoffV: 23.4, reconnectV: 25.4, counted: true },
    ],
  },
  site: {
    from: START,
    days: 27,
    stepSeconds: 30,
    battery: usualLeadBattery(121, 12),
    startCharge: 0.99,
    charger: {
      id: 'mains',
      ratedA: 15,
      absorptionV: 28.2,
      floatV: 27.4,
      compensationVPerC: -0.048,
      absorptionMinutes: 480,
      tailA: 2.4,
      rebulkV: 25.6,
      pathOhms: 0.002,
    },
    climate: { ...ISLANDS, meanC: 21, dailyC: 1.5, clear: 0.6, mixed: 0.3 },
    capableAmps: (ms) => (islandMains(ms) ? 15 : 0),
    loadAmps: (ms, random) => {
      const onTheHour = ms % HOUR < 60_000;
      return (
        (onTheHour ? 11 : 1.1) +
        Math.abs(random.normal(0, 0.03)) +
        (hourInRome(ms) < 5 || hourInRome(ms) > 20 ? 2.4 : 0)
      );
    },
    inputVolts: (ms) => (islandMains(ms) ? 229 : 0),
    monitor: {
      method: 'shunt',
      capacityAh: 120,
      chargedV: 27.2,
      tailPercent: 4,
      detectionMinutes: 3,
      efficiencyPercent: 90,
      peukert: 1.25,
      floorPercent: 50,
    },
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
};

const SYSTEMS: readonly DemoSystem[] = [tideGauge, harbourOffice];

export const DEMO_SLUGS = SYSTEMS.map((one) => one.slug);

/** What a demo system is made from. @throws when there is no such system */
export function demoSite(slug: string): DemoSystem {
  const found = SYSTEMS.find((one) => one.slug === slug);
  if (!found) throw new Error(`There is no demo system "${slug}". There are: ${DEMO_SLUGS.join(', ')}.`);
  return found;
}

/** The noiseless truth behind a demo system, for tests. */
export function demoTruth(slug: string): Truth {
  const { site, seed } = demoSite(slug);
  return runSite(site, seededRandom(seed));
}

/** A demo job with its logs, the same every time. @throws when there is no such system */
export function demoJob(slug: string): DemoJob {
  const { system, job, loggers, seed } = demoSite(slug);
  const { series } = demoTruth(slug);
  const random = seededRandom(seed + 1000);
  return {
    slug,
    system,
    job,
    logs: loggers.map((spec) => ({
      path: spec.path,
      device: spec.device,
      text: writeLog(series, spec, random),
    })),
  };
}
