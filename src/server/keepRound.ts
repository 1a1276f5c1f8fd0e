/** Keeps a hydrometer round of a system. */

import type { Round } from '@/core/hydrometer/round';
import type { Store } from '@/store/database';
import { findSystem } from '@/store/jobs';
import { MOST_ROUNDS, saveRound } from '@/store/rounds';
import { gone, Refusal } from './refusal';

/** @throws Refusal */
export async function keepRound(
  store: Store,
  systemId: string,
  id: string,
  round: Round,
): Promise<{ id: string }> {
  if (round.id !== id) throw new Refusal(400, 'The round has another id than its address.');
  if (!(await findSystem(store, systemId))) throw gone('system');
  if (!(await saveRound(store, systemId, round)))
    throw new Refusal(
      409,
      `This round belongs to another system, or the system has ${MOST_ROUNDS} rounds already: take off the oldest.`,
    );
  return { id };
}
