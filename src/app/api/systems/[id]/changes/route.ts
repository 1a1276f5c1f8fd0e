import { changeSetting } from '@/server/changeSetting';
import { store } from '@/server/store';
import { through } from '@/server/through';
import { listChanges } from '@/store/changes';

/** Changed settings, the latest first; those after the one that the query names. */
export const GET = through('GET /api/systems/[id]/changes', ({ params, query }) =>
  listChanges(store(), params.id, query),
);

/** Changes a setting for the record: `{ base, path, after, why, on }` → `{ version, system, change }`. */
export const POST = through('POST /api/systems/[id]/changes', ({ params, json }) =>
  changeSetting(store(), params.id, json),
);
