import { store } from '@/server/store';
import { through } from '@/server/through';
import { listSystems } from '@/store/lists';

/** A page of systems by customer and name: `{ rows: [{ id, name, owner }], next }`. */
export const GET = through('GET /api/systems', async ({ query }) => {
  const { rows, next } = await listSystems(store(), query);
  return { next, rows: rows.map(({ id, system: { name, owner } }) => ({ id, name, owner: owner ?? null })) };
});
