import { store } from '@/server/store';
import { through } from '@/server/through';
import { listRounds } from '@/store/rounds';

/** Hydrometer rounds of a system, the oldest first. */
export const GET = through('GET /api/systems/[id]/rounds', ({ params }) => listRounds(store(), params.id));
