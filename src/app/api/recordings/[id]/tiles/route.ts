import { gone } from '@/server/refusal';
import { store } from '@/server/store';
import { through } from '@/server/through';
import { recordingTile } from '@/server/tiles';

/** A tile of a recording as Float32 minima and maxima. A recording by its clock never changes, so its tiles may be kept. */
export const GET = through('GET /api/recordings/[id]/tiles', async ({ params, query }) => {
  const tile = await recordingTile(store(), params.id, query.channels.split(','), query.level, query.index);
  if (!tile) throw gone('recording');
  return new Response(tile.buffer as ArrayBuffer, {
    headers: {
      'content-type': 'application/octet-stream',
      'cache-control': 'private, max-age=31536000, immutable',
    },
  });
});
