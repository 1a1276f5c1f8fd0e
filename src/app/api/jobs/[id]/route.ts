import { gone } from '@/server/refusal';
import { saveDescription } from '@/server/saveDescription';
import { store } from '@/server/store';
import { through } from '@/server/through';
import { setJobRemoved } from '@/store/jobs';

/** Saves a job: `{ base, value }` → `{ version }`; 400 problems by field; 409 what was saved meanwhile. */
export const PUT = through('PUT /api/jobs/[id]', ({ params, json }) =>
  saveDescription(store(), 'job', params.id, json),
);

const move = async (id: string, removed: boolean): Promise<object> => {
  if (!(await setJobRemoved(store(), id, removed))) throw gone('job');
  return {};
};

/** Takes a job off the list; `POST` puts it back. */
export const DELETE = through('DELETE /api/jobs/[id]', ({ params }) => move(params.id, true));
export const POST = through('POST /api/jobs/[id]', ({ params }) => move(params.id, false));
