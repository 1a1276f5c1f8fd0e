/** The job bundle: a plain Data Package whose `pazienza` key carries the job, the system and what each log is. */

import { z } from 'zod';
import { jobSchema, systemSchema } from '../system/schema';

export const columnSchema = z.object({
  channel: z.string(),
  scale: z.number().optional(),
  offset: z.number().optional(),
  invert: z.boolean().optional(),
  words: z.record(z.string(), z.string()).optional(),
});

export const logDescriptionSchema = z.object({
  device: z.string().min(1),
  timeZone: z.string().optional(),
  clockOffsetSeconds: z.number().optional(),
  /** What the clock loses a day, s: added to the times for every day since the first. */
  clockDriftSecondsPerDay: z.number().gt(-3600).lt(3600).optional(),
  dateOrder: z.enum(['ymd', 'dmy', 'mdy']).optional(),
  /** When the first row was written: for times that count from a start. */
  startAt: z.iso.datetime({ offset: true }).optional(),
  columns: z.record(z.string(), columnSchema).optional(),
});

/** A photo that belongs to an answer of the checklists. */
export const photoDescriptionSchema = z.object({ check: z.string().min(1) });

/** A setting that was changed on a device, for the record. */
export const changeSchema = z.object({
  /** Day, 2026-10-19. */
  on: z.string(),
  /** Path of the setting in the system, `monitor.chargedV`; `label` says it in words, device first. */
  path: z.string(),
  label: z.string(),
  unit: z.string(),
  before: z.union([z.number(), z.string(), z.null()]),
  after: z.union([z.number(), z.string(), z.null()]),
  why: z.string(),
});

export type Change = z.infer<typeof changeSchema>;

const dialectSchema = z.object({
  delimiter: z.string().length(1).optional(),
  decimalChar: z.enum(['.', ',']).optional(),
});

export const resourceSchema = z.object({
  name: z.string().optional(),
  path: z.string().min(1),
  format: z.string().optional(),
  schema: z
    .object({ fields: z.array(z.object({ name: z.string(), type: z.string().optional() })) })
    .optional(),
  dialect: dialectSchema.optional(),
  mediatype: z.string().optional(),
  pazienza: z.union([logDescriptionSchema, photoDescriptionSchema]).optional(),
});

export const packageSchema = z.object({
  name: z.string(),
  title: z.string().optional(),
  created: z.string().optional(),
  resources: z.array(resourceSchema),
  pazienza: z.object({
    format: z.literal(1, { error: 'This bundle has another format: only format 1 is read.' }),
    job: jobSchema,
    system: systemSchema,
    changes: z.array(changeSchema).optional(),
  }),
});

export type DataPackage = z.infer<typeof packageSchema>;
