/** Keeps a record of a system: a hydrometer round, a capacity test, a visit, something done. */

import { fedBy, fedParts } from '@/core/onsite/judge';
import type { Visit } from '@/core/onsite/visit';
import type { AnyRecord } from '@/core/records/records';
import { sameValue } from '@/core/system/merge';
import type { Store } from '@/store/database';
import { findJob, findSystem, saveSystem } from '@/store/jobs';
import { listRecords, MOST_RECORDS, saveRecord } from '@/store/records';
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
  if (made.kind === 'visit' && (await findJob(store, made.record.job))?.systemId !== systemId)
    throw new Refusal(400, 'The visit belongs to a job that is not on this system.');
  const before = made.kind === 'visit' ? (await listRecords(store, systemId)).visit : [];
  if (!(await saveRecord(store, systemId, made)))
    throw new Refusal(
      409,
      `This record belongs to another system, or the system has ${MOST_RECORDS} of the kind already: take off the oldest.`,
    );
  if (made.kind === 'visit') await feed(store, systemId, made.record, before);
  return { id };
}

/** So often somebody else may save the description meanwhile. */
const TRIES = 5;

/**
 * What a visit has proved goes into the description: once, and not over what a later visit has found.
 * @param visits those that were kept before
 */
async function feed(store: Store, systemId: string, visit: Visit, visits: readonly Visit[]): Promise<void> {
  const earlier = visits.find((one) => one.id === visit.id);
  // The database keeps the names of a record in an order of its own.
  if (earlier && sameValue(fedParts(earlier), fedParts(visit))) return;
  if (visits.some((one) => one.id !== visit.id && one.on > visit.on)) return;
  for (let round = 0; round < TRIES; round++) {
    const found = await findSystem(store, systemId);
    if (!found) return;
    const next = fedBy(found.system, visit);
    if (next === found.system) return;
    const saved = await saveSystem(store, systemId, found.version, next);
    if (saved && !('conflict' in saved)) return;
  }
  throw new Refusal(
    503,
    'The description is being changed by somebody else. The visit is kept; send it again.',
  );
}
