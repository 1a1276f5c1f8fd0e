/** What is kept of a system beside its description, typed where there may be no network. A new kind is one line here. */

import { z } from 'zod';
import { capacityTestSchema } from '../capacity/record';
import { roundSchema } from '../hydrometer/round';
import { visitSchema } from '../onsite/visit';
import { doneSchema } from './done';

export const RECORDS = {
  'hydrometer-round': roundSchema,
  'capacity-test': capacityTestSchema,
  visit: visitSchema,
  done: doneSchema,
} as const;

export type RecordKind = keyof typeof RECORDS;
export type RecordOf<K extends RecordKind> = z.infer<(typeof RECORDS)[K]>;
export const RECORD_KINDS = Object.keys(RECORDS) as [RecordKind, ...RecordKind[]];

/** A record on its way in. */
export const recordSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('hydrometer-round'), record: roundSchema }),
  z.object({ kind: z.literal('capacity-test'), record: capacityTestSchema }),
  z.object({ kind: z.literal('visit'), record: visitSchema }),
  z.object({ kind: z.literal('done'), record: doneSchema }),
]);
export type AnyRecord = z.infer<typeof recordSchema>;

/** Everything that is kept of a system, the oldest first of each kind. */
export type SystemRecords = { [K in RecordKind]: RecordOf<K>[] };
export const recordsSchema: z.ZodType<SystemRecords> = z.object({
  'hydrometer-round': z.array(roundSchema),
  'capacity-test': z.array(capacityTestSchema),
  visit: z.array(visitSchema),
  done: z.array(doneSchema),
});
export const noRecords = (): SystemRecords => ({
  'hydrometer-round': [],
  'capacity-test': [],
  visit: [],
  done: [],
});

/** The same with the visits of one job alone: what was proved before a repair says nothing of the job after it. */
export const recordsOfJob = (records: SystemRecords, jobId: string): SystemRecords => ({
  ...records,
  visit: records.visit.filter((one) => one.job === jobId),
});
