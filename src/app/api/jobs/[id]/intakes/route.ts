import { beginIntake } from '@/server/beginIntake';
import { gone } from '@/server/refusal';
import { store } from '@/server/store';
import { through } from '@/server/through';
import { listIntakes } from '@/store/intakes';
import { findJob } from '@/store/jobs';

/** Opens the way in for a log: `{ fileName, size, modified, description }` → the intake, whose parts may then be sent. */
export const POST = through('POST /api/jobs/[id]/intakes', async ({ params, json }) => {
  const job = await findJob(store(), params.id);
  if (!job) throw gone('job');
  return Response.json(await beginIntake(store(), job, json), { status: 201 });
});

/** Logs of the job that are on their way in, and those that could not be taken in. */
export const GET = through('GET /api/jobs/[id]/intakes', async ({ params }) => {
  if (!(await findJob(store(), params.id))) throw gone('job');
  return listIntakes(store(), params.id);
});
