import { problemsCsv } from '@/core/log/export/problems';
import { notFound } from '@/server/request';
import { store } from '@/server/store';
import { recordingProblems } from '@/store/recordings';

/** The rows of a recording that had a problem, as CSV: line, reason, row. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }) {
  const found = await recordingProblems(store(), (await params).id);
  if (!found) return notFound('recording');
  const name = found.fileName.replace(/[^\w.-]+/g, '_');
  return new Response(problemsCsv(found.problems, found.problemCount), {
    headers: {
      'content-type': 'text/csv; charset=utf-8; header=present',
      'content-disposition': `attachment; filename="problems-of-${name}.csv"`,
    },
  });
}
