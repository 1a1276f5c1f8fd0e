import { z } from 'zod';
import { COARSEST_LEVEL } from '@/core/log/tiles';
import { recordingTile } from '@/server/tiles';
import { store } from '@/server/store';

const querySchema = z.object({
  level: z.coerce.number().int().min(0).max(COARSEST_LEVEL),
  index: z.coerce.number().int().min(0),
  channels: z.string().regex(/^[a-z0-9_]+(,[a-z0-9_]+)*$/),
});

/** A tile of a recording as Float32 minima and maxima. A recording never changes, so its tiles may be kept. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  const query = querySchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!query.success || !z.uuid().safeParse(id).success)
    return new Response('No such tile.', { status: 400 });
  const { level, index, channels } = query.data;
  const tile = await recordingTile(store(), id, channels.split(',').slice(0, 40), level, index);
  if (!tile) return new Response('No such recording.', { status: 404 });
  return new Response(tile.buffer as ArrayBuffer, {
    headers: {
      'content-type': 'application/octet-stream',
      'cache-control': 'private, max-age=31536000, immutable',
    },
  });
}
