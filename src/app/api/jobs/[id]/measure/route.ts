import { measureSpan } from '@/server/spanTools';
import { store } from '@/server/store';
import { through } from '@/server/through';

/** What lies between two moments of a job’s logs. */
export const GET = through('GET /api/jobs/[id]/measure', ({ params, query }) =>
  measureSpan(store(), params.id, query),
);
