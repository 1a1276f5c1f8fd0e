import { setClocks } from '@/server/recordingClock';
import { store } from '@/server/store';
import { through } from '@/server/through';

/** Sets the clocks of recordings, all or none: `{ clocks: [{ id, clock }] }` → `{ before }`, those that were set before. */
export const POST = through('POST /api/recordings/clocks', ({ json }) => setClocks(store(), json.clocks));
