import { exportAnswer } from '@/server/exportAnswer';
import { exportTimeline } from '@/server/exportRecording';
import { store } from '@/server/store';

/** All logs of a job on one clock, as CSV or Parquet, whole or a span of them. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  return exportAnswer(request, 'job with logs', (format, span) => exportTimeline(store(), id, format, span));
}
