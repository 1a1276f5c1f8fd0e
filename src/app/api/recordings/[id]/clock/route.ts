import { adviseClock } from '@/server/recordingClock';
import { store } from '@/server/store';
import { through } from '@/server/through';

/** What the other logs of the job say of this one's clock; null when they say nothing. */
export const GET = through('GET /api/recordings/[id]/clock', ({ params }) => adviseClock(store(), params.id));
