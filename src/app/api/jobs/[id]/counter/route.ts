import { counterOf } from '@/server/counterOf';
import { fileAnswer } from '@/server/exportAnswer';
import { store } from '@/server/store';
import { through } from '@/server/through';

/** What the monitor counted by, sample by sample, or what another device would have. */
export const GET = through('GET /api/jobs/[id]/counter', ({ params, query }) =>
  fileAnswer(() => counterOf(store(), params.id, query)),
);
