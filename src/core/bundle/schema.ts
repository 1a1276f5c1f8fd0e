/** The job bundle: a plain Data Package whose `pazienza` key carries the job, the system and what each log is. */

import { z } from 'zod';
import { jobSchema, systemSchema } from '../system/schema';

export const columnSchema = z.object({
  channel: z.string(),
  scale: z.number().optional(),
  offset: z.number().optional(),
  invert: z.boolean().optional(),
});

export const logDescriptionSchema = z.object({
  device: z.string().min(1),
  timeZone: z.string().optional(),
  clockOffsetSeconds: z.number().optional(),
  dateOrder: z.enum(['ymd', 'dmy', 'mdy']).optional(),
  columns: z.record(z.string(), columnSchema).optional(),
});

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
  pazienza: logDescriptionSchema.optional(),
});

export const packageSchema = z.object({
  name: z.string(),
  title: z.string().optional(),
  created: z.string().optional(),
  resources: z.array(resourceSchema),
  pazienza: z.object({ format: z.literal(1), job: jobSchema, system: systemSchema }),
});

export type DataPackage = z.infer<typeof packageSchema>;
