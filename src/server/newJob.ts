/** Opens a job, on a system that is known or on a new one. */

import { z } from 'zod';
import { problemsOf, type Problems } from '@/core/system/check';
import { jobSchema, systemSchema } from '@/core/system/schema';
import type { Store } from '@/store/database';
import { findSystem, insertJob, insertSystem } from '@/store/jobs';

const requestSchema = z.object({
  /** Of a known system; else `systemName` names a new one. */
  systemId: z.string().optional(),
  systemName: systemSchema.shape.name.optional(),
  timeZone: systemSchema.shape.timeZone.default('UTC'),
  title: jobSchema.shape.title,
  complaints: jobSchema.shape.complaints,
});

/** @param now the moment at which it is opened, ISO 8601 */
export async function newJob(
  store: Store,
  request: unknown,
  now: string,
): Promise<{ id: string } | { problems: Problems }> {
  const parsed = requestSchema.safeParse(request);
  if (!parsed.success) return { problems: problemsOf(parsed.error) };
  const { systemId, systemName, timeZone, title, complaints } = parsed.data;
  let of: string;
  if (systemId) {
    if (!(await findSystem(store, systemId)))
      return { problems: { systemId: 'This system is not there any more: choose another.' } };
    of = systemId;
  } else if (systemName)
    of = await insertSystem(store, { name: systemName, timeZone, bank: {}, sources: [], loads: [] });
  else return { problems: { systemName: 'Give it a name.' } };
  return { id: await insertJob(store, of, { title, complaints, openedAt: now, notes: '' }) };
}
