/** Keeps a record of a system: a hydrometer round, a capacity test. */

import type { AnyRecord } from '@/core/records/records';
import type { Store } from '@/store/database';
import { findSystem } from '@/store/jobs';
import { MOST_RECORDS, saveRecord } from '@/store/records';
import { gone, Refusal } from './refusal';

/** @throws Refusal */
export async function keepRecord(
  store: Store,
  systemId: string,
  id: string,
  made: AnyRecord,
): Promise<{ id: string }> {
  if (made.record.id !== id) throw new Refusal(400, 'The record has another id than its address.');
  if (!(await findSystem(store, systemId))) throw gone('system');
  if (!(await saveRecord(store, systemId, made)))
    throw new Refusal(
      409,
      `This record belongs to another system, or the system has ${MOST_RECORDS} of the kind already: take off the oldest.`,
    );
  return { id };
}
