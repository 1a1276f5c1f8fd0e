/** Opens a job, on a system that is known or on a new one. */

import type { z } from 'zod';
import type { Store } from '@/store/database';
import { findSystem, insertJob, insertSystem } from '@/store/jobs';
import type { newJobSchema } from './doors';
import { Refusal } from './refusal';

const wrong = (field: string, error: string): Refusal =>
  new Refusal(400, error, { problems: { [field]: error } });

/** @param now the moment at which it is opened, ISO 8601 @throws Refusal */
export async function newJob(
  store: Store,
  { systemId, systemName, timeZone, title, complaints, bank = {} }: z.output<typeof newJobSchema>,
  now: string,
): Promise<{ id: string }> {
  if (systemId && !(await findSystem(store, systemId)))
    throw wrong('systemId', 'This system is not there any more: choose another.');
  if (!systemId && !systemName) throw wrong('systemName', 'Give it a name.');
  return store.transaction().execute(async (transaction) => {
    const of =
      systemId ??
      (await insertSystem(transaction, { name: systemName!, timeZone, bank, sources: [], loads: [] }));
    return { id: await insertJob(transaction, of, { title, complaints, openedAt: now, notes: '' }) };
  });
}
