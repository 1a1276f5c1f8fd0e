import { newJob } from '@/server/newJob';
import { jsonBody, refuseForeign } from '@/server/request';
import { store } from '@/server/store';

/** Opens a job: `{ systemId | systemName, timeZone, title, complaints }` → `{ id }`, or 400 with problems by field. */
export async function POST(request: Request) {
  const refused = refuseForeign(request);
  if (refused) return refused;
  const answer = await newJob(store(), await jsonBody(request), new Date().toISOString());
  return Response.json(answer, { status: 'id' in answer ? 201 : 400 });
}
