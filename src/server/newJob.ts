/** Opens a job, on a system that is known or on a new one. */

import type { z } from 'zod';
import { likeEarlier } from '@/core/system/likeEarlier';
import type { Store } from '@/store/database';
import { findSystem, insertJob, insertSystem } from '@/store/jobs';
import type { newJobSchema } from './doors';
import { Refusal } from './refusal';

const wrong = (field: string, error: string): Refusal =>
  new Refusal(400, error, { problems: { [field]: error } });

/** @param now the moment at which it is opened, ISO 8601 @throws Refusal */
export async function newJob(
  store: Store,
  {
    systemId,
    systemName,
    likeSystemId,
    timeZone,
    title,
    complaints,
    bank = {},
  }: z.output<typeof newJobSchema>,
  now: string,
): Promise<{ id: string }> {
  if (systemId && !(await findSystem(store, systemId)))
    throw wrong('systemId', 'This system is not there any more: choose another.');
  if (!systemId && !systemName) throw wrong('systemName', 'Give it a name.');
  const like = !systemId && likeSystemId ? await findSystem(store, likeSystemId) : null;
  if (!systemId && likeSystemId && !like)
    throw wrong('likeSystemId', 'The system that it is like is not there any more: choose another.');
  const fresh = like
    ? likeEarlier(like.system, systemName!, timeZone)
    : { name: systemName!, timeZone, bank, sources: [], loads: [] };
  return store.transaction().execute(async (transaction) => {
    const of = systemId ?? (await insertSystem(transaction, fresh));
    return { id: await insertJob(transaction, of, { title, complaints, openedAt: now, notes: '' }) };
  });
}
