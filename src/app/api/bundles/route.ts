import { BundleError } from '@/core/bundle/read';
import { jobFromBundle } from '@/server/jobBundle';
import { limitedBody, refuseForeign } from '@/server/request';
import { store } from '@/server/store';

const LARGEST = 512 * 1024 * 1024;

/** Opens a job from a bundle; the body is the zip. */
export async function POST(request: Request) {
  const refused = refuseForeign(request);
  if (refused) return refused;
  const zip = await limitedBody(request, LARGEST);
  if (!zip)
    return Response.json(
      { error: 'The bundle is larger than 512 MB. Take its logs out and send them one by one.' },
      { status: 413 },
    );
  try {
    return Response.json(await jobFromBundle(store(), zip), { status: 201 });
  } catch (error) {
    if (error instanceof BundleError) return Response.json({ error: error.message }, { status: 400 });
    throw error;
  }
}
