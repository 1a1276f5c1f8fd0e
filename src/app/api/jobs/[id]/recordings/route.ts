import { NotALog } from '@/core/log/sniff';
import { refuseForeign } from '@/server/request';
import { store } from '@/server/store';
import { takeInLog, uploadSchema } from '@/server/takeInLog';
import { findJob } from '@/store/jobs';

/**
 * Takes in a log. The body is the file; `upload` in the query is JSON (file name, device, columns). Answers a line of JSON for
 * each thing that is being done, at last `{ done: id }` or `{ error: sentence }`.
 */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  const refused = refuseForeign(request);
  if (refused) return refused;
  const job = await findJob(store(), (await params).id);
  if (!job)
    return Response.json({ error: 'There is no such job: it may have been removed.' }, { status: 404 });
  const upload = uploadSchema.safeParse(parseJson(new URL(request.url).searchParams.get('upload')));
  if (!upload.success || !request.body)
    return Response.json(
      { error: 'The upload lacks its file or what is to be known of it. Choose the file again.' },
      { status: 400 },
    );
  const { body } = request;
  const encoder = new TextEncoder();
  const stream = new ReadableStream<Uint8Array>({
    async start(controller) {
      const tell = (message: object) => controller.enqueue(encoder.encode(JSON.stringify(message) + '\n'));
      try {
        const id = await takeInLog(
          store(),
          job,
          upload.data,
          body,
          (phase) => tell({ phase }),
          request.signal,
        );
        tell({ done: id });
      } catch (error) {
        if (request.signal.aborted) return;
        if (!(error instanceof NotALog)) console.error(error);
        tell({
          error:
            error instanceof NotALog
              ? error.message
              : 'The log could not be stored: something failed on the server. Nothing was changed; try again.',
        });
      } finally {
        if (!request.signal.aborted) controller.close();
      }
    },
  });
  return new Response(stream, {
    headers: { 'content-type': 'application/x-ndjson', 'cache-control': 'no-store' },
  });
}

function parseJson(text: string | null): unknown {
  try {
    return JSON.parse(text ?? '');
  } catch {
    return null;
  }
}
