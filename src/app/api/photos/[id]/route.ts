import { gone, Refusal } from '@/server/refusal';
import { store } from '@/server/store';
import { through } from '@/server/through';
import { findPhoto, MOST_PHOTOS, setPhotoRemoved } from '@/store/photos';

export const GET = through('GET /api/photos/[id]', async ({ params }) => {
  const data = await findPhoto(store(), params.id);
  if (!data) throw gone('photo');
  return new Response(new Uint8Array(data), {
    headers: { 'content-type': 'image/jpeg', 'cache-control': 'private, max-age=31536000, immutable' },
  });
});

const move = async (id: string, removed: boolean): Promise<object> => {
  const moved = await setPhotoRemoved(store(), id, removed);
  if (moved === 'gone') throw gone('photo');
  if (moved === 'full') throw new Refusal(409, `A job keeps ${MOST_PHOTOS} photos: remove one first.`);
  return {};
};

/** Takes a photo away; `POST` puts it back. */
export const DELETE = through('DELETE /api/photos/[id]', ({ params }) => move(params.id, true));
export const POST = through('POST /api/photos/[id]', ({ params }) => move(params.id, false));
