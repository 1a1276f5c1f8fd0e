import { problemsOf } from '@/core/system/check';
import { adviseClock, clockSchema } from '@/server/recordingClock';
import { jsonBody, notFound, refuseForeign } from '@/server/request';
import { store } from '@/server/store';
import { setRecordingClock } from '@/store/recordings';

type Context = { params: Promise<{ id: string }> };

/** What the other logs of the job say of this one's clock; null when they say nothing. */
export async function GET(_: Request, { params }: Context) {
  const advice = await adviseClock(store(), (await params).id);
  if (!advice) return notFound('recording');
  return Response.json(advice === 'alone' ? null : advice);
}

/** Sets the clock → the one that was set before. */
export async function POST(request: Request, { params }: Context) {
  const refused = refuseForeign(request);
  if (refused) return refused;
  const clock = clockSchema.safeParse(await jsonBody(request));
  if (!clock.success) return Response.json({ problems: problemsOf(clock.error) }, { status: 400 });
  const before = await setRecordingClock(store(), (await params).id, clock.data);
  return before ? Response.json({ before }) : notFound('recording');
}
