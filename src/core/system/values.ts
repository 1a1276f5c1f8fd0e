/**
 * The kinds of value that descriptions, bundles and requests are made of, each with its bounds and its sentence. A value is checked
 * here once, where it comes in, and trusted afterwards.
 */

import { z } from 'zod';
import { cleanLine, cleanText, isSeen } from '../quantity/plainText';
import { isUsualMoment } from '../quantity/span';
import { isTimeZone } from '../quantity/timeZone';
import './refusals';

/** Beyond this no figure of a battery system lies, whatever its unit. */
const MOST = 1e6;
const TOO_MUCH = 'No battery system has so much: check the unit.';

/** What was written, for a sentence; whatever is no plain value is not repeated. */
const shown = (input: unknown): string =>
  typeof input === 'string' || typeof input === 'number' || typeof input === 'boolean'
    ? `“${cleanLine(String(input)).slice(0, 64)}”`
    : 'This';

/** A number as a person may have typed it: the sentence names what was typed. */
const anyNumber = () =>
  z.number({
    error: ({ input }) =>
      input === undefined ? 'This is not filled in.' : `${shown(input)} is not a number: write it like 14.4.`,
  });
export const number = () => anyNumber().min(-MOST, { error: TOO_MUCH }).max(MOST, { error: TOO_MUCH });
export const positive = () => number().min(1e-6, { error: 'This must be above 0.' });
export const notNegative = () => number().nonnegative({ error: 'This cannot be below 0.' });
export const whole = () =>
  number()
    .int({ error: 'This is a count: write a whole number.' })
    .positive({ error: 'This must be 1 or more.' });
export const between = (low: number, high: number, unit: string) => {
  const error = `This lies between ${low} and ${high}${unit}.`;
  return anyNumber().min(low, { error }).max(high, { error });
};
export const percent = () => between(0, 100, ' %');
export const celsius = () => between(-60, 90, ' °C');

/** Of a device or of an item of the checklists. */
export const id = z
  .string()
  .regex(/^[a-z0-9][a-z0-9-]*$/, {
    error: 'An id has small letters, digits and hyphens only, such as "charger-1".',
  })
  .max(64, { error: 'Keep an id under 64 letters.' })
  .refine((text) => !Reflect.has(Object.prototype, text), { error: 'This cannot be an id: choose another.' });
/** What a photo belongs to: an item of the checklists, or a device with what stands round its id. */
export const photoItem = z.string().regex(/^[a-z0-9][a-z0-9-]{0,79}$/, {
  error: 'The photo belongs to nothing that is known here.',
});

/** One line that people read. */
export const line = (most: number, empty: string) =>
  z
    .string({ error: empty })
    .overwrite(cleanLine)
    .refine(isSeen, { error: empty })
    .max(most, { error: `Keep this under ${most} letters.` });
export const name = z
  .string({ error: 'Give it a name.' })
  .overwrite(cleanLine)
  .refine(isSeen, { error: 'Give it a name.' })
  .max(120, { error: 'Keep the name under 120 letters.' });
/** Several lines, or none. */
export const text = z.string().overwrite(cleanText).max(4000, { error: 'Keep this under 4000 letters.' });

const DATE = 'Write the date as year-month-day, such as 2024-03-12.';
const isDay = (text: string): boolean => {
  const [year, month, day] = text.slice(0, 10).split('-').map(Number) as [number, number, number];
  const at = new Date(Date.UTC(year, month - 1, day));
  return year >= 1900 && year < 2200 && at.getUTCMonth() === month - 1 && at.getUTCDate() === day;
};
/** A day; a time behind it is not minded. */
export const date = z
  .string()
  .max(40, { error: DATE })
  .regex(/^\d{4}-\d{2}-\d{2}([T ][\d:.,+Zz -]*)?$/, { error: DATE })
  .refine(isDay, { error: DATE });
export const day = z
  .string({ error: DATE })
  .regex(/^\d{4}-\d{2}-\d{2}$/, { error: DATE })
  .refine(isDay, { error: DATE });

const MOMENT = 'Write the moment as 2026-10-19T08:30:00Z.';
/** ISO 8601: a date with a time and an offset; date alone, or no offset, is read as UTC. */
export const moment = z
  .string({ error: MOMENT })
  .max(40, { error: MOMENT })
  .regex(/^\d{4}-\d{2}-\d{2}(T\d{2}:\d{2}(:\d{2}(\.\d{1,9})?)?(Z|[+-]\d{2}:?\d{2})?)?$/, { error: MOMENT })
  .refine((text) => isUsualMoment(Date.parse(text)), { error: MOMENT });

export const timeZone = z
  .string()
  .max(64)
  .refine(isTimeZone, {
    error: ({ input }) => `${shown(input)} is not a time zone; use a name such as “Europe/Rome”.`,
  });

/** What a clock can be off by, s: it may have lost its year altogether. */
export const clockOffsetSeconds = between(-150 * 365 * 86_400, 150 * 365 * 86_400, ' s, which is 150 years');
/** What it can lose or gain a day, s. */
export const clockDriftSecondsPerDay = number()
  .gt(-3600, { error: 'A clock loses or gains less than an hour a day.' })
  .lt(3600, { error: 'A clock loses or gains less than an hour a day.' });

/** A list of entries, with as many as a system or a visit can have. */
export const list = <T extends z.ZodType>(entry: T, most: number, what: string) =>
  z.array(entry).max(most, { error: `There can be ${most} ${what} at most.` });
/** A group of so many fields at most, whose names come from outside. */
export const few = <T extends z.ZodType<Record<string, unknown>>>(group: T, most: number) =>
  group.refine((one) => Object.keys(one).length <= most, { error: `There can be ${most} of these at most.` });
