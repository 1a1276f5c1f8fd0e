/** Saves a system or a job that a form has changed, unless somebody else has saved it meanwhile. */

import type { Job, System } from '@/core/system/schema';
import type { Store } from '@/store/database';
import { type Saved, saveJob, saveSystem } from '@/store/jobs';
import { gone } from './refusal';

/** `{ version }`; 409 with what stands there now. @throws Refusal */
export async function saveDescription<K extends 'system' | 'job'>(
  store: Store,
  kind: K,
  id: string,
  { base, value }: { base: number; value: K extends 'system' ? System : Job },
): Promise<Response> {
  const saved: Saved<unknown> =
    kind === 'system'
      ? await saveSystem(store, id, base, value as System)
      : await saveJob(store, id, base, value as Job);
  if (!saved) throw gone(kind);
  return 'conflict' in saved ? Response.json(saved.conflict, { status: 409 }) : Response.json(saved);
}
