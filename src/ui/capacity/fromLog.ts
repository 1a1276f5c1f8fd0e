/** A discharge of a log, from full until it was empty, as a capacity test. */

import { ratingOf } from '@/core/capacity/effective';
import { END_VOLTS } from '@/core/capacity/plan';
import { type CapacityTest, capacityTestSchema } from '@/core/capacity/record';
import type { Diagnosis } from '@/core/diagnosis/result';
import { isLead } from '@/core/system/chemistry';
import { usualExponent } from '@/core/system/peukert';
import type { System } from '@/core/system/schema';

export type FromFull = NonNullable<Diagnosis['discharge']>['fromFull'][number];

/** Null where it did not empty the battery, or the bank is not known. @param id of the new test */
export function testOfDischarge(
  { from, celsius, course, endVolts, holds, left }: FromFull,
  { bank, monitor, timeZone }: System,
  id: string,
): CapacityTest | null {
  const { chemistry, capacityAh, cellsInSeries } = bank;
  if (!course || !holds || !chemistry || !capacityAh || !cellsInSeries) return null;
  const rated = ratingOf({ ...bank, chemistry, capacityAh });
  const limit = END_VOLTS[isLead(chemistry) ? 'lead' : 'lithium'] * cellsInSeries;
  const made = capacityTestSchema.safeParse({
    id,
    on: new Date(from).toLocaleDateString('sv', { timeZone }),
    from: 'log',
    wasFull: true,
    celsius: celsius ?? undefined,
    endedBy: 'knee',
    left: left === null ? undefined : Math.max(0, left),
    ratedAh: rated.capacityAh,
    ratedHours: rated.hours,
    exponent: monitor?.peukert ?? usualExponent(chemistry),
    endVolts: Math.round(100 * limit) / 100,
    readings: course.amps.flatMap((amps, k) => {
      const volts = course.volts[k] ?? endVolts;
      return amps === null || volts === null
        ? []
        : [{ minutes: Math.round(10 * k * course.stepMinutes) / 10, volts, amps: Math.max(0, amps) }];
    }),
  });
  return made.success ? made.data : null;
}
