/** What is kept of a system beside its description, typed where there may be no network. A new kind is one line here. */

import { z } from 'zod';
import { capacityTestSchema } from '../capacity/record';
import { roundSchema } from '../hydrometer/round';

export const RECORDS = {
  'hydrometer-round': roundSchema,
  'capacity-test': capacityTestSchema,
} as const;

export type RecordKind = keyof typeof RECORDS;
export type RecordOf<K extends RecordKind> = z.infer<(typeof RECORDS)[K]>;
export const RECORD_KINDS = Object.keys(RECORDS) as [RecordKind, ...RecordKind[]];

/** A record on its way in. */
export const recordSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('hydrometer-round'), record: roundSchema }),
  z.object({ kind: z.literal('capacity-test'), record: capacityTestSchema }),
]);
export type AnyRecord = z.infer<typeof recordSchema>;

/** Everything that is kept of a system, the oldest first of each kind. */
export type SystemRecords = { [K in RecordKind]: RecordOf<K>[] };
export const noRecords = (): SystemRecords => ({ 'hydrometer-round': [], 'capacity-test': [] });
