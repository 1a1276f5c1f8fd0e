import { gone } from '@/server/refusal';
import { keepRecord } from '@/server/keepRecord';
import { store } from '@/server/store';
import { through } from '@/server/through';
import { setRecordRemoved } from '@/store/records';

/** Keeps a record; sent again, it is the same one. */
export const PUT = through('PUT /api/systems/[id]/records/[record]', ({ params, json }) =>
  keepRecord(store(), params.id, params.record, json),
);

const move = async (systemId: string, id: string, removed: boolean): Promise<object> => {
  if (!(await setRecordRemoved(store(), systemId, id, removed))) throw gone('record');
  return {};
};

/** Takes a record off; `POST` puts it back. */
export const DELETE = through('DELETE /api/systems/[id]/records/[record]', ({ params }) =>
  move(params.id, params.record, true),
);
export const POST = through('POST /api/systems/[id]/records/[record]', ({ params }) =>
  move(params.id, params.record, false),
);
