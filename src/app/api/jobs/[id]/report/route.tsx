import { join } from 'node:path';
import { Font, renderToBuffer } from '@react-pdf/renderer';
import { heavy } from '@/server/heavy';
import { openJob } from '@/server/openJob';
import { gone } from '@/server/refusal';
import { store } from '@/server/store';
import { through } from '@/server/through';
import { findPhoto } from '@/store/photos';
import { ReportPdf } from '@/ui/report/ReportPdf';
import { reportOf } from '@/ui/report/sections';

const fontFile = (family: string, weight: number) =>
  join(
    /* turbopackIgnore: true */ process.cwd(),
    'node_modules',
    '@fontsource',
    family,
    'files',
    `${family}-latin-${weight}-normal.woff`,
  );

Font.register({
  family: 'Atkinson',
  fonts: [400, 700].map((weight) => ({
    src: fontFile('atkinson-hyperlegible-next', weight),
    fontWeight: weight,
  })),
});
Font.register({
  family: 'AtkinsonMono',
  fonts: [{ src: fontFile('atkinson-hyperlegible-mono', 400), fontWeight: 400 }],
});
Font.registerHyphenationCallback((word) => [word]);

/** The report of a job as a PDF. */
export const GET = through('GET /api/jobs/[id]/report', async ({ params }) => {
  const open = await openJob(store(), params.id);
  if (!open) throw gone('job');
  return heavy(async () => {
    const report = reportOf(open.job, open.system, open.diagnosis, open);
    const photos = new Map<string, Buffer>();
    for (const { id } of open.photos) {
      const data = await findPhoto(store(), id);
      if (data) photos.set(id, data);
    }
    const pdf = await renderToBuffer(<ReportPdf report={report} photos={photos} />);
    const name = `${report.system} report`.toLowerCase().replace(/[^a-z0-9]+/g, '-');
    return new Response(new Uint8Array(pdf), {
      headers: {
        'content-type': 'application/pdf',
        'content-disposition': `attachment; filename="${name}.pdf"`,
        'cache-control': 'no-store',
      },
    });
  });
});
