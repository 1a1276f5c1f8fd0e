import { gone } from '@/server/refusal';
import { store } from '@/server/store';
import { sheetInThread } from '@/server/threads';
import { through } from '@/server/through';
import { visitSheet } from '@/server/visitSheet';
import { findPhotos } from '@/store/photos';

/** The sheet of a visit as a PDF. */
export const GET = through('GET /api/jobs/[id]/visits/[visit]', async ({ params }) => {
  const sheet = await visitSheet(store(), params.id, params.visit);
  if (!sheet) throw gone('visit');
  const photos = await findPhotos(
    store(),
    sheet.photos.map((one) => one.id),
  );
  const name = `${sheet.system} visit`.toLowerCase().replace(/[^a-z0-9]+/g, '-');
  return new Response((await sheetInThread(sheet, photos)) as Uint8Array<ArrayBuffer>, {
    headers: {
      'content-type': 'application/pdf',
      'content-disposition': `attachment; filename="${name}.pdf"`,
      'cache-control': 'no-store',
    },
  });
});
