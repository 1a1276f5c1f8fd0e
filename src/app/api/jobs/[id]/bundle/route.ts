import { fileAnswer } from '@/server/exportAnswer';
import { bundleOfJob } from '@/server/jobBundle';
import { store } from '@/server/store';
import { through } from '@/server/through';

/** The job as a bundle. */
export const GET = through('GET /api/jobs/[id]/bundle', ({ params }) =>
  fileAnswer(() => bundleOfJob(store(), params.id)),
);
