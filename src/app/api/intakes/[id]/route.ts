import { gone, Refusal } from '@/server/refusal';
import { store } from '@/server/store';
import { through } from '@/server/through';
import { answerIntake, findIntake, removeIntake, takePart } from '@/store/intakes';

const what = 'log on its way in';

/** How far a log on its way in has come. */
export const GET = through('GET /api/intakes/[id]', async ({ params }) => {
  const intake = await findIntake(store(), params.id);
  if (!intake) throw gone(what);
  return intake;
});

/** The next part of the file, which begins at byte `at`; 409 with what is there when it begins elsewhere. */
export const PUT = through('PUT /api/intakes/[id]', async ({ params: { id }, query: { at }, bytes }) => {
  if (bytes.length === 0) throw new Refusal(400, 'A part of a file cannot be empty.');
  const taken = await takePart(store(), id, at, Buffer.from(bytes));
  if (taken === 'gone') throw gone(what);
  if (taken === 'too-long')
    throw new Refusal(
      400,
      'The file has grown while it was sent. Choose it again when nothing writes to it.',
    );
  return taken === 'elsewhere' ? Response.json(await findIntake(store(), id), { status: 409 }) : taken;
});

/** Answers what the log asks: what shall be with an earlier log that it overlaps, or how it is to be read. */
export const POST = through('POST /api/intakes/[id]', async ({ params, json }) => {
  if (!(await answerIntake(store(), params.id, json.answer))) throw gone('log that asks this');
  return {};
});

/** Cancels it, or puts away one that has failed. */
export const DELETE = through('DELETE /api/intakes/[id]', async ({ params }) => {
  if (!(await removeIntake(store(), params.id))) throw gone(what);
  return {};
});
