/** A capacity test of a bank: how it was run, what was read, how it ended. */

import { z } from 'zod';
import { between, celsius, day, line, notNegative, positive, text } from '../system/values';

/** What brought the test to its end. */
export const ENDED_BY = ['end-voltage', 'cell', 'bms', 'knee', 'stopped'] as const;
export type EndedBy = (typeof ENDED_BY)[number];

export const MOST_READINGS = 500;

export const testReadingSchema = z.object({
  /** Since the load was switched on. */
  minutes: between(0, 100_000, ' min'),
  /** V of the bank. */
  volts: between(0, 1500, ' V'),
  /** Out of the battery, A. */
  amps: notNegative(),
  /** V of the lowest cell, and which. */
  lowestCellVolts: between(0, 5, ' V').optional(),
  cell: line(12, 'Name the cell.').optional(),
});

export const capacityTestSchema = z.object({
  /** Made where it is typed, so that one that is sent twice is one. */
  id: z.uuid(),
  on: day,
  /** Read off and typed, or taken from a log. */
  from: z.enum(['typed', 'log']),
  /** It was full and had rested before; absent is not known. */
  wasFull: z.boolean().optional(),
  /** Of the electrolyte or the cells at the start. */
  celsius: celsius().optional(),
  endedBy: z.enum(ENDED_BY),
  /** % that was left in it at the end, where a log says so. */
  left: between(0, 50, ' %').optional(),
  /** What it was judged against: the rating and its hour rate, the exponent, V of the bank at the end. */
  ratedAh: positive(),
  ratedHours: positive(),
  exponent: between(1, 1.6, ''),
  endVolts: positive(),
  readings: z
    .array(testReadingSchema)
    .min(2, { error: 'Write down two readings at least: one at the start and one at the end.' })
    .max(MOST_READINGS, { error: `A test has ${MOST_READINGS} readings at most.` })
    .refine((all) => all.every((one, i) => i === 0 || one.minutes > all[i - 1]!.minutes), {
      error: 'Each reading comes after the one before: check the minutes.',
    }),
  notes: text.optional(),
});

export type TestReading = z.infer<typeof testReadingSchema>;
export type CapacityTest = z.infer<typeof capacityTestSchema>;
