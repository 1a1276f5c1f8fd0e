import { exportAnswer } from '@/server/exportAnswer';
import { exportRecording } from '@/server/exportRecording';
import { store } from '@/server/store';

/** A recording as CSV or Parquet, whole or a span of it. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  return exportAnswer(request, 'recording', (format, span) => exportRecording(store(), id, format, span));
}
