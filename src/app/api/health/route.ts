import { sql } from 'kysely';
import { store } from '@/server/store';

export const dynamic = 'force-dynamic';

/** Answers 200 when the application reaches its database. */
export async function GET() {
  try {
    await sql`select 1 from jobs limit 1`.execute(store());
    return new Response('ok');
  } catch (error) {
    return new Response(error instanceof Error ? error.message : 'The database cannot be reached.', {
      status: 503,
    });
  }
}
