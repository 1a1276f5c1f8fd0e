/**
 * Story: no log, only an hour on site. Two lithium batteries in parallel, and a reading that walks down although the sun fills them every
 * day. All settings are right and all displays look sound: that the solar controller passes the monitor by shows only when each device is
 * switched on alone.
 */

import type { SystemRecords } from '../../records/records';
import type { Job, System } from '../../system/schema';
import { ZONE } from './demoSystem';

export interface OnSiteDemo {
  slug: string;
  system: System;
  job: Job;
  records: Partial<SystemRecords>;
}

export const cisternPumps: OnSiteDemo = {
  slug: 'cistern-pumps',
  job: {
    title: 'Cistern pumps: reading walks down, nothing is ever short',
    complaints: ['drifting-soc'],
    openedAt: '2026-10-21T08:30:00Z',
    notes:
      'The water keepers write down the percentage each morning: a few per cent less every day, and yet the pumps have never stopped. There is no log.',
    since: 'Since the solar controller was put in last spring.',
  },
  system: {
    name: 'Cistern pumps at Cala Secca',
    owner: 'Water keepers of Cala Secca',
    timeZone: ZONE,
    bank: {
      chemistry: 'lfp',
      cellsInSeries: 4,
      stringsInParallel: 2,
      capacityAh: 200,
      capacityHours: 5,
      installedOn: '2024-05-06',
      chargeVolts: { min: 14.0, max: 14.6 },
      maxChargeA: 100,
      chargeAboveC: 0,
    },
    sources: [
      {
        id: 'mains',
        name: 'Mains charger',
        kind: 'mains',
        ratedA: 40,
        profile: {
          preset: 'lithium',
          absorptionV: 14.2,
          absorptionMinutes: 60,
          tailA: 8,
          floatV: 13.5,
          rebulkV: 13.1,
          compensationMvPerCellPerC: 0,
        },
        counted: null,
        senses: 'own-terminals',
        hoursPerDay: 4,
        conductor: { metres: 1.5, squareMm: 25 },
      },
      {
        id: 'solar',
        name: 'Solar controller',
        kind: 'solar',
        ratedA: 30,
        profile: {
          preset: 'own',
          absorptionV: 14.2,
          absorptionMinutes: 60,
          floatV: 13.5,
          rebulkV: 13.1,
          compensationMvPerCellPerC: 0,
        },
        counted: null,
        senses: 'own-terminals',
        hoursPerDay: 5,
        conductor: { metres: 1, squareMm: 16 },
      },
    ],
    monitor: {
      method: 'shunt',
      capacityAh: 200,
      chargedV: 14,
      tailPercent: 4,
      detectionMinutes: 3,
      efficiencyPercent: 98,
      peukert: 1.05,
      floorPercent: 10,
      thresholdA: 0.1,
    },
    loads: [
      {
        id: 'pump',
        name: 'Cistern pump',
        kind: 'dc',
        usualA: 14,
        hoursPerDay: 3,
        startA: 62,
        cutoffV: 12,
        reconnectV: 13,
        counted: null,
        conductor: { metres: 3, squareMm: 16 },
      },
      {
        id: 'inverter',
        name: 'Inverter of the level radio',
        kind: 'inverter',
        usualA: 6,
        hoursPerDay: 24,
        cutoffV: 11.6,
        reconnectV: 12.8,
        counted: null,
        conductor: { metres: 1.5, squareMm: 16 },
      },
    ],
    bms: {
      cellHighV: 3.65,
      cellLowV: 2.7,
      balanceV: 3.45,
      chargeAboveC: 0,
      dischargeAboveC: -20,
      maxChargeA: 50,
      maxDischargeA: 100,
    },
    batteries: [
      { id: 'battery-1', name: 'Battery 1', capacityAh: 100 },
      { id: 'battery-2', name: 'Battery 2', capacityAh: 100 },
    ],
    site: { coldestC: 6, warmestC: 31 },
  },
  records: {
    visit: [
      {
        id: '00000000-0000-4000-8000-000000000011',
        job: '00000000-0000-4000-8000-000000000010',
        on: '2026-10-21',
        displays: {
          at: '10:40',
          postsV: 13.24,
          celsius: 19,
          shown: {
            monitor: { percent: 41, volts: 13.23, amps: -20.4 },
            'battery-1': { percent: 88, volts: 13.25, amps: -10.4 },
            'battery-2': { percent: 86, volts: 13.24, amps: -10.1 },
          },
        },
        memory: { syncs: 3, cycles: 12, daysSinceFull: 23, deepestAh: 118, lowestV: 12.9, highestV: 14.3 },
        screens:
          'Firmware of both batteries is the same. The code of the monitor is still the one it came with: changed.',
        proof: {
          offA: 0,
          isolatedA: 0,
          devices: {
            pump: { clampA: 14.2, showsA: -14.0, startA: 62 },
            inverter: { watts: 70, efficiencyPercent: 88, showsA: -5.8, idleA: 0.9 },
            mains: { knownA: 38, showsA: 37.4 },
            solar: { knownA: 17, showsA: 0.1 },
          },
        },
        mainPath: { fuseA: 150, cableA: 160, busbarA: 250, jumperA: 160, generatorVa: 2000 },
        shuntA: 500,
        drives: [
          { what: 'Low-charge lamp at the cistern', kind: 'alarm', by: 'monitor' },
          { what: 'Start of the island generator', kind: 'generator', by: 'bms' },
        ],
        notes:
          'The negative of the solar controller goes to the post of battery 1. It is to be moved at the next visit.',
        nextVisitOn: '2026-11-04',
      },
    ],
  },
};
