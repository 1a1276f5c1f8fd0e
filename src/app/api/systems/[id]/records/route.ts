import { store } from '@/server/store';
import { through } from '@/server/through';
import { listRecords } from '@/store/records';

/** What is kept of a system, by kind, the oldest first. */
export const GET = through('GET /api/systems/[id]/records', ({ params }) => listRecords(store(), params.id));
