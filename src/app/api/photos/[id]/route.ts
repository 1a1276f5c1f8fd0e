import { notFound, refuseForeign } from '@/server/request';
import { store } from '@/server/store';
import { findPhoto, setPhotoRemoved } from '@/store/photos';

type Context = { params: Promise<{ id: string }> };

export async function GET(_: Request, { params }: Context) {
  const data = await findPhoto(store(), (await params).id);
  if (!data) return notFound('photo');
  return new Response(new Uint8Array(data), {
    headers: {
      'content-type': 'image/jpeg',
      'cache-control': 'private, max-age=31536000, immutable',
      'x-content-type-options': 'nosniff',
    },
  });
}

/** Takes a photo away; `POST` puts it back. */
export async function DELETE(request: Request, { params }: Context) {
  const refused = refuseForeign(request);
  if (refused) return refused;
  return (await setPhotoRemoved(store(), (await params).id, true)) ? Response.json({}) : notFound('photo');
}

export async function POST(request: Request, { params }: Context) {
  const refused = refuseForeign(request);
  if (refused) return refused;
  return (await setPhotoRemoved(store(), (await params).id, false)) ? Response.json({}) : notFound('photo');
}
