/** Every rule of the settings review has a case that fires and one that does not; the figures are common practice with no source. */

import { DEMO_SLUGS, demoSystem } from '../../simulate/demo';
import { type Job, type System, systemSchema } from '../schema';
import { dailyDepth, daysWithoutFull, schoolsOf } from '../schools';
import { reviewSettings } from './review';
import { RULES } from './rules';

/** A 12 V AGM bank with nothing wrong. */
const lead = (): System => ({
  name: 'Lead',
  timeZone: 'Europe/Rome',
  bank: {
    chemistry: 'agm',
    cellsInSeries: 6,
    stringsInParallel: 1,
    capacityAh: 100,
    capacityHours: 20,
    chargeVolts: { min: 14.2, max: 14.6 },
    floatVolts: { min: 13.6, max: 13.8 },
    compensationMvPerCellPerC: { min: -5, max: -3 },
    maxChargeA: 30,
  },
  sources: [
    {
      id: 'mains',
      name: 'Charger',
      kind: 'mains',
      ratedA: 20,
      profile: {
        absorptionV: 14.4,
        absorptionMinutes: 240,
        tailA: 2,
        floatV: 13.7,
        rebulkV: 12.7,
        compensationMvPerCellPerC: -4,
      },
      counted: true,
      senses: 'own-terminals',
      hoursPerDay: 12,
      conductor: { metres: 1, squareMm: 16 },
    },
  ],
  monitor: {
    method: 'shunt',
    capacityAh: 100,
    chargedV: 13.5,
    tailPercent: 4,
    detectionMinutes: 3,
    efficiencyPercent: 84,
    peukert: 1.25,
    floorPercent: 50,
    thresholdA: 0.1,
  },
  loads: [
    {
      id: 'lamp',
      name: 'Lamp',
      kind: 'dc',
      usualA: 1.5,
      hoursPerDay: 24,
      alarmV: 12.1,
      cutoffV: 11.8,
      reconnectV: 12.8,
      counted: true,
      conductor: { metres: 2, squareMm: 6 },
    },
  ],
  site: { coldestC: 5, warmestC: 32, airflow: 5 },
});

/** A 24 V lithium bank with nothing wrong. */
const lithium = (): System => {
  const base = lead();
  const [source] = base.sources;
  const [load] = base.loads;
  return {
    ...base,
    name: 'Lithium',
    bank: {
      chemistry: 'lfp',
      cellsInSeries: 8,
      capacityAh: 200,
      chargeVolts: { min: 28, max: 29 },
      maxChargeA: 100,
      chargeAboveC: 0,
    },
    sources: [
      {
        ...source!,
        ratedA: 40,
        profile: {
          preset: 'lithium',
          absorptionV: 28.4,
          absorptionMinutes: 60,
          tailA: 8,
          floatV: 26.8,
          rebulkV: 26.4,
          compensationMvPerCellPerC: 0,
        },
      },
    ],
    monitor: {
      ...base.monitor!,
      capacityAh: 200,
      chargedV: 28,
      efficiencyPercent: 98,
      peukert: 1.05,
      floorPercent: 10,
    },
    loads: [{ ...load!, alarmV: 24.8, cutoffV: 24, reconnectV: 25.6 }],
    bms: { cellHighV: 3.65, cellLowV: 2.6, balanceV: 3.45, chargeAboveC: 0 },
    site: { coldestC: 8, warmestC: 30 },
  };
};

type Walk = NonNullable<Job['walk']>;
/** Changes the system, or says what the wiring walk found. */
type Change = (system: System) => unknown;
type Case = [rule: string, base: () => System, change: Change, text: RegExp];
const walked = new Map<System, Walk>();
const walk =
  (found: Walk): Change =>
  (system) =>
    walked.set(system, found);
const none: Change = () => undefined;
const source = (system: System) => system.sources[0]!;
const profile = (system: System) => system.sources[0]!.profile;
const monitor = (system: System) => system.monitor!;
const load = (system: System) => system.loads[0]!;
const second =
  (change: Change): Change =>
  (system) => {
    system.sources.push({ ...structuredClone(source(system)), id: 'second', name: 'Second' });
    change(system);
  };
const equalise = { volts: 15.5, minutes: 60, everyDays: 30 };
const flooded: Change = (system) => {
  system.bank.chemistry = 'flooded';
  system.bank.equalise = { ...equalise };
  profile(system).equalise = { ...equalise, retryDays: 1 };
};

/** The monitor with several shunts, and what passes each. */
const shunts =
  (...passing: string[][]) =>
  (s: System): void => {
    monitor(s).shunts = passing.map((devices, k) => ({
      id: `shunt-${k + 1}`,
      name: `Shunt ${k + 1}`,
      devices,
    }));
  };

/** The source as a generator, started and stopped so. */
const generator =
  (runs: NonNullable<System['sources'][number]['runs']>) =>
  (s: System): void => {
    Object.assign(source(s), { kind: 'generator', runs });
  };

const FIRES: Case[] = [
  [
    'charge-voltage',
    lead,
    (s) => (profile(s).absorptionV = 13.9),
    /set to 13\.90 V; the battery asks for 14\.20 V to 14\.60 V/,
  ],
  ['charge-voltage', lead, (s) => (profile(s).absorptionV = 15.1), /set to 15\.10 V/],
  ['charge-voltage', lithium, (s) => (profile(s).absorptionV = 27.4), /set to 27\.40 V/],
  [
    'site-temperature',
    lead,
    (s) => {
      s.bank.compensationMvPerCellPerC = { min: -4, max: -4 };
      profile(s).compensationMvPerCellPerC = -1;
      s.site = { coldestC: -10, warmestC: 25 };
    },
    // Holds 14.4 + 0.21 at −10 °C, where 14.2 + 0.84 is the least: worked by hand.
    /coldest, -10 °C, Charger holds 14\.61 V; the battery asks for 15\.04 V/,
  ],
  ['compensation', lead, (s) => (profile(s).compensationMvPerCellPerC = 0), /does not compensate/],
  ['compensation', lead, (s) => (profile(s).compensationMvPerCellPerC = -8), /compensates by -8 mV/],
  ['float-voltage', lead, (s) => (profile(s).floatV = 13.2), /floats at 13\.20 V/],
  ['float-voltage', lead, (s) => (profile(s).floatV = 14.5), /above its absorption/],
  ['float-voltage', lithium, (s) => (profile(s).floatV = 28), /lithium is kept at 27\.20 V at most/],
  ['equalise-unasked', lead, (s) => (profile(s).equalise = { ...equalise }), /no equalisation in its sheet/],
  [
    'equalise-unasked',
    lithium,
    (s) => (profile(s).equalise = { ...equalise, volts: 31 }),
    /lithium iron phosphate battery has no/,
  ],
  [
    'lithium-compensation',
    lithium,
    (s) => (profile(s).compensationMvPerCellPerC = -4),
    /at 8 °C it holds 28\.94 V/,
  ],
  ['lithium-preset', lithium, (s) => (profile(s).preset = 'flooded'), /flooded lead profile/],
  ['lithium-preset', lithium, (s) => (profile(s).preset = 'agm'), /AGM lead preset/],
  ['lithium-preset', lithium, (s) => (profile(s).preset = 'own-lead-only'), /meant for lead only/],
  ['lead-preset', lead, (s) => (profile(s).preset = 'flooded'), /flooded preset on this AGM battery/],
  ['lead-preset', lead, (s) => (profile(s).preset = 'lithium'), /lithium preset on this AGM battery/],
  ['lead-preset', lead, (s) => (profile(s).preset = 'gel'), /gel preset on this AGM battery/],
  [
    'cold-block-lead',
    lead,
    (s) => {
      profile(s).chargeAboveC = 5;
      s.site!.coldestC = -8;
    },
    /gives nothing below 5 °C; the battery gets as cold as -8 °C/,
  ],
  [
    'held-to-sync',
    lithium,
    (s) => (profile(s).absorptionMinutes = 2),
    /holds its voltage for 2 min and falls back under 28\.00 V; the monitor wants to see it for 3 min/,
  ],
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
  ['monitor-alarms', lead, (s) => (monitor(s).emptyV = 12.5), /calls the battery empty at 12\.50 V/],
  ['monitor-alarms', lead, (s) => (monitor(s).emptyV = 9), /calls the battery empty at 9\.00 V/],
  [
    'monitor-alarms',
    lead,
    (s) => (monitor(s).alarmHighV = 14.3),
    /sounds at 14\.30 V; a charger goes to 14\.40 V/,
  ],
  ['monitor-alarms', lithium, (s) => (monitor(s).alarmHighV = 29.4), /the BMS opens at 29\.20 V or before/],
  ['monitor-alarms', lead, (s) => (monitor(s).alarmA = 1), /sounds at 1\.0 A; the loads draw 1\.5 A/],
  ['monitor-alarms', lead, (s) => (monitor(s).alarmC = 70), /temperature alarm sounds at 70 °C/],
  ['monitor-alarms', lead, (s) => (monitor(s).alarmC = 30), /temperature alarm sounds at 30 °C/],
  ['generator-plan', lead, generator({ startPercent: 50, stopPercent: 90 }), /at or under the floor of 50 %/],
  ['generator-plan', lead, generator({ startPercent: 70, stopPercent: 80 }), /runs from 70 % to 80 %/],
  ['generator-plan', lead, generator({ stopsAt: 'bulk-end' }), /stops at the end of bulk, always/],
  ['generator-plan', lead, generator({ stopsAt: 'bulk-end', throughEveryDays: 60 }), /but every 60 days/],
  ['generator-plan', lead, generator({ stopsAt: 'absorption-end' }), /through absorption every time/],
  [
    'monitor-method',
    lithium,
    (s) => {
      monitor(s).method = 'source-count';
      source(s).counted = true;
      load(s).counted = null;
    },
    /own current/,
  ],
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
  ['several-shunts', lead, shunts(['mains', 'lamp'], ['lamp']), /Lamp is described on Shunt 1 and Shunt 2/],
  ['several-shunts', lead, shunts(['mains'], []), /Lamp is described on none/],
  ['sense-lead', lead, walk({ senseLead: 'fuse-box' }), /fuse box that can be switched off/],
  ['absorption-time', lead, (s) => (profile(s).absorptionMinutes = 30), /ends absorption after 30 min/],
  ['absorption-time', lithium, (s) => (profile(s).absorptionMinutes = 480), /lithium needs none/],
  ['charger-tail', lead, (s) => (profile(s).tailA = 8), /ends absorption at 8\.0 A, 8\.0 % of 100 Ah/],
  ['charger-tail', lead, (s) => (load(s).usualA = 3), /standing loads draw 3\.0 A/],
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
  ['rebulk-gap', lead, (s) => (profile(s).rebulkV = 13.6), /only 0\.10 V under/],
  [
    'rebulk-gap',
    lead,
    (s) => (profile(s).rebulkV = 11.9),
    /re-bulks only below 11\.90 V, about [\d.]+ % charge/,
  ],
  ['charged-voltage', lead, (s) => (monitor(s).chargedV = 14.6), /no source goes above 14\.40 V/],
  ['charged-voltage', lead, (s) => (monitor(s).chargedV = 12.8), /or at rest/],
  [
    'charged-voltage',
    lead,
    (s) => (source(s).kind = 'solar'),
    /below float \(13\.70 V\), with a source that comes and goes/,
  ],
  [
    'charged-voltage',
    lead,
    second((s) => {
      profile(s).absorptionV = 14.2;
      monitor(s).chargedV = 14.3;
    }),
    /Charger goes to 14\.20 V only/,
  ],
  [
    'charged-voltage',
    lead,
    (s) => {
      source(s).kind = 'solar';
      monitor(s).chargedV = 14.25;
    },
    // 14.4 − 4 mV · 6 · 7 °C = 14.23: worked by hand.
    /At 32 °C the chargers hold 14\.23 V/,
  ],
  ['monitor-tail', lead, (s) => (monitor(s).tailPercent = 12), /tail is 12\.0 % of capacity/],
  ['monitor-tail', lead, (s) => (monitor(s).tailPercent = 0.5), /tail is 0\.5 %/],
  [
    'monitor-tail',
    lead,
    (s) => {
      monitor(s).chargedV = 14.2;
      profile(s).tailA = 4;
      monitor(s).tailPercent = 3;
    },
    /ends absorption at 4\.0 A; the monitor waits for 3\.0 A/,
  ],
  [
    'detection-time',
    lead,
    (s) => {
      source(s).kind = 'solar';
      monitor(s).detectionMinutes = 1;
    },
    /detection time is 1 min/,
  ],
  ['detection-time', lead, (s) => (monitor(s).detectionMinutes = 30), /detection time is 30 min/],
  [
    'zero-threshold',
    lead,
    (s) => (monitor(s).thresholdA = 5),
    /Currents below 5\.0 A count as nothing, and the tail is 4\.0 A/,
  ],
  ['zero-threshold', lead, (s) => (monitor(s).thresholdA = 2), /36 Ah a day|standing loads draw 1\.5 A/],
  ['monitor-capacity', lead, (s) => (monitor(s).capacityAh = 200), /set to 200 Ah; the bank has 100 Ah/],
  [
    'monitor-capacity',
    lead,
    (s) => {
      s.bank.capacityHours = 100;
      monitor(s).capacityAh = 100;
    },
    // 100 Ah at 100 h is 100·(20/100)^(1 − 1/1.25) = 72.5 Ah at 20 h.
    /the bank has 72 Ah at 20 h \(100 Ah at 100 h\)/,
  ],
  ['efficiency', lead, (s) => (monitor(s).efficiencyPercent = 99), /efficiency is 99 %/],
  ['efficiency', lithium, (s) => (monitor(s).efficiencyPercent = 85), /efficiency is 85 %/],
  ['peukert', lithium, (s) => (monitor(s).peukert = 1.25), /exponent is 1\.25/],
  ['peukert', lead, (s) => (monitor(s).peukert = 1), /exponent is 1;/],
  ['start-percentage', lithium, (s) => (monitor(s).startPercent = 100), /starts at 100 %/],
  ['floor', lead, (s) => (monitor(s).floorPercent = 20), /floor is 20 %/],
  ['monitor-method', lead, (s) => (monitor(s).method = 'voltage'), /from voltage alone/],
  [
    'monitor-method',
    lead,
    (s) => {
      Object.assign(monitor(s), { method: 'source-count', bulkEndPercent: 80 });
      source(s).counted = false;
    },
    /set to 80 % at the end of each bulk/,
  ],
  ['source-coverage', lead, (s) => (source(s).counted = false), /Charger is not counted/],
  ['load-coverage', lead, (s) => (load(s).counted = false), /Lamp is not counted/],
  ['half-bank', lead, (s) => (source(s).across = 'lower'), /only the lower half/],
  ['half-bank', lead, (s) => (monitor(s).sees = 'upper'), /sees the upper half only/],
  [
    'battery-post',
    lead,
    walk({ others: [{ what: 'A black wire', amps: -3 }] }),
    /A black wire, carrying 3\.0 A/,
  ],
  ['sensor-direction', lead, walk({ chargingReads: 'negative' }), /shows a negative current/],
  ['sense-lead', lead, walk({ senseLead: 'elsewhere' }), /does not go straight/],
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
    'bms-limits',
    lithium,
    (s) => (s.bms!.cellHighV = 3.55),
    /charges to 3\.55 V per cell; the BMS opens at 3\.55 V/,
  ],
  [
    'balancing-start',
    lithium,
    (s) => (s.bms!.balanceV = 3.6),
    /starts at 3\.60 V per cell; the charger stops at 3\.55 V/,
  ],
  ['balancing-start', lithium, (s) => (s.bms!.balanceV = 3.3), /starts at 3\.30 V/],
  [
    'cold-limits',
    lithium,
    (s) => {
      s.site!.coldestC = -6;
      delete s.bms!.chargeAboveC;
    },
    /as cold as -6 °C, and neither Charger nor a BMS/,
  ],
  ['cold-limits', lithium, (s) => (s.site!.coldestC = -6), /below 0 °C charging is refused/],
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
    'equalise-settings',
    lead,
    (s) => {
      flooded(s);
      profile(s).equalise!.volts = 14.8;
    },
    /equalises at 14\.80 V; the battery’s sheet asks for 15\.50 V/,
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
    'source-cable',
    lead,
    (s) => (source(s).conductor = { metres: 6, squareMm: 6 }),
    /6 m of 6 mm² lose 0\.77 V at 20\.0 A/,
  ],
  [
    'load-cable',
    lead,
    (s) => Object.assign(load(s), { usualA: 10, conductor: { metres: 20, squareMm: 6 } }),
    /lose 1\.28 V at 10\.0 A, 10\.7 %/,
  ],
];

/** Near misses: something was changed, and the rule rightly keeps still. */
const QUIET: [rule: string, base: () => System, change: Change][] = [
  ['charge-voltage', lead, (s) => (profile(s).absorptionV = 14.24)],
  ['site-temperature', lead, (s) => (s.site = { coldestC: -15, warmestC: 40 })],
  ['compensation', lead, (s) => (profile(s).compensationMvPerCellPerC = -5)],
  ['compensation', lithium, none],
  ['float-voltage', lead, (s) => (profile(s).floatV = 13.6)],
  [
    'float-voltage',
    lithium,
    (s) => {
      s.schools = { lithiumFloat: 'equal' };
      profile(s).floatV = 28.4;
    },
  ],
  ['equalise-unasked', lead, flooded],
  ['lithium-compensation', lithium, none],
  [
    'lithium-preset',
    lithium,
    (s) => {
      s.schools = { leadPreset: 'fits' };
      profile(s).preset = 'agm';
    },
  ],
  ['lithium-preset', lithium, (s) => (profile(s).preset = 'own')],
  ['absorption-time', lead, (s) => (profile(s).absorptionMinutes = 150)],
  ['charger-tail', lead, (s) => (profile(s).tailA = 4)],
  ['charge-current', lead, (s) => (source(s).ratedA = 30)],
  ['charge-hours', lead, (s) => (load(s).usualA = 5)],
  ['charger-small', lead, (s) => (source(s).ratedA = 12)],
  ['sources-together', lead, second((s) => (profile(s).absorptionV = 14.35))],
  ['rebulk-gap', lead, (s) => (profile(s).rebulkV = 13.2)],
  ['charged-voltage', lead, (s) => (monitor(s).chargedV = 13.2)],
  ['monitor-tail', lead, (s) => (monitor(s).tailPercent = 6)],
  ['detection-time', lead, (s) => (monitor(s).detectionMinutes = 1)],
  ['zero-threshold', lead, (s) => (monitor(s).thresholdA = 0)],
  ['monitor-capacity', lead, (s) => (monitor(s).capacityAh = 91)],
  ['efficiency', lead, (s) => (monitor(s).efficiencyPercent = 92)],
  ['peukert', lithium, (s) => (monitor(s).peukert = 1.1)],
  ['start-percentage', lithium, (s) => (monitor(s).startPercent = 30)],
  ['floor', lithium, (s) => (monitor(s).floorPercent = 10)],
  ['monitor-method', lead, (s) => (monitor(s).method = 'hall')],
  ['source-coverage', lead, (s) => (monitor(s).method = 'voltage')],
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
    'monitor-alarms',
    lead,
    (s) => Object.assign(monitor(s), { emptyV: 11.6, alarmHighV: 15, alarmA: 40, alarmC: 50 }),
  ],
  ['monitor-alarms', lithium, (s) => (monitor(s).alarmHighV = 28.9)],
  [
    'generator-plan',
    lead,
    generator({ startPercent: 60, stopPercent: 85, stopsAt: 'bulk-end', throughEveryDays: 14 }),
  ],
  ['generator-plan', lithium, generator({ stopsAt: 'bulk-end' })],
  [
    'alarm-voltage',
    lead,
    (s) => {
      s.schools = { alarm: 'early' };
      load(s).alarmV = 12.3;
    },
  ],
  ['half-bank', lead, (s) => (monitor(s).sits = 'negative')],
  ['several-shunts', lead, shunts(['mains'], ['lamp'])],
  ['several-shunts', lead, shunts(['mains', 'lamp'])],
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
  ['sensor-direction', lead, walk({ chargingReads: 'positive' })],
  ['sense-lead', lead, walk({ senseLead: 'battery-positive' })],
  ['hot-joint', lead, walk({ joints: [{ what: 'Fuse lug', millivolts: 20, amps: 80 }] })],
  ['halves-apart', lead, walk({ halves: { lowerV: 6.2, upperV: 6.3 } })],
  ['cutoff-voltage', lead, (s) => (load(s).cutoffV = 12)],
  ['alarm-voltage', lead, (s) => (load(s).alarmV = 12.4)],
  ['cutoff-order', lithium, (s) => (load(s).cutoffV = 22)],
  ['reconnect-gap', lead, (s) => (load(s).reconnectV = 12.4)],
  ['percentage-cutoff', lead, (s) => (load(s).cutoffPercent = 40)],
  ['bms-limits', lithium, (s) => (s.bms!.cellHighV = 3.6)],
  ['balancing-start', lithium, (s) => (s.bms!.balanceV = 3.5)],
  ['cold-limits', lithium, (s) => (s.site!.coldestC = 5)],
  ['lead-preset', lead, (s) => (profile(s).preset = 'agm')],
  ['lead-preset', lead, (s) => (profile(s).preset = 'own')],
  [
    'cold-block-lead',
    lead,
    (s) => {
      // The maker of this battery asks for it.
      s.bank.chargeAboveC = 5;
      profile(s).chargeAboveC = 5;
      s.site!.coldestC = -8;
    },
  ],
  ['cold-block-lead', lithium, (s) => (profile(s).chargeAboveC = 5)],
  [
    'held-to-sync',
    lithium,
    (s) => {
      // Float keeps it above the charged voltage.
      profile(s).absorptionMinutes = 0;
      profile(s).floatV = 28.1;
    },
  ],
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
  ['equalise-settings', lead, flooded],
  ['airflow', lithium, (s) => (s.site!.airflow = 0)],
  ['airflow', lead, (s) => (s.site!.airflow = 0.3)],
  ['source-cable', lead, (s) => (source(s).conductor = { metres: 2, squareMm: 16 })],
  ['load-cable', lead, (s) => (load(s).conductor = { metres: 20, squareMm: 10 })],
];

const job: Pick<Job, 'openedAt' | 'walk'> = { openedAt: '2026-04-01T08:00:00Z' };
const noted = (base: () => System, change: Change, rule: string) => {
  const system = base();
  change(system);
  // What a test describes must be a description that is accepted.
  expect(systemSchema.safeParse(system).error?.issues).toBeUndefined();
  return reviewSettings(system, { ...job, walk: walked.get(system) }).notes.filter(
    (note) => note.rule === rule,
  );
};

test.each(FIRES)('%s fires', (rule, base, change, text) => {
  const notes = noted(base, change, rule);
  expect(notes.map((note) => note.text).join('\n')).toMatch(text);
  for (const note of notes) expect([note.why, note.fix].every((one) => /^[A-Z].*\.$/.test(one))).toBe(true);
});

test.each(QUIET)('%s keeps still', (rule, base, change) => {
  expect(noted(base, change, rule)).toEqual([]);
});

test('a load on the battery passes no count of an inverter unseen', () => {
  const system = lithium();
  system.monitor!.method = 'source-count';
  const why = () => reviewSettings(system, job).notes.find((one) => one.rule === 'monitor-method')?.why;
  system.loads[0]!.counted = false;
  expect(why()).toMatch(/blind to whatever else is wired to the battery: Lamp/);
  system.loads[0]!.counted = true;
  expect(why()).not.toMatch(/Lamp/);
});

test('whether a tenth of a volt between halves matters depends on the load and the state', () => {
  const at = (hoursAtRest: number, base = lead) => {
    const reading = { hoursAtRest };
    const halves = { lowerV: 6.1, upperV: 6.35 };
    return reviewSettings(base(), { ...job, reading, walk: { halves } }).notes.find(
      (one) => one.rule === 'halves-apart',
    )!;
  };
  expect(at(0).why).toMatch(/while current flowed/);
  expect(at(0).fix).toMatch(/after two hours/);
  expect(at(12).why).toMatch(/about 30 % of charge/);
  expect(at(12, lithium).why).toMatch(/flat part of lithium/);
});

test('schools follow the system: depth of cycling, lithium, sources that come and go', () => {
  const base = lead();
  // 1.5 A all day, mains for twelve hours: 18 Ah of 100 a day.
  expect(dailyDepth(base)).toBeCloseTo(0.18, 9);
  expect(schoolsOf(base).efficiency).toBe('cycled');
  const light = { ...base, loads: [{ ...base.loads[0]!, usualA: 0.5 }] };
  expect(schoolsOf(light).efficiency).toBe('near-top');
  expect(schoolsOf(base).resync).toBe('fortnightly');
  expect(schoolsOf(lithium()).resync).toBe('weekly');
  expect(schoolsOf({ ...base, sources: [{ ...base.sources[0]!, kind: 'solar' }] }).resync).toBe('weekly');
  // Nobody is blamed within a fortnight where the sun decides, unless the school was chosen.
  expect(daysWithoutFull({ ...base, sources: [{ ...base.sources[0]!, kind: 'solar' }] })).toBe(14);
  expect(daysWithoutFull({ ...base, schools: { resync: 'weekly' } })).toBe(7);
});

test('each rule has a case that fires and one that does not', () => {
  const codes = RULES.map((rule) => rule.code).sort();
  expect([...new Set(FIRES.map(([rule]) => rule))].sort()).toEqual(codes);
  expect([...new Set(QUIET.map(([rule]) => rule))].sort()).toEqual(codes);
});

test.each([
  ['lead', lead],
  ['lithium', lithium],
])('nothing is said of the healthy %s system, and every check could be made', (_, base) => {
  const review = reviewSettings(base(), job);
  expect(review.notes).toEqual([]);
  expect(review.sheet.filter((row) => row.verdict !== 'keep')).toEqual([]);
  expect(review.hazards).toEqual([]);
  expect(review.findOut).toEqual([]);
});

describe('the demo systems review as their stories say', () => {
  const STORIES: Record<string, string[]> = {
    'tide-gauge': ['absorption-time', 'charged-voltage'],
    'seismic-vault': ['compensation', 'equalise-settings', 'airflow', 'equalise-schedule'],
    'vaccine-cold-room': [
      'lithium-compensation',
      'source-coverage',
      'percentage-cutoff',
      'float-voltage',
      'lithium-preset',
      'sources-together',
    ],
    'ferry-lamps': ['monitor-tail', 'charged-voltage', 'detection-time'],
    'fog-horn': ['cutoff-voltage', 'alarm-voltage', 'load-cable', 'reconnect-gap'],
    'parish-radio': ['charged-voltage', 'balancing-start'],
    'weather-mast': ['lithium-compensation', 'lithium-preset', 'cold-limits'],
    'harbour-office': [],
  };
  test.each(DEMO_SLUGS)('%s', (slug) => {
    const { system, job } = demoSystem(slug);
    const { notes, sheet, hazards } = reviewSettings(system, job);
    expect([...new Set(notes.map((note) => note.rule))].sort()).toEqual([...STORIES[slug]!].sort());
    if (slug === 'harbour-office') {
      expect(sheet.every((row) => row.verdict !== 'change')).toBe(true);
      expect(hazards).toEqual([]);
    } else expect(sheet.some((row) => row.verdict === 'change')).toBe(true);
  });
});

describe('what is not known', () => {
  const empty: System = { name: 'Nothing known', timeZone: 'UTC', bank: {}, sources: [], loads: [] };
  test('a system of which nothing is known reviews without an error and says what to find out first', () => {
    const bare: System = {
      ...empty,
      sources: [{ id: 'a', name: 'A', profile: {}, counted: null }],
      loads: [{ id: 'b', name: 'B', counted: null }],
      monitor: {},
      bms: {},
      site: {},
    };
    for (const system of [empty, bare]) {
      const review = reviewSettings(system);
      expect(review.notes).toEqual([]);
      expect(review.sheet.every((row) => row.verdict === 'not-known')).toBe(true);
      expect(review.waiting).toBeGreaterThan(0);
      expect(review.findOut[0]).toMatchObject({
        path: 'bank.chemistry',
        ofName: 'Battery',
        label: 'Chemistry',
        where: 'On the nameplate.',
      });
    }
  });

  test('leaving out any one fact never raises an error and never makes a new complaint of it', () => {
    for (const base of [lead, lithium]) {
      const full = base();
      const paths: string[] = [];
      const walk = (thing: unknown, path: string[]) => {
        if (typeof thing !== 'object' || thing === null) return;
        for (const [key, value] of Object.entries(thing)) {
          paths.push([...path, key].join('.'));
          walk(value, [...path, key]);
        }
      };
      walk(full, []);
      for (const path of paths) {
        const system = base();
        const keys = path.split('.');
        const last = keys.pop()!;
        const parent = keys.reduce<Record<string, unknown>>(
          (at, key) => at[key] as Record<string, unknown>,
          system as unknown as Record<string, unknown>,
        );
        delete parent[last];
        const parsed = systemSchema.safeParse(system);
        if (!parsed.success) continue;
        const faults = reviewSettings(parsed.data, job).notes.filter((note) => note.weight === 'fault');
        expect([path, faults.map((note) => note.rule)]).toEqual([path, []]);
      }
    }
  });
});

test('schools change what is advised', () => {
  const system = lead();
  monitor(system).chargedV = 14.9;
  const advised = (schools: System['schools']) =>
    reviewSettings({ ...system, schools }).sheet.find((row) => row.path === 'monitor.chargedV')!;
  expect(advised({ sync: 'steady' })).toMatchObject({
    verdict: 'change',
    advised: 13.5,
    school: 'steady source',
  });
  expect(advised({ sync: 'varying' })).toMatchObject({ advised: 14.2, school: 'varying source' });
  const cold = lithium();
  profile(cold).floatV = 28.2;
  const float = (school: 'equal' | 'gap' | 'none') =>
    reviewSettings({ ...cold, schools: { lithiumFloat: school } }).sheet.find(
      (row) => row.setting === 'profile.floatV',
    )!;
  expect(float('gap')).toMatchObject({ verdict: 'change', advised: 26.8 });
  expect(float('none')).toMatchObject({ verdict: 'change', advised: 'off' });
  expect(float('equal').verdict).toBe('keep');
});

test('volts scale with the cells in series', () => {
  const system = lead();
  const twice = structuredClone(system);
  twice.bank.cellsInSeries = 12;
  for (const range of [twice.bank.chargeVolts!, twice.bank.floatVolts!]) {
    range.min *= 2;
    range.max *= 2;
  }
  for (const key of ['absorptionV', 'floatV', 'rebulkV'] as const) profile(twice)[key]! *= 2;
  monitor(twice).chargedV! *= 2;
  for (const key of ['alarmV', 'cutoffV', 'reconnectV'] as const) load(twice)[key]! *= 2;
  expect(reviewSettings(twice, job).notes).toEqual([]);
  monitor(twice).chargedV = 30;
  const row = reviewSettings(twice, job).sheet.find((one) => one.path === 'monitor.chargedV')!;
  expect(row.advised).toBeCloseTo(27, 9);
});
