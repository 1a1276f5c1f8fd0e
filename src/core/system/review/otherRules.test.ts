/** Every rule about the bank, the BMS and the loads of the settings review has a case that fires and one that does not; the figures are common practice with no source. */

import {
  type Case,
  lead,
  lithium,
  walk,
  none,
  source,
  profile,
  monitor,
  load,
  second,
  flooded,
  type Quiet,
  testRules,
} from '../../../../tests/support/ruleCases';

const FIRES: Case[] = [
  [
    'start-current',
    lithium,
    (s) => {
      s.bms!.maxDischargeA = 100;
      load(s).startA = 120;
    },
    /Lamp starts with 120\.0 A; the BMS lets 100\.0 A through/,
  ],
  ['linked-chargers', lead, second((s) => s.sources.forEach((one) => (one.link = 'leads'))), /both lead/],
  ['linked-chargers', lead, second((s) => s.sources.forEach((one) => (one.link = 'follows'))), /none leads/],
  ['linked-chargers', lead, (s) => (source(s).link = 'follows'), /follows, and none leads/],
  [
    'half-bank',
    lead,
    second((s) => {
      s.sources[0]!.across = 'lower';
      s.sources[1]!.across = 'upper';
      monitor(s).sits = 'between-halves';
    }),
    /sits between the halves\./,
  ],
  ['half-bank', lead, (s) => (monitor(s).sits = 'between-halves'), /every charger charges the whole bank/],
  ['charge-current', lead, (s) => (source(s).ratedA = 40), /can give 40\.0 A; the battery may take 30\.0 A/],
  ['charge-current', lead, second(none), /Charger and Second can give 40\.0 A/],
  ['charge-hours', lead, (s) => (load(s).usualA = 12), /give about 240 Ah a day; the loads draw 288 Ah/],
  [
    'charger-small',
    lead,
    (s) => {
      source(s).ratedA = 5;
      source(s).hoursPerDay = 8;
    },
    /full charge from the floor takes about/,
  ],
  ['sources-together', lead, second((s) => (profile(s).absorptionV = 14.2)), /Charger goes to float or off/],
  ['sources-together', lead, second((s) => (profile(s).absorptionV = 13.6)), /never gives anything/],
  ['sources-together', lead, second((s) => (profile(s).floatV = 13.5)), /on float Second carries/],
  ['load-coverage', lead, (s) => (load(s).counted = false), /Lamp is not counted/],
  ['half-bank', lead, (s) => (source(s).across = 'lower'), /only the lower half/],
  ['half-bank', lead, (s) => (monitor(s).sees = 'upper'), /sees the upper half only/],
  [
    'battery-post',
    lead,
    walk({ others: [{ what: 'A black wire', amps: -3 }] }),
    /A black wire, carrying 3\.0 A/,
  ],
  // 150 mV at 80 A: 1.875 mΩ and 12 W, worked by hand.
  [
    'hot-joint',
    lead,
    walk({ joints: [{ what: 'Fuse lug', millivolts: 150, amps: 80 }] }),
    /1\.88 mΩ, 12\.0 W/,
  ],
  ['halves-apart', lead, walk({ halves: { lowerV: 6.2, upperV: 6.4 } }), /0\.20 V apart/],
  ['cutoff-voltage', lead, (s) => (load(s).cutoffV = 11.1), /cuts off at 11\.10 V/],
  ['cutoff-voltage', lead, (s) => (load(s).cutoffV = 12.5), /lets go with about/],
  ['cutoff-voltage', lithium, (s) => (load(s).cutoffV = 26.4), /lets go with about/],
  ['alarm-voltage', lead, (s) => (load(s).alarmV = 12.6), /sounds with about/],
  ['alarm-voltage', lithium, (s) => (load(s).alarmV = 26.6), /Lamp alarms at 26\.60 V/],
  ['cutoff-order', lead, (s) => (load(s).alarmV = 11.8), /not above its cut-off/],
  ['cutoff-order', lithium, (s) => (load(s).cutoffV = 20.8), /BMS opens at 2\.60 V per cell, 20\.80 V/],
  ['reconnect-gap', lead, (s) => (load(s).reconnectV = 12), /0\.20 V above its cut-off/],
  [
    'reconnect-gap',
    lead,
    (s) => Object.assign(load(s), { cutoffPercent: 40, reconnectPercent: 42 }),
    /comes back at 42 %/,
  ],
  [
    'percentage-cutoff',
    lead,
    (s) => {
      load(s).cutoffPercent = 40;
      source(s).counted = false;
    },
    /does not count Charger/,
  ],
  [
    'percentage-cutoff',
    lead,
    (s) => {
      load(s).cutoffPercent = 40;
      monitor(s).chargedV = 14.8;
    },
    /14\.80 V is never reached/,
  ],
  [
    'balancing-start',
    lithium,
    (s) => (s.bms!.balanceV = 3.6),
    /starts at 3\.60 V per cell; the charger stops at 3\.55 V/,
  ],
  ['balancing-start', lithium, (s) => (s.bms!.balanceV = 3.3), /starts at 3\.30 V/],
  [
    'equalise-schedule',
    lead,
    (s) => {
      flooded(s);
      delete profile(s).equalise;
    },
    /no source is set to equalise/,
  ],
  [
    'equalise-schedule',
    lead,
    (s) => {
      flooded(s);
      s.bank.equalise!.lastOn = '2026-01-01';
    },
    /Last equalised 90 days before/,
  ],
  [
    'airflow',
    lead,
    (s) => {
      s.bank = { ...s.bank, chemistry: 'flooded', cellsInSeries: 24, capacityAh: 400 };
    },
    /9\.6 m³\/h of fresh air/,
  ],
  [
    'load-cable',
    lead,
    (s) => Object.assign(load(s), { usualA: 10, conductor: { metres: 20, squareMm: 6 } }),
    /lose 1\.28 V at 10\.0 A, 10\.7 %/,
  ],
];

const QUIET: Quiet[] = [
  ['charge-current', lead, (s) => (source(s).ratedA = 30)],
  ['charge-hours', lead, (s) => (load(s).usualA = 5)],
  ['charger-small', lead, (s) => (source(s).ratedA = 12)],
  ['sources-together', lead, second((s) => (profile(s).absorptionV = 14.35))],
  ['load-coverage', lead, (s) => delete s.monitor],
  [
    'half-bank',
    lead,
    second((s) => {
      s.sources[0]!.across = 'lower';
      s.sources[1]!.across = 'upper';
    }),
  ],
  [
    'linked-chargers',
    lead,
    second((s) => s.sources.forEach((one, k) => (one.link = k === 0 ? 'leads' : 'follows'))),
  ],
  ['linked-chargers', lead, second(() => undefined)],
  [
    'alarm-voltage',
    lead,
    (s) => {
      s.schools = { alarm: 'early' };
      load(s).alarmV = 12.3;
    },
  ],
  ['half-bank', lead, (s) => (monitor(s).sits = 'negative')],
  [
    'equalise-schedule',
    lead,
    (s) => {
      flooded(s);
      delete profile(s).equalise;
      s.bank.equalise = { ...s.bank.equalise!, lastOn: '2026-03-10', byHand: true };
    },
  ],
  ['battery-post', lead, walk({ others: [] })],
  ['hot-joint', lead, walk({ joints: [{ what: 'Fuse lug', millivolts: 20, amps: 80 }] })],
  ['halves-apart', lead, walk({ halves: { lowerV: 6.2, upperV: 6.3 } })],
  ['cutoff-voltage', lead, (s) => (load(s).cutoffV = 12)],
  ['alarm-voltage', lead, (s) => (load(s).alarmV = 12.4)],
  ['cutoff-order', lithium, (s) => (load(s).cutoffV = 22)],
  ['reconnect-gap', lead, (s) => (load(s).reconnectV = 12.4)],
  ['percentage-cutoff', lead, (s) => (load(s).cutoffPercent = 40)],
  ['balancing-start', lithium, (s) => (s.bms!.balanceV = 3.5)],
  [
    'start-current',
    lithium,
    (s) => {
      s.bms!.maxDischargeA = 100;
      load(s).startA = 80;
    },
  ],
  [
    'balancing-start',
    lithium,
    (s) => {
      s.schools = { balanceStart: 'at' };
      s.bms!.balanceV = 3.55;
    },
  ],
  [
    'equalise-schedule',
    lead,
    (s) => {
      flooded(s);
      s.bank.equalise!.lastOn = '2026-03-10';
    },
  ],
  ['airflow', lithium, (s) => (s.site!.airflow = 0)],
  ['airflow', lead, (s) => (s.site!.airflow = 0.3)],
  ['load-cable', lead, (s) => (load(s).conductor = { metres: 20, squareMm: 10 })],
];

testRules(['bank', 'bms', 'load'], FIRES, QUIET);
