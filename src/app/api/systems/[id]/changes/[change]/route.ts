import { undoChange } from '@/server/changeSetting';
import { gone } from '@/server/refusal';
import { store } from '@/server/store';
import { through } from '@/server/through';

/** Takes a change off the record and puts the setting back. */
export const DELETE = through('DELETE /api/systems/[id]/changes/[change]', async ({ params }) => {
  const answer = await undoChange(store(), params.id, params.change);
  if (!answer) throw gone('change');
  return answer;
});
