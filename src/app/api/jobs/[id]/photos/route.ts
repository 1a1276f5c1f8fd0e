import { gone } from '@/server/refusal';
import { store } from '@/server/store';
import { takeInPhoto } from '@/server/takeInPhoto';
import { through } from '@/server/through';
import { findJob } from '@/store/jobs';

/** Takes a photo in for the item of the checklist that the query names; the body is the file. */
export const POST = through('POST /api/jobs/[id]/photos', async ({ params: { id }, query, bytes }) => {
  if (!(await findJob(store(), id))) throw gone('job');
  return Response.json(await takeInPhoto(store(), id, query.item, bytes, query.photo), { status: 201 });
});
