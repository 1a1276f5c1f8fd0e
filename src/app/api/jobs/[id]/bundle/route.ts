import { bundleOfJob } from '@/server/jobBundle';
import { notFound } from '@/server/request';
import { store } from '@/server/store';

/** The job as a bundle. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }) {
  const bundle = await bundleOfJob(store(), (await params).id);
  if (!bundle) return notFound('job');
  return new Response(new Uint8Array(bundle.zip), {
    headers: {
      'content-type': 'application/zip',
      'content-disposition': `attachment; filename="${bundle.fileName}"`,
    },
  });
}
