import { gone, Refusal } from '@/server/refusal';
import { store } from '@/server/store';
import { through } from '@/server/through';
import { type Moved, setRecordingRemoved, undoReplacement } from '@/store/recordings';

const told = (moved: Moved): object => {
  if (moved === 'gone') throw gone('recording');
  if (moved === 'taken')
    throw new Refusal(
      409,
      'It cannot be put back: the same file, or another log of the same device and time, stands in its place. Take that away first.',
    );
  return {};
};

/** Takes a recording away; `POST` puts it back. With `?restore` what it had come in place of is put back at once. */
export const DELETE = through('DELETE /api/recordings/[id]', async ({ params: { id }, query }) =>
  told(
    await (query.restore === undefined
      ? setRecordingRemoved(store(), id, true)
      : undoReplacement(store(), id)),
  ),
);

export const POST = through('POST /api/recordings/[id]', async ({ params }) =>
  told(await setRecordingRemoved(store(), params.id, false)),
);
