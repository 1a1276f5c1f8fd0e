import { fileAnswer } from '@/server/exportAnswer';
import { exportTimeline } from '@/server/exportRecording';
import { store } from '@/server/store';
import { through } from '@/server/through';

/** All logs of a job on one clock, as CSV or Parquet, whole or a span of them. */
export const GET = through('GET /api/jobs/[id]/timeline', ({ params, query: { format, from, to } }) =>
  fileAnswer(() =>
    exportTimeline(store(), params.id, format, from === undefined || to === undefined ? null : { from, to }),
  ),
);
