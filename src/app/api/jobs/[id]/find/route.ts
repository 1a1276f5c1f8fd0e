import { findInLog } from '@/server/spanTools';
import { store } from '@/server/store';
import { through } from '@/server/through';

/** The next time, or the one before, at which a channel of one of a job’s logs does something. */
export const GET = through('GET /api/jobs/[id]/find', ({ params, query }) =>
  findInLog(store(), params.id, query),
);
