import { limitedBody, notFound, refuseForeign } from '@/server/request';
import { store } from '@/server/store';
import { LARGEST_PHOTO, NotAPhoto, takeInPhoto } from '@/server/takeInPhoto';
import { findJob } from '@/store/jobs';

/** Takes a photo in for the item of the checklist that the query names; the body is the file. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  const refused = refuseForeign(request);
  if (refused) return refused;
  const { id } = await params;
  if (!(await findJob(store(), id))) return notFound('job');
  const bytes = await limitedBody(request, LARGEST_PHOTO);
  if (!bytes)
    return Response.json(
      { error: 'The photo is larger than 20 MB. Make it smaller and take it in again.' },
      { status: 413 },
    );
  try {
    const item = new URL(request.url).searchParams.get('item') ?? '';
    return Response.json(await takeInPhoto(store(), id, item, bytes), { status: 201 });
  } catch (error) {
    if (error instanceof NotAPhoto) return Response.json({ error: error.message }, { status: 400 });
    throw error;
  }
}
