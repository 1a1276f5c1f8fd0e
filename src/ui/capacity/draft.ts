/** A capacity test while it is planned and runs: everything as text, as it stands in the fields. */

import { type CapacityTestPlan, planCapacityTest } from '@/core/capacity/plan';
import { ratingOf } from '@/core/capacity/effective';
import {
  type CapacityTest,
  capacityTestSchema,
  type EndedBy,
  type TestReading,
  testReadingSchema,
} from '@/core/capacity/record';
import { usualExponent } from '@/core/system/peukert';
import { issuesOf } from '@/core/system/refusals';
import type { System } from '@/core/system/schema';
import { today } from '@/ui/primitives/today';
import { typedNumber, typedYesNo, type YesNo } from '@/ui/records/typed';

export interface DraftReading {
  minutes: string;
  volts: string;
  amps: string;
  lowestCellVolts: string;
  cell: string;
}

export interface CapacityDraft {
  id: string;
  on: string;
  /** When the load was switched on, epoch ms; null before. */
  startedAt: number | null;
  amps: string;
  celsius: string;
  wasFull: YesNo;
  ratedAh: string;
  ratedHours: string;
  exponent: string;
  endedBy: EndedBy;
  notes: string;
  readings: DraftReading[];
}

/** With the rating of the description, and the load that its hour rate stands for. */
export function newCapacityDraft({ bank, monitor }: System): CapacityDraft {
  const { chemistry, capacityAh } = bank;
  const rated = chemistry && capacityAh ? ratingOf({ ...bank, chemistry, capacityAh }) : null;
  return {
    id: crypto.randomUUID(),
    on: today(),
    startedAt: null,
    amps: rated ? String(Math.round((10 * rated.capacityAh) / rated.hours) / 10) : '',
    celsius: '',
    wasFull: '',
    ratedAh: rated ? String(rated.capacityAh) : '',
    ratedHours: rated ? String(rated.hours) : '',
    exponent: String(monitor?.peukert ?? usualExponent(chemistry ?? 'flooded')),
    endedBy: 'end-voltage',
    notes: '',
    readings: [],
  };
}

/** Null while a figure that it needs is missing or wrong. */
export function planOf(draft: CapacityDraft, { bank }: System): CapacityTestPlan | null {
  const { chemistry, cellsInSeries: cells } = bank;
  const [capacityAh, hours, amps, exponent] = [
    draft.ratedAh,
    draft.ratedHours,
    draft.amps,
    draft.exponent,
  ].map((one) => typedNumber(one) ?? NaN) as [number, number, number, number];
  const celsius = typedNumber(draft.celsius) ?? 20;
  const isKnown = [capacityAh, hours, amps, exponent].every((one) => one > 0) && Math.abs(celsius) < 90;
  if (!chemistry || !cells || !isKnown) return null;
  return planCapacityTest({ chemistry, cells, capacityAh, hours, amps, exponent, celsius });
}

export const ratedOf = (draft: CapacityDraft) => ({
  capacityAh: typedNumber(draft.ratedAh) ?? NaN,
  hours: typedNumber(draft.ratedHours) ?? NaN,
  exponent: typedNumber(draft.exponent) ?? NaN,
});

/** The next reading, with the minutes of the clock. @param now epoch ms */
export const nextReading = ({ startedAt, readings, amps }: CapacityDraft, now: number): DraftReading => ({
  minutes: startedAt === null || readings.length === 0 ? '0' : String(Math.round((now - startedAt) / 60_000)),
  volts: '',
  amps: readings.at(-1)?.amps || amps,
  lowestCellVolts: '',
  cell: readings.at(-1)?.cell ?? '',
});

const readingOf = (one: DraftReading) => ({
  minutes: typedNumber(one.minutes),
  volts: typedNumber(one.volts),
  amps: typedNumber(one.amps),
  lowestCellVolts: typedNumber(one.lowestCellVolts),
  cell: one.cell.trim() || undefined,
});

/** Those that can be used as they stand, in order; what is still typed is left out. */
export const usableReadings = ({ readings }: CapacityDraft): TestReading[] =>
  readings
    .flatMap((one) => testReadingSchema.safeParse(readingOf(one)).data ?? [])
    .sort((a, b) => a.minutes - b.minutes);

/** The test, or what is wrong with it. */
export function capacityTestOf(
  draft: CapacityDraft,
  plan: CapacityTestPlan | null,
): { test: CapacityTest } | { problem: string } {
  if (!plan)
    return { problem: 'Load, rating, hour rate and exponent are needed, and what bank it is: fill them in.' };
  const value = {
    id: draft.id,
    on: draft.on,
    from: 'typed',
    wasFull: typedYesNo(draft.wasFull),
    celsius: typedNumber(draft.celsius),
    endedBy: draft.endedBy,
    ratedAh: typedNumber(draft.ratedAh),
    ratedHours: typedNumber(draft.ratedHours),
    exponent: typedNumber(draft.exponent),
    endVolts: plan.endVolts,
    readings: draft.readings.filter((one) => one.volts.trim() !== '').map(readingOf),
    notes: draft.notes.trim() || undefined,
  };
  const parsed = capacityTestSchema.safeParse(value);
  if (parsed.success) return { test: parsed.data };
  const { path, message } = issuesOf(parsed.error)[0]!;
  const row = path[0] === 'readings' && typeof path[1] === 'number' ? `Reading ${path[1] + 1}: ` : '';
  return { problem: row + message };
}
