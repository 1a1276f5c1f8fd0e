import { changeSetting } from '@/server/changeSetting';
import { jsonBody, notFound, refuseForeign } from '@/server/request';
import { store } from '@/server/store';

/** Changes a setting for the record: `{ base, path, after, why, on }` → `{ version, system }`. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  const refused = refuseForeign(request);
  if (refused) return refused;
  const answer = await changeSetting(store(), (await params).id, await jsonBody(request));
  if (!answer) return notFound('system');
  if ('conflict' in answer) return Response.json(answer.conflict, { status: 409 });
  return Response.json(answer, { status: 'problems' in answer ? 400 : 200 });
}
