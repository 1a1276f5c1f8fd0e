import { fileAnswer } from '@/server/exportAnswer';
import { minutesOfJob } from '@/server/minutesOfJob';
import { store } from '@/server/store';
import { through } from '@/server/through';

/** A job's logs on one grid, for the replay of charging. */
export const GET = through('GET /api/jobs/[id]/minutes', ({ params }) =>
  fileAnswer(() => minutesOfJob(store(), params.id)),
);
