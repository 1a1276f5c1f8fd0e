/** Story: a long thin cable and a cut-off meant for rest voltage: each blast drops the load although the battery is full. */

import { type DemoSystem, ZONE } from './demoSystem';

export const fogHorn: DemoSystem = {
  slug: 'fog-horn',
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
    monitor: {
      method: 'shunt',
      capacityAh: 210,
      chargedV: 54,
      tailPercent: 4,
      detectionMinutes: 4,
      efficiencyPercent: 84,
      peukert: 1.25,
      floorPercent: 50,
      thresholdA: 0.2,
    },
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
};
