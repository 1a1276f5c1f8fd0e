import { beginIntake, intakeRequestSchema } from '@/server/beginIntake';
import { jsonBody, notFound, refuseForeign } from '@/server/request';
import { store } from '@/server/store';
import { listIntakes } from '@/store/intakes';
import { findJob, isId } from '@/store/jobs';

/** Opens the way in for a log: `{ fileName, size, modified, description }` → the intake, whose parts may then be sent. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  const refused = refuseForeign(request);
  if (refused) return refused;
  const job = await findJob(store(), (await params).id);
  if (!job) return notFound('job');
  const asked = intakeRequestSchema.safeParse(await jsonBody(request));
  if (!asked.success)
    return Response.json(
      { error: 'The upload lacks its file or what is to be known of it. Choose the file again.' },
      { status: 400 },
    );
  const intake = await beginIntake(store(), job, asked.data);
  return 'refused' in intake
    ? Response.json({ error: intake.refused }, { status: 400 })
    : Response.json(intake, { status: 201 });
}

/** Logs of the job that are on their way in, and those that could not be taken in. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  return Response.json(isId(id) ? await listIntakes(store(), id) : [], {
    headers: { 'cache-control': 'no-store' },
  });
}
