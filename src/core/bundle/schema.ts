/** The job bundle: a plain Data Package whose `pazienza` key carries the job, the system and what each log is. */

import { z } from 'zod';
import { capacityTestSchema } from '../capacity/record';
import { LOG_ANSWERS } from '../log/answers';
import { FIELDS } from '../system/fields';
import { visitSchema } from '../onsite/visit';
import { doneSchema } from '../records/done';
import { jobSchema, systemSchema } from '../system/schema';
import {
  clockDriftSecondsPerDay,
  clockOffsetSeconds,
  day,
  id,
  line,
  moment,
  number,
  photoItem,
  timeZone,
} from '../system/values';

/** What a person has answered about a log that is damaged or runs astray; see core/log/answers. */
const answersSchema = z.object({
  strayRows: z.enum(LOG_ANSWERS.strayRows).optional(),
  damaged: z.enum(LOG_ANSWERS.damaged).optional(),
});

const MOST_CAPACITY_TESTS = 260;
const SHORT = 300;
const short = z.string().max(SHORT, { error: `Keep this under ${SHORT} letters.` });
/** A path in the bundle; which ones there are, the bundle itself shows. */
const path = short.min(1);
/** A group whose field names are headings or words of a log. */
const byHeading = <T extends z.ZodType>(entry: T, most: number) =>
  z
    .record(z.string().max(1000, { error: 'A heading has 1000 letters at most.' }), entry)
    .refine((group) => Object.keys(group).length <= most, {
      error: `There can be ${most} of these at most.`,
    });

export const columnSchema = z.object({
  channel: z.string().max(64),
  scale: number().optional(),
  offset: number().optional(),
  invert: z.boolean().optional(),
  words: byHeading(short, 100).optional(),
});

export const logDescriptionSchema = z.object({
  device: id,
  timeZone: timeZone.optional(),
  clockOffsetSeconds: clockOffsetSeconds.optional(),
  /** What the clock loses a day, s: added to the times for every day since the first. */
  clockDriftSecondsPerDay: clockDriftSecondsPerDay.optional(),
  dateOrder: z.enum(['ymd', 'dmy', 'mdy']).optional(),
  /** When the first row was written: for times that count from a start. */
  startAt: moment.optional(),
  columns: byHeading(columnSchema, 500).optional(),
  ...answersSchema.shape,
});

/** A photo that belongs to an answer of the checklists. */
export const photoDescriptionSchema = z.object({ check: photoItem });

/** The path of a setting that there is, `sources.0.profile.floatV`. */
export const settingPath = z
  .string()
  .max(100)
  .refine((path) => Object.hasOwn(FIELDS, path.replace(/\.\d+(?=\.|$)/g, '.*')), {
    error: 'There is no such setting.',
  });
/** What a setting is or was; null when it is switched off, or not known. */
export const settingValue = z.union([number(), z.string().max(200), z.null()], {
  error: 'A setting is a number, a word or nothing.',
});

/** A setting that was changed on a device, for the record. */
export const changeSchema = z.object({
  /** Day, 2026-10-19. */
  on: day,
  /** Path of the setting in the system, `monitor.chargedV`; `label` says it in words, device first. */
  path: settingPath,
  label: line(200, 'This says which setting it is.'),
  unit: z.string().max(20),
  before: settingValue,
  after: settingValue,
  why: line(2000, 'Say why: whoever comes next will want to know.'),
});

export type Change = z.infer<typeof changeSchema>;

const dialectSchema = z.object({
  delimiter: z.string().length(1, { error: 'The delimiter is one sign, such as “;”.' }).optional(),
  decimalChar: z.enum(['.', ',']).optional(),
});

export const resourceSchema = z.object({
  name: short.optional(),
  path,
  format: short.optional(),
  schema: z
    .object({ fields: z.array(z.object({ name: z.string().max(1000), type: short.optional() })).max(1000) })
    .optional(),
  dialect: dialectSchema.optional(),
  mediatype: short.optional(),
  pazienza: z.union([logDescriptionSchema, photoDescriptionSchema]).optional(),
});

/** What a bundle can hold of each. */
export const MOST_LOGS = 100;
const MOST_RESOURCES = 500;
export const MOST_CHANGES = 2000;
const MOST_VISITS = 260;

export const packageSchema = z.object({
  name: short,
  title: z.string().max(1000).optional(),
  created: z.string().max(100).optional(),
  resources: z.array(resourceSchema).max(MOST_RESOURCES),
  pazienza: z.object({
    format: z.literal(1, { error: 'This bundle has another format: only format 1 is read.' }),
    job: jobSchema,
    system: systemSchema,
    changes: z.array(changeSchema).max(MOST_CHANGES).optional(),
    /** Capacity tests of the system. */
    capacityTests: z.array(capacityTestSchema).max(MOST_CAPACITY_TESTS).optional(),
    /** Visits of the job, and what was done of the plan. */
    visits: z.array(visitSchema).max(MOST_VISITS).optional(),
    done: z.array(doneSchema).max(MOST_VISITS).optional(),
  }),
});

export type DataPackage = z.infer<typeof packageSchema>;
