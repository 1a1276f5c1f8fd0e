import { extentsIn } from '@/server/extentsIn';
import { openJob } from '@/server/openJob';
import { gone } from '@/server/refusal';
import { store } from '@/server/store';
import { reportInThread } from '@/server/threads';
import { through } from '@/server/through';
import { findPhotos } from '@/store/photos';
import { picturesOf } from '@/ui/report/pictured';
import { reportOf } from '@/ui/report/sections';

/** The report of a job as a PDF. */
export const GET = through('GET /api/jobs/[id]/report', async ({ params }) => {
  const open = await openJob(store(), params.id);
  if (!open) throw gone('job');
  const pictures = await picturesOf(open, extentsIn(store()));
  const report = reportOf(open.job, open.system, open.diagnosis, { ...open, pictures });
  const photos = await findPhotos(
    store(),
    open.photos.map((one) => one.id),
  );
  const name = `${report.system} report`.toLowerCase().replace(/[^a-z0-9]+/g, '-');
  return new Response((await reportInThread(report, photos)) as Uint8Array<ArrayBuffer>, {
    headers: {
      'content-type': 'application/pdf',
      'content-disposition': `attachment; filename="${name}.pdf"`,
      'cache-control': 'no-store',
    },
  });
});
