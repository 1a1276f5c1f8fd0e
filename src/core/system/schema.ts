/**
 * What a battery system is: bank, sources, monitor, loads, BMS, site. These schemas are the one source of the TypeScript types, of
 * form and request validation and of the JSON in the database. Units: V, A, Ah, minutes, °C; voltages for the whole bank at 25 °C.
 * Nearly everything may be left out: what is not known is left out, never guessed. A schema refuses the impossible only; what is
 * merely unusual is said by `fields.ts` and by the settings review.
 */

import { z } from 'zod';
import { schoolChoicesSchema } from './schools';
import {
  between,
  celsius,
  date,
  day,
  few,
  id,
  line,
  list,
  moment,
  name,
  notNegative,
  number,
  percent,
  positive,
  text,
  timeZone,
  whole,
} from './values';

const SWAPPED = 'The lower end of the range is above the upper end: swap them.';
const range = (end: () => z.ZodNumber) =>
  z.object({ min: end(), max: end() }).refine((r) => r.min <= r.max, { error: SWAPPED });
const compensation = () => between(-10, 10, ' mV per °C per cell');
const choices = <T extends string>(values: readonly [T, ...T[]]) =>
  z
    .array(z.enum(values))
    .max(4 * values.length)
    .overwrite((chosen) => [...new Set(chosen)]);

/** More than these no system has. */
export const MOST_SOURCES = 50;
export const MOST_LOADS = 100;
const MOST_BATTERIES = 16;

export const CHEMISTRIES = ['flooded', 'agm', 'gel', 'lfp'] as const;
export const COMPLAINTS = ['undercharging', 'drifting-soc', 'premature-cutoff'] as const;
export const SOURCE_KINDS = ['mains', 'solar', 'generator', 'alternator', 'converter'] as const;
export const METHODS = ['shunt', 'hall', 'source-count', 'voltage'] as const;
/** What a charger's profile was made from: its maker's preset, or one that can be set freely. */
export const PRESETS = ['flooded', 'agm', 'gel', 'lithium', 'own', 'own-lead-only'] as const;
const PARTS = ['bank', 'lower', 'upper'] as const;
/** What a percentage can drive, and whose it is; or that the voltage drives it. */
export const DRIVEN = ['cutoff', 'alarm', 'relay', 'generator'] as const;
export const DRIVERS = ['bms', 'monitor', 'inverter', 'volts'] as const;

const equalise = z.object({ volts: positive(), minutes: positive(), everyDays: positive() });
/** One way; the current flows there and back. */
const conductor = z.object({ metres: positive(), squareMm: positive() });

export const bankSchema = z.object({
  chemistry: z.enum(CHEMISTRIES).optional(),
  cellsInSeries: whole().optional(),
  stringsInParallel: whole().optional(),
  /** Of the whole bank. */
  capacityAh: positive().optional(),
  capacityHours: positive().optional(),
  installedOn: date.optional(),
  chargeVolts: range(positive).optional(),
  floatVolts: range(positive).optional(),
  compensationMvPerCellPerC: range(compensation).optional(),
  /** By hand only: no charger is set to do it by itself, and none should be. */
  equalise: equalise.extend({ lastOn: date.optional(), byHand: z.boolean().optional() }).optional(),
  /** Specific gravity of a full cell at 25 °C, by the maker. */
  fullGravity: between(1.15, 1.35, ', such as 1.265').optional(),
  maxChargeA: positive().optional(),
  chargeAboveC: celsius().optional(),
  dischargeAboveC: celsius().optional(),
});

export const profileSchema = z.object({
  preset: z.enum(PRESETS).optional(),
  absorptionV: positive().optional(),
  absorptionMinutes: notNegative().optional(),
  tailA: positive().optional(),
  floatV: positive().optional(),
  rebulkV: positive().optional(),
  compensationMvPerCellPerC: compensation().optional(),
  equalise: equalise.extend({ retryDays: notNegative().optional() }).optional(),
  chargeAboveC: celsius().optional(),
});

export const sourceSchema = z.object({
  id,
  name,
  kind: z.enum(SOURCE_KINDS).optional(),
  ratedA: positive().optional(),
  /** Charge current as it is set, where that is less than the rating. */
  setA: positive().optional(),
  /** Of chargers linked to each other one leads and the others follow. */
  link: z.enum(['leads', 'follows']).optional(),
  profile: profileSchema.default({}),
  counted: z.boolean().nullable().default(null),
  senses: z.enum(['own-terminals', 'battery']).optional(),
  across: z.enum(PARTS).optional(),
  /** Hours a day in which it can give about its rating. */
  hoursPerDay: between(0, 24, ' h').optional(),
  conductor: conductor.optional(),
  /** When a generator is started and stopped. */
  runs: z
    .object({
      startPercent: percent().optional(),
      stopPercent: percent().optional(),
      stopsAt: z.enum(['bulk-end', 'absorption-end']).optional(),
      /** Through the whole of absorption every so many days. */
      throughEveryDays: positive().optional(),
    })
    .optional(),
});

/** One of the shunts of a monitor that sums several. */
export const shuntSchema = z.object({
  id,
  name,
  /** What passes it, by device id. */
  devices: list(id, MOST_SOURCES + MOST_LOADS, 'devices'),
});

export const monitorSchema = z.object({
  method: z.enum(METHODS).optional(),
  capacityAh: positive().optional(),
  chargedV: positive().optional(),
  tailPercent: between(0, 100, ' %').optional(),
  detectionMinutes: notNegative().optional(),
  efficiencyPercent: between(1, 100, ' %').optional(),
  peukert: between(1, 2, '').optional(),
  floorPercent: percent().optional(),
  thresholdA: notNegative().optional(),
  startPercent: percent().optional(),
  bulkEndPercent: percent().optional(),
  peukertBelowRate: z.boolean().optional(),
  sees: z.enum(PARTS).optional(),
  voltageAt: z.enum(['cells', 'bus']).optional(),
  /** Of the shunt or the sensor. */
  ratedA: positive().optional(),
  /** Of a monitor that sums several; absent where there is one. */
  shunts: list(shuntSchema, 12, 'shunts').optional(),
  /** In the bank’s negative, or between the two halves of a split bank. */
  sits: z.enum(['negative', 'between-halves']).optional(),
  /** Its own alarms, and the voltage at which it calls the battery empty. */
  emptyV: positive().optional(),
  alarmHighV: positive().optional(),
  alarmA: positive().optional(),
  alarmC: celsius().optional(),
});

export const loadSchema = z.object({
  id,
  name,
  kind: z.enum(['inverter', 'dc']).optional(),
  /** Current that it usually draws while it runs, and for how many hours a day. */
  usualA: positive().optional(),
  hoursPerDay: between(0, 24, ' h').optional(),
  cutoffV: positive().optional(),
  reconnectV: positive().optional(),
  cutoffPercent: percent().optional(),
  reconnectPercent: percent().optional(),
  alarmV: positive().optional(),
  /** What it draws for a moment when it starts. */
  startA: positive().optional(),
  /** Its protection trips above this. */
  surgeA: positive().optional(),
  counted: z.boolean().nullable().default(null),
  conductor: conductor.optional(),
});

export const bmsSchema = z.object({
  cellHighV: positive().optional(),
  cellLowV: positive().optional(),
  cellHighReleaseV: positive().optional(),
  cellLowReleaseV: positive().optional(),
  balanceV: positive().optional(),
  /** What it bleeds a cell by, A. */
  balanceA: positive().optional(),
  chargeAboveC: celsius().optional(),
  dischargeAboveC: celsius().optional(),
  maxChargeA: positive().optional(),
  maxDischargeA: positive().optional(),
});

/** One of several batteries in parallel that each have a BMS of their own; the limits are those of the system's BMS. */
export const batterySchema = z.object({
  id,
  name,
  capacityAh: positive().optional(),
});

/** What the main path of the bank carries for good, A, as its parts are marked; and a small generator behind the chargers, VA. */
export const mainPathSchema = z.object({
  fuseA: positive().optional(),
  cableA: positive().optional(),
  busbarA: positive().optional(),
  jumperA: positive().optional(),
  generatorVa: positive().optional(),
});

/** Something that is switched by a percentage or a voltage, and whose. */
export const driveSchema = z.object({ what: name, kind: z.enum(DRIVEN), by: z.enum(DRIVERS) });

/** Where the battery stands. */
export const siteSchema = z.object({
  /** Of the battery, over the year. */
  coldestC: celsius().optional(),
  warmestC: celsius().optional(),
  /** Fresh air through the battery's room or box, m³/h. */
  airflow: notNegative().optional(),
});

export const systemSchema = z
  .object({
    name,
    /** Whose system it is. */
    owner: name.optional(),
    timeZone,
    bank: bankSchema,
    sources: list(sourceSchema, MOST_SOURCES, 'sources'),
    monitor: monitorSchema.optional(),
    loads: list(loadSchema, MOST_LOADS, 'loads'),
    bms: bmsSchema.optional(),
    batteries: list(batterySchema, MOST_BATTERIES, 'batteries').optional(),
    site: siteSchema.optional(),
    mainPath: mainPathSchema.optional(),
    drives: list(driveSchema, 40, 'of these').optional(),
    schools: schoolChoicesSchema.optional(),
  })
  .superRefine((system, context) => {
    const seen = new Set<string>(['monitor', 'bms', 'bank', 'site']);
    for (const [list, devices] of [
      ['sources', system.sources],
      ['loads', system.loads],
      ['batteries', system.batteries ?? []],
    ] as const)
      devices.forEach((device, index) => {
        if (seen.has(device.id))
          context.addIssue({
            code: 'custom',
            path: [list, index, 'id'],
            message: `The id "${device.id}" is taken: give each source, load and battery one of its own.`,
          });
        seen.add(device.id);
      });
    const devices = new Set([...system.sources, ...system.loads].map((one) => one.id));
    system.monitor?.shunts?.forEach((shunt, index) => {
      const stranger = shunt.devices.find((one) => !devices.has(one));
      if (stranger !== undefined)
        context.addIssue({
          code: 'custom',
          path: ['monitor', 'shunts', index, 'devices'],
          message: `No source or load has the id "${stranger}": name devices that are described.`,
        });
    });
    const { coldestC, warmestC } = system.site ?? {};
    if (coldestC !== undefined && warmestC !== undefined && coldestC > warmestC)
      context.addIssue({
        code: 'custom',
        path: ['site', 'coldestC'],
        message: 'The coldest is warmer than the warmest: swap them.',
      });
  });

/** What the monitor and a meter said when the technician arrived. */
export const readingSchema = z.object({
  displayedPercent: percent().optional(),
  volts: positive().optional(),
  /** Hours since anything last flowed in or out. */
  hoursAtRest: notNegative().optional(),
  celsius: celsius().optional(),
  after: z.enum(['charge', 'discharge']).optional(),
});

export const ANSWERS = ['fine', 'found', 'not-checked'] as const;
export const WORKS = ['inspect', 'charge-test', 'water', 'equalise', 'rewire', 'capacity-test'] as const;

/** One item of the checklists. */
export const checkSchema = z.object({ answer: z.enum(ANSWERS), note: text.optional() });

/** What the walk along the conductors found, apart from who is counted, which the system keeps. */
export const walkSchema = z.object({
  senseLead: z.enum(['battery-positive', 'fuse-box', 'elsewhere']).optional(),
  /** What the monitor shows while a charger runs. */
  chargingReads: z.enum(['positive', 'negative']).optional(),
  /** Conductors on the battery posts that belong to none of the described devices. */
  others: list(z.object({ what: name, amps: number().optional() }), 50, 'of these conductors').optional(),
  /** Clamp-meter readings, A, by device id; `battery` is the battery's own, positive when charging; a load's is positive when it draws. */
  clampA: few(z.record(id, number()), MOST_SOURCES + MOST_LOADS + 1).optional(),
  /** Millivolts lost over a joint at a current. */
  joints: list(
    z.object({ what: name, millivolts: notNegative(), amps: positive() }),
    100,
    'joints',
  ).optional(),
  /** Voltages of the two halves of a bank of two blocks in series. */
  halves: z.object({ lowerV: positive().optional(), upperV: positive().optional() }).optional(),
});

/** A test of a technician's and what it found: for each cause that it asks about, which of its outcomes. */
export const testResultSchema = z.object({
  test: id,
  on: day,
  outcomes: few(z.record(id, z.number().int().min(0).max(9)), 30),
  note: text.optional(),
});

/** A cause that the technician has ruled out by hand: it stays on record why. */
export const ruledOutSchema = z.object({
  cause: id,
  on: day,
  why: line(500, 'Say why: whoever comes next will want to know.'),
});

/** A moment or a span of the strips that somebody has pinned, with what is to be remembered of it. */
export const pinSchema = z.object({
  id: z.uuid(),
  from: moment,
  to: moment,
  note: line(500, 'Say what is to be seen here.'),
});
const MOST_PINS = 100;

/** So many results on one job. */
const MOST_TESTS = 100;

export const jobSchema = z.object({
  title: name,
  complaints: choices(COMPLAINTS),
  openedAt: moment,
  notes: text.default(''),
  since: text.optional(),
  changed: text.optional(),
  tried: text.optional(),
  reading: readingSchema.optional(),
  /** Work that is planned: the checklists fit it. */
  works: choices(WORKS).optional(),
  checks: few(z.record(id, checkSchema), 200).optional(),
  walk: walkSchema.optional(),
  tests: list(testResultSchema, MOST_TESTS, 'results').optional(),
  ruledOut: list(ruledOutSchema, 60, 'causes').optional(),
  pins: list(pinSchema, MOST_PINS, 'pins').optional(),
  /** Tests that cannot be made: the gear is not at hand. */
  testsLeftOut: list(id, 50, 'tests')
    .overwrite((chosen) => [...new Set(chosen)])
    .optional(),
});

export type Chemistry = (typeof CHEMISTRIES)[number];
export type Complaint = (typeof COMPLAINTS)[number];
export type Work = (typeof WORKS)[number];
export type Answer = (typeof ANSWERS)[number];
export type Bank = z.infer<typeof bankSchema>;
export type Profile = z.infer<typeof profileSchema>;
export type Source = z.infer<typeof sourceSchema>;
export type Monitor = z.infer<typeof monitorSchema>;
export type Drive = z.infer<typeof driveSchema>;
export type MainPath = z.infer<typeof mainPathSchema>;
export type Load = z.infer<typeof loadSchema>;
export type Bms = z.infer<typeof bmsSchema>;
export type Site = z.infer<typeof siteSchema>;
export type Conductor = z.infer<typeof conductor>;
export type System = z.infer<typeof systemSchema>;
export type Reading = z.infer<typeof readingSchema>;
export type Walk = z.infer<typeof walkSchema>;
export type TestResult = z.infer<typeof testResultSchema>;
export type RuledOut = z.infer<typeof ruledOutSchema>;
export type Pin = z.infer<typeof pinSchema>;
export type Job = z.infer<typeof jobSchema>;

/** Every device of a system that can have a log, in reading order. */
export function devicesOf(
  system: System,
): { id: string; name: string; kind: 'source' | 'load' | 'monitor' | 'bms' }[] {
  return [
    ...system.sources.map(({ id, name }) => ({ id, name, kind: 'source' as const })),
    ...(system.monitor ? [{ id: 'monitor', name: 'Monitor', kind: 'monitor' as const }] : []),
    ...(system.bms ? [{ id: 'bms', name: 'BMS', kind: 'bms' as const }] : []),
    ...(system.batteries ?? []).map(({ id, name }) => ({ id, name, kind: 'bms' as const })),
    ...system.loads.map(({ id, name }) => ({ id, name, kind: 'load' as const })),
  ];
}
