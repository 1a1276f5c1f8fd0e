import { undoChange } from '@/server/changeSetting';
import { notFound, refuseForeign } from '@/server/request';
import { store } from '@/server/store';

/** Takes a change off the record and puts the setting back. */
export async function DELETE(
  request: Request,
  { params }: { params: Promise<{ id: string; change: string }> },
) {
  const refused = refuseForeign(request);
  if (refused) return refused;
  const { id, change } = await params;
  const answer = await undoChange(store(), id, change);
  return answer ? Response.json(answer) : notFound('change');
}
