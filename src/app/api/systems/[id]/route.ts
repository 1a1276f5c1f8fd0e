import { saveDescription } from '@/server/saveDescription';
import { store } from '@/server/store';
import { through } from '@/server/through';

/** Saves a system: `{ base, value }` → `{ version }`; 400 problems by field; 409 what was saved meanwhile. */
export const PUT = through('PUT /api/systems/[id]', ({ params, json }) =>
  saveDescription(store(), 'system', params.id, json),
);
