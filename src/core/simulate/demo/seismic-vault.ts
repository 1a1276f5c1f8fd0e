/** Story: the rectifier's equalisation is set below the voltage that the flooded cells need, so no attempt ever counts; compensation is off. */

import { type DemoSystem, ZONE } from './demoSystem';

export const seismicVault: DemoSystem = {
  slug: 'seismic-vault',
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
    monitor: {
      method: 'shunt',
      capacityAh: 400,
      chargedV: 26.8,
      tailPercent: 4,
      detectionMinutes: 3,
      efficiencyPercent: 84,
      peukert: 1.25,
      floorPercent: 50,
      thresholdA: 0.2,
    },
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
};
