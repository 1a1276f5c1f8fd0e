/**
 * What a battery system is: bank, sources, monitor, loads, BMS. These schemas are the one source of the TypeScript types, of
 * form and request validation and of the JSON in the database. Units: V, A, Ah, minutes, °C; voltages for the whole bank at
 * 25 °C. A setting that is not known is left out, never guessed.
 */

import { z } from 'zod';

const positive = z.number().positive();
const range = z
  .object({ min: z.number(), max: z.number() })
  .refine((r) => r.min <= r.max, { error: 'The lower end of the range is above the upper end: swap them.' });
const id = z.string().regex(/^[a-z0-9][a-z0-9-]*$/, {
  error: 'An id has small letters, digits and hyphens only, such as "charger-1".',
});
const compensation = z.number().min(-10).max(10);

export const CHEMISTRIES = ['flooded', 'agm', 'gel', 'lfp'] as const;
export const COMPLAINTS = ['undercharging', 'drifting-soc', 'premature-cutoff'] as const;
export const SOURCE_KINDS = ['mains', 'solar', 'generator', 'alternator', 'converter'] as const;

const equalise = z.object({ volts: positive, minutes: positive, everyDays: positive });

export const bankSchema = z.object({
  chemistry: z.enum(CHEMISTRIES),
  cellsInSeries: z.number().int().positive(),
  stringsInParallel: z.number().int().positive().default(1),
  capacityAh: positive,
  capacityHours: positive.default(20),
  installedOn: z.string().optional(),
  chargeVolts: range,
  floatVolts: range.optional(),
  compensationMvPerCellPerC: z
    .object({ min: compensation, max: compensation })
    .refine((r) => r.min <= r.max, { error: 'The lower end of the range is above the upper end: swap them.' })
    .optional(),
  equalise: equalise.extend({ lastOn: z.string().optional() }).optional(),
  maxChargeA: positive.optional(),
  chargeAboveC: z.number().optional(),
  dischargeAboveC: z.number().optional(),
});

export const sourceSchema = z.object({
  id,
  name: z.string().min(1),
  kind: z.enum(SOURCE_KINDS),
  ratedA: positive,
  profile: z.object({
    absorptionV: positive,
    absorptionMinutes: positive.optional(),
    tailA: positive.optional(),
    floatV: positive.optional(),
    rebulkV: positive.optional(),
    compensationMvPerCellPerC: compensation.optional(),
    equalise: equalise.extend({ retryDays: z.number().nonnegative() }).optional(),
    chargeAboveC: z.number().optional(),
  }),
  counted: z.boolean().nullable(),
  senses: z.enum(['own-terminals', 'battery']),
  across: z.enum(['bank', 'lower', 'upper']).optional(),
});

export const monitorSchema = z.object({
  method: z.enum(['shunt', 'hall', 'source-count', 'voltage']),
  capacityAh: positive,
  chargedV: positive,
  tailPercent: positive,
  detectionMinutes: z.number().nonnegative(),
  efficiencyPercent: z.number().positive().max(100),
  peukert: z.number().min(1).max(2),
  floorPercent: z.number().min(0).max(100),
  thresholdA: z.number().nonnegative().optional(),
  startPercent: z.number().min(0).max(100).optional(),
  bulkEndPercent: z.number().min(0).max(100).optional(),
  peukertBelowRate: z.boolean().optional(),
  sees: z.enum(['bank', 'lower', 'upper']).optional(),
  voltageAt: z.enum(['cells', 'bus']).optional(),
});

export const loadSchema = z.object({
  id,
  name: z.string().min(1),
  kind: z.enum(['inverter', 'dc']),
  cutoffV: positive.optional(),
  reconnectV: positive.optional(),
  cutoffPercent: z.number().min(0).max(100).optional(),
  reconnectPercent: z.number().min(0).max(100).optional(),
  alarmV: positive.optional(),
  surgeA: positive.optional(),
  counted: z.boolean().nullable(),
});

export const bmsSchema = z.object({
  cellHighV: positive,
  cellLowV: positive,
  cellHighReleaseV: positive.optional(),
  cellLowReleaseV: positive.optional(),
  balanceV: positive.optional(),
  chargeAboveC: z.number().optional(),
  dischargeAboveC: z.number().optional(),
  maxChargeA: positive.optional(),
  maxDischargeA: positive.optional(),
});

export const systemSchema = z
  .object({
    name: z.string().min(1),
    timeZone: z.string().min(1),
    bank: bankSchema,
    sources: z.array(sourceSchema),
    monitor: monitorSchema.optional(),
    loads: z.array(loadSchema),
    bms: bmsSchema.optional(),
  })
  .superRefine((system, context) => {
    const seen = new Set<string>();
    for (const [list, devices] of [
      ['sources', system.sources],
      ['loads', system.loads],
    ] as const)
      devices.forEach((device, index) => {
        if (seen.has(device.id) || device.id === 'monitor' || device.id === 'bms')
          context.addIssue({
            code: 'custom',
            path: [list, index, 'id'],
            message: `The id "${device.id}" is taken: give each source and load one of its own.`,
          });
        seen.add(device.id);
      });
  });

export const jobSchema = z.object({
  title: z.string(),
  complaints: z.array(z.enum(COMPLAINTS)),
  openedAt: z.string(),
  notes: z.string().default(''),
});

export type Chemistry = (typeof CHEMISTRIES)[number];
export type Complaint = (typeof COMPLAINTS)[number];
export type Bank = z.infer<typeof bankSchema>;
export type Source = z.infer<typeof sourceSchema>;
export type Monitor = z.infer<typeof monitorSchema>;
export type Load = z.infer<typeof loadSchema>;
export type Bms = z.infer<typeof bmsSchema>;
export type System = z.infer<typeof systemSchema>;
export type Job = z.infer<typeof jobSchema>;

/** Every device of a system that can have a log, in reading order. */
export function devicesOf(
  system: System,
): { id: string; name: string; kind: 'source' | 'load' | 'monitor' | 'bms' }[] {
  return [
    ...system.sources.map(({ id, name }) => ({ id, name, kind: 'source' as const })),
    ...(system.monitor ? [{ id: 'monitor', name: 'Monitor', kind: 'monitor' as const }] : []),
    ...(system.bms ? [{ id: 'bms', name: 'BMS', kind: 'bms' as const }] : []),
    ...system.loads.map(({ id, name }) => ({ id, name, kind: 'load' as const })),
  ];
}
