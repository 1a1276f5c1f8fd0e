import { jobFromBundle } from '@/server/jobBundle';
import { store } from '@/server/store';
import { through } from '@/server/through';

/**
 * Opens a job from a bundle; the body is the zip. When something of it would be left out, nothing is stored and `{ left }` says what;
 * sent again with `?leave=1` it is taken in without.
 */
export const POST = through('POST /api/bundles', async ({ file, query }) => {
  const opened = await jobFromBundle(store(), file, query.leave === '1');
  return 'id' in opened ? Response.json(opened, { status: 201 }) : Response.json(opened, { status: 409 });
});
