import { problemsCsv } from '@/core/log/export/problems';
import { gone } from '@/server/refusal';
import { store } from '@/server/store';
import { through } from '@/server/through';
import { recordingProblems } from '@/store/recordings';

/** The rows of a recording that had a problem, as CSV: line, reason, row. */
export const GET = through('GET /api/recordings/[id]/problems', async ({ params }) => {
  const found = await recordingProblems(store(), params.id);
  if (!found) throw gone('recording');
  const name = found.fileName.replace(/[^\w.-]+/g, '_');
  return new Response(problemsCsv(found.problems, found.problemCount), {
    headers: {
      'content-type': 'text/csv; charset=utf-8; header=present',
      'content-disposition': `attachment; filename="problems-of-${name}.csv"`,
    },
  });
});
