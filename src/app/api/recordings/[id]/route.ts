import { notFound, refuseForeign } from '@/server/request';
import { store } from '@/server/store';
import { setRecordingRemoved, undoReplacement } from '@/store/recordings';

type Context = { params: Promise<{ id: string }> };

/** Takes a recording away; `POST` puts it back. With `?restore` what it had come in place of is put back at once. */
export async function DELETE(request: Request, { params }: Context) {
  const refused = refuseForeign(request);
  if (refused) return refused;
  const { id } = await params;
  const restore = new URL(request.url).searchParams.has('restore');
  return (await (restore ? undoReplacement(store(), id) : setRecordingRemoved(store(), id, true)))
    ? Response.json({})
    : notFound('recording');
}

export async function POST(request: Request, { params }: Context) {
  const refused = refuseForeign(request);
  if (refused) return refused;
  return (await setRecordingRemoved(store(), (await params).id, false))
    ? Response.json({})
    : Response.json({ error: 'It cannot be put back: the same file was taken in again.' }, { status: 409 });
}
