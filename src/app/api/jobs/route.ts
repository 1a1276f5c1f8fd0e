import { newJob } from '@/server/newJob';
import { store } from '@/server/store';
import { through } from '@/server/through';

/** Opens a job: `{ systemId | systemName, timeZone, title, complaints }` → `{ id }`, or 400 with problems by field. */
export const POST = through('POST /api/jobs', async ({ json }) =>
  Response.json(await newJob(store(), json, new Date().toISOString()), { status: 201 }),
);
