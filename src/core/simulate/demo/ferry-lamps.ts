/** Story: the monitor calls the battery full under a passing cloud: charged voltage, tail and detection time are all too easy. */

import { type DemoSystem, ZONE } from './demoSystem';

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
    monitor: {
      method: 'shunt',
      capacityAh: 110,
      chargedV: 13.2,
      tailPercent: 12,
      detectionMinutes: 1,
      efficiencyPercent: 85,
      peukert: 1.25,
      floorPercent: 50,
      thresholdA: 0.1,
    },
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
};
