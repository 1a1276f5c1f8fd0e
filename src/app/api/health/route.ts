import { sql } from 'kysely';
import { store } from '@/server/store';
import { through } from '@/server/through';

export const dynamic = 'force-dynamic';

/** Answers 200 when the application reaches its database. */
export const GET = through('GET /api/health', async () => {
  await sql`select 1 from jobs limit 1`.execute(store());
  return new Response('ok', { headers: { 'cache-control': 'no-store' } });
});
