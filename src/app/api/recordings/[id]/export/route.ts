import { fileAnswer } from '@/server/exportAnswer';
import { exportRecording } from '@/server/exportRecording';
import { store } from '@/server/store';
import { through } from '@/server/through';

/** A recording as CSV or Parquet, whole or a span of it. */
export const GET = through('GET /api/recordings/[id]/export', ({ params, query: { format, from, to } }) =>
  fileAnswer(() =>
    exportRecording(store(), params.id, format, from === undefined || to === undefined ? null : { from, to }),
  ),
);
