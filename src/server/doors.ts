/**
 * Every way into the application that is no page: one table of routes and methods with what each lets in. What passes here is trusted
 * after; the tests make their hostile requests from this table.
 */

import { z } from 'zod';
import { changeSchema, logDescriptionSchema, settingPath, settingValue } from '@/core/bundle/schema';
import { INTAKE_ANSWERS, MOST_BYTES, PART_BYTES } from '@/core/log/intake';
import { FIND_RULES } from '@/core/log/find';
import { COARSEST_LEVEL } from '@/core/log/tiles';
import { FOUND } from '@/core/diagnosis/summary';
import { recordSchema } from '@/core/records/records';
import { NEW_DEVICES } from '@/core/system/newDevice';
import { bankSchema, COMPLAINTS, jobSchema, systemSchema } from '@/core/system/schema';
import {
  clockDriftSecondsPerDay,
  clockOffsetSeconds,
  day,
  line,
  photoItem,
  timeZone,
} from '@/core/system/values';
import { CURSOR } from '@/store/cursor';

/** Bodies of JSON, bytes. */
export const MOST_JSON = 1 << 20;
export const LARGEST_PHOTO = 20 * 2 ** 20;
export const LARGEST_BUNDLE = 512 * 2 ** 20;

export interface Door {
  /** Parts of the path; one that is wrong is answered as something that is not there. */
  params?: z.ZodObject;
  /** What is not there then. */
  what?: string;
  query?: z.ZodObject;
  /** What the body has to be: JSON of a kind, or so many bytes at the most, in memory or put on disk. */
  json?: z.ZodType;
  bytes?: number;
  file?: number;
}

const uuid = z.uuid();
const one = z.object({ id: uuid });
const ofSystem = z.object({ id: uuid, record: uuid });
const ofJob = z.object({ id: uuid, visit: uuid });
const digits = (most: number) =>
  z
    .string({ error: 'This is missing.' })
    .regex(/^\d{1,15}$/, { error: 'This is a whole number.' })
    .transform(Number)
    .refine((n) => n <= most, { error: `This is at most ${most}.` });
const LAST_MS = 7_258_118_400_000;
const moment = digits(LAST_MS);
const version = z
  .number()
  .int({ error: 'This is a whole number.' })
  .min(1)
  .max(2 ** 31 - 1);
/** A field of a search that is left empty asks for nothing. */
const search = <T extends z.ZodType>(of: T) =>
  z.preprocess((value) => (value === '' ? undefined : value), of.optional());
const words = search(line(100, 'This shows nothing.'));

export const clockSchema = z.object({
  timeZone,
  offsetSeconds: clockOffsetSeconds,
  secondsPerDay: clockDriftSecondsPerDay,
});

export const newJobSchema = z.object({
  /** Of a known system; else `systemName` names a new one. */
  systemId: uuid.optional(),
  systemName: systemSchema.shape.name.optional(),
  /** A new system is described after this one. */
  likeSystemId: uuid.optional(),
  timeZone: timeZone.default('UTC'),
  title: jobSchema.shape.title,
  complaints: jobSchema.shape.complaints,
  /** Of a new system: the facts without which no log can be judged. */
  bank: bankSchema.pick({ chemistry: true, cellsInSeries: true, capacityAh: true }).optional(),
});

const ids = z
  .string()
  .max(2000)
  .transform((list) => list.split(',').filter((one) => one !== ''));
/** Devices whose currents are counted, less those of others: ids with commas between. */
const currentsSchema = z.object({ of: ids.default(['monitor']), less: ids.default([]) });

/** A figure of an address. */
const figure = z
  .string({ error: 'This is missing.' })
  .regex(/^-?\d{1,7}([.,]\d{1,6})?$/, { error: 'This is a figure, such as 14.2.' })
  .transform((text) => Number(text.replace(',', '.')));
const MOST_MINUTES = 100_000;
const findSchema = z.object({
  recording: uuid,
  channel: z.string().regex(/^[a-z0-9_]{1,40}$/, { error: 'There is no such channel.' }),
  rule: z.enum([...FIND_RULES, 'span']),
  value: figure,
  to: figure.optional(),
  minutes: digits(MOST_MINUTES).default(0),
  from: moment,
  way: z.enum(['next', 'previous']).default('next'),
});

export const changeRequestSchema = z.object({
  base: version,
  path: settingPath,
  /** null: it is switched off, or not known any more. */
  after: settingValue,
  why: changeSchema.shape.why,
  on: day,
});

export const intakeRequestSchema = z.object({
  fileName: line(255, 'The file has no name.'),
  size: z
    .number()
    .int()
    .min(1, { error: 'This file is empty. Export the log again and check that it has readings in it.' })
    .max(MOST_BYTES, {
      error: 'A log may have 4 GB at most. Export it in parts and take them in one by one.',
    }),
  modified: z.number().int().min(0).max(LAST_MS).default(0),
  description: logDescriptionSchema.extend({
    dialect: z
      .object({ delimiter: z.string().length(1).optional(), decimalChar: z.enum(['.', ',']).optional() })
      .optional(),
  }),
  /** The system has no such device yet: it is made with the log, of this kind. */
  newDevice: z.enum(NEW_DEVICES).optional(),
  /** What the confirmed reading is kept under, to be offered for the next log of its kind. */
  recipeKey: z.string().max(200_000).optional(),
});

export const jobQuerySchema = z.object({
  search: words,
  complaint: search(z.enum(COMPLAINTS)),
  standing: search(z.enum(FOUND)),
  system: search(uuid),
  from: search(day),
  to: search(day),
  after: search(z.string().regex(CURSOR, { error: 'There is no such page.' })),
});
export const systemQuerySchema = z.object({ search: words, after: search(uuid) });

/** Pages that are asked for with more than their address. */
export const PAGES = { '/': jobQuerySchema, '/systems': systemQuerySchema } as const;

const exportQuery = z
  .object({
    format: z.enum(['csv', 'parquet']).default('csv'),
    from: moment.optional(),
    to: moment.optional(),
  })
  .refine(({ from, to }) => (from === undefined) === (to === undefined) && (from ?? 0) <= (to ?? 0), {
    path: ['from'],
    error: 'A span has a beginning and an end, in this order.',
  });

export const DOORS = {
  'GET /api/health': {},
  'POST /api/bundles': { file: LARGEST_BUNDLE, query: z.object({ leave: z.literal('1').optional() }) },
  'GET /api/intakes/[id]': { params: one, what: 'log on its way in' },
  'PUT /api/intakes/[id]': {
    params: one,
    what: 'log on its way in',
    query: z.object({ at: digits(MOST_BYTES) }),
    bytes: PART_BYTES,
  },
  'POST /api/intakes/[id]': {
    params: one,
    what: 'log that asks something',
    json: z.object({ answer: z.enum(INTAKE_ANSWERS) }),
  },
  'DELETE /api/intakes/[id]': { params: one, what: 'log on its way in' },
  'POST /api/jobs': { json: newJobSchema },
  'PUT /api/jobs/[id]': {
    params: one,
    what: 'job',
    json: z.object({ base: version, value: jobSchema }),
  },
  'POST /api/jobs/[id]': { params: one, what: 'job' },
  'DELETE /api/jobs/[id]': { params: one, what: 'job' },
  'GET /api/jobs/[id]/bundle': { params: one, what: 'job' },
  'GET /api/jobs/[id]/intakes': { params: one, what: 'job' },
  'POST /api/jobs/[id]/intakes': { params: one, what: 'job', json: intakeRequestSchema },
  'POST /api/jobs/[id]/photos': {
    params: one,
    what: 'job',
    /** `photo` is made where it is taken: one that is sent twice is one. */
    query: z.object({ item: photoItem, photo: uuid.optional() }),
    bytes: LARGEST_PHOTO,
  },
  'GET /api/jobs/[id]/report': { params: one, what: 'job' },
  'GET /api/jobs/[id]/visits/[visit]': { params: ofJob, what: 'visit' },
  'GET /api/jobs/[id]/counter': { params: one, what: 'job with logs', query: currentsSchema },
  'GET /api/jobs/[id]/minutes': { params: one, what: 'job with logs' },
  'GET /api/jobs/[id]/measure': {
    params: one,
    what: 'job with logs',
    query: z.object({ from: moment, to: moment }).refine(({ from, to }) => from < to, {
      path: ['from'],
      error: 'The first moment comes before the second.',
    }),
  },
  'GET /api/jobs/[id]/find': { params: one, what: 'job with logs', query: findSchema },
  'GET /api/jobs/[id]/timeline': { params: one, what: 'job with logs', query: exportQuery },
  'GET /api/plan/calendar': { query: z.object({ system: z.uuid().optional() }) },
  'GET /api/photos/[id]': { params: one, what: 'photo' },
  'POST /api/photos/[id]': { params: one, what: 'photo' },
  'DELETE /api/photos/[id]': { params: one, what: 'photo' },
  'POST /api/recipes': { json: z.object({ key: z.string().max(200_000) }) },
  'POST /api/recordings/clocks': {
    json: z.object({
      clocks: z
        .array(z.object({ id: uuid, clock: clockSchema }))
        .min(1)
        .max(100),
    }),
  },
  'DELETE /api/recordings/[id]': {
    params: one,
    what: 'recording',
    query: z.object({ restore: z.string().max(10).optional() }),
  },
  'POST /api/recordings/[id]': { params: one, what: 'recording' },
  'GET /api/recordings/[id]/clock': { params: one, what: 'recording' },
  'GET /api/recordings/[id]/export': { params: one, what: 'recording', query: exportQuery },
  'GET /api/recordings/[id]/problems': { params: one, what: 'recording' },
  'GET /api/recordings/[id]/tiles': {
    params: one,
    what: 'recording',
    query: z.object({
      level: digits(COARSEST_LEVEL),
      index: digits(2 ** 40),
      channels: z
        .string({ error: 'This is missing.' })
        .max(2000)
        .regex(/^[a-z0-9_]{1,40}(,[a-z0-9_]{1,40}){0,39}$/, {
          error: 'Channels are named with commas between.',
        }),
      clock: z.string().max(20).optional(),
    }),
  },
  'GET /api/systems': { query: systemQuerySchema },
  'PUT /api/systems/[id]': {
    params: one,
    what: 'system',
    json: z.object({ base: version, value: systemSchema }),
  },
  'GET /api/systems/[id]/changes': {
    params: one,
    what: 'system',
    query: z.object({ after: uuid.optional() }),
  },
  'POST /api/systems/[id]/changes': { params: one, what: 'system', json: changeRequestSchema },
  'DELETE /api/systems/[id]/changes/[change]': {
    params: z.object({ id: uuid, change: uuid }),
    what: 'change',
  },
  'GET /api/systems/[id]/records': { params: one, what: 'system' },
  'PUT /api/systems/[id]/records/[record]': { params: ofSystem, what: 'record', json: recordSchema },
  'DELETE /api/systems/[id]/records/[record]': { params: ofSystem, what: 'record' },
  'POST /api/systems/[id]/records/[record]': { params: ofSystem, what: 'record' },
} as const satisfies Record<string, Door>;

export type DoorName = keyof typeof DOORS;

const PATTERNS = Object.entries(DOORS as Record<string, Door>).map(([name, door]) => {
  const [method, path] = name.split(' ') as [string, string];
  return { method, door, steps: path.split('/') };
});

/** The doors at a path, by method; none when nothing is there. A fixed name goes before a place for any. */
export function doorsAt(path: string): Map<string, Door> {
  const steps = path.split('/');
  const at = PATTERNS.filter(
    (one) =>
      one.steps.length === steps.length &&
      one.steps.every((step, i) => step === steps[i] || step.startsWith('[')),
  );
  const fixed = Math.max(0, ...at.map((one) => one.steps.filter((step) => !step.startsWith('[')).length));
  return new Map(
    at
      .filter((one) => one.steps.filter((step) => !step.startsWith('[')).length === fixed)
      .map(({ method, door }) => [method, door]),
  );
}

/** The most bytes that a door lets in. */
export const mostBytes = ({ json, bytes, file }: Door): number => bytes ?? file ?? (json ? MOST_JSON : 0);

/** Why more than that is refused. */
export const tooLarge = (most: number): string =>
  most === 0
    ? 'Nothing is to be sent here.'
    : `This is larger than ${Math.round((10 * most) / 2 ** 20) / 10} MB, which is the most that is taken in here.`;
