import { z } from 'zod';
import { OVERLAP_ANSWERS, PART_BYTES } from '@/core/log/intake';
import { jsonBody, limitedBody, notFound, refuseForeign } from '@/server/request';
import { store } from '@/server/store';
import { answerOverlap, findIntake, removeIntake, takePart } from '@/store/intakes';

type Context = { params: Promise<{ id: string }> };

/** How far a log on its way in has come. */
export async function GET(_: Request, { params }: Context) {
  const intake = await findIntake(store(), (await params).id);
  return intake
    ? Response.json(intake, { headers: { 'cache-control': 'no-store' } })
    : notFound('log on its way in');
}

/** The next part of the file, which begins at byte `at`; 409 with what is there when it begins elsewhere. */
export async function PUT(request: Request, { params }: Context) {
  const refused = refuseForeign(request);
  if (refused) return refused;
  const { id } = await params;
  const at = z.coerce.number().int().min(0).safeParse(new URL(request.url).searchParams.get('at'));
  const part = await limitedBody(request, PART_BYTES);
  if (!at.success || !part || part.length === 0)
    return Response.json(
      { error: `A part has 1 to ${PART_BYTES} bytes and says where it begins.` },
      { status: 400 },
    );
  const taken = await takePart(store(), id, at.data, Buffer.from(part));
  if (taken === 'gone') return notFound('log on its way in');
  if (taken === 'too-long')
    return Response.json(
      { error: 'The file has grown while it was sent. Choose it again when nothing writes to it.' },
      { status: 400 },
    );
  if (taken === 'elsewhere') return Response.json(await findIntake(store(), id), { status: 409 });
  return Response.json(taken);
}

/** Says what shall be with an earlier log that it overlaps: `{ overlap: 'merge' | 'replace' }`. */
export async function POST(request: Request, { params }: Context) {
  const refused = refuseForeign(request);
  if (refused) return refused;
  const asked = z.object({ overlap: z.enum(OVERLAP_ANSWERS) }).safeParse(await jsonBody(request));
  if (!asked.success) return Response.json({ error: 'Say merge or replace.' }, { status: 400 });
  return (await answerOverlap(store(), (await params).id, asked.data.overlap))
    ? Response.json({})
    : notFound('log that asks something');
}

/** Cancels it, or puts away one that has failed. */
export async function DELETE(request: Request, { params }: Context) {
  const refused = refuseForeign(request);
  if (refused) return refused;
  return (await removeIntake(store(), (await params).id)) ? Response.json({}) : notFound('log on its way in');
}
