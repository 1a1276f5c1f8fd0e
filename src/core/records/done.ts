/** Something of the plan of visits that was done, and when. */

import { z } from 'zod';
import { day, text } from '../system/values';

export const DUE_KINDS = [
  'full-charge',
  'equalisation',
  'hydrometer-round',
  'capacity-test',
  'verification-log',
  'visit',
] as const;
export type DueKind = (typeof DUE_KINDS)[number];

export const doneSchema = z.object({
  /** Made where it is ticked, so that one that is sent twice is one. */
  id: z.uuid(),
  on: day,
  what: z.enum(DUE_KINDS),
  note: text.optional(),
});
export type Done = z.infer<typeof doneSchema>;
