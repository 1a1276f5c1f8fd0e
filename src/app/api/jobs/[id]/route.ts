import { jsonBody, notFound, refuseForeign } from '@/server/request';
import { saveJobDescription } from '@/server/saveDescription';
import { store } from '@/server/store';
import { setJobRemoved } from '@/store/jobs';

type Context = { params: Promise<{ id: string }> };

/** Saves a job: `{ base, value }` → `{ version }`; 400 problems by field; 409 what was saved meanwhile. */
export async function PUT(request: Request, { params }: Context) {
  const refused = refuseForeign(request);
  if (refused) return refused;
  const { status, body } = await saveJobDescription(store(), (await params).id, await jsonBody(request));
  return Response.json(body, { status });
}

/** Takes a job off the list; `POST` puts it back. */
export async function DELETE(request: Request, { params }: Context) {
  const refused = refuseForeign(request);
  if (refused) return refused;
  return (await setJobRemoved(store(), (await params).id, true)) ? Response.json({}) : notFound('job');
}

export async function POST(request: Request, { params }: Context) {
  const refused = refuseForeign(request);
  if (refused) return refused;
  return (await setJobRemoved(store(), (await params).id, false)) ? Response.json({}) : notFound('job');
}
