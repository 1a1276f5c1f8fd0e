import { gone } from '@/server/refusal';
import { keepRound } from '@/server/keepRound';
import { store } from '@/server/store';
import { through } from '@/server/through';
import { setRoundRemoved } from '@/store/rounds';

/** Keeps a hydrometer round; sent again, it is the same one. */
export const PUT = through('PUT /api/systems/[id]/rounds/[round]', ({ params, json }) =>
  keepRound(store(), params.id, params.round, json),
);

const move = async (systemId: string, id: string, removed: boolean): Promise<object> => {
  if (!(await setRoundRemoved(store(), systemId, id, removed))) throw gone('round');
  return {};
};

/** Takes a round off; `POST` puts it back. */
export const DELETE = through('DELETE /api/systems/[id]/rounds/[round]', ({ params }) =>
  move(params.id, params.round, true),
);
export const POST = through('POST /api/systems/[id]/rounds/[round]', ({ params }) =>
  move(params.id, params.round, false),
);
