import { notFound, refuseForeign } from '@/server/request';
import { store } from '@/server/store';
import { setRecordingRemoved } from '@/store/recordings';

type Context = { params: Promise<{ id: string }> };

/** Takes a recording away; `POST` puts it back. */
export async function DELETE(request: Request, { params }: Context) {
  const refused = refuseForeign(request);
  if (refused) return refused;
  return (await setRecordingRemoved(store(), (await params).id, true))
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
