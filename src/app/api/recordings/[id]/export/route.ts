import { z } from 'zod';
import { exportRecording, FORMATS } from '@/server/exportRecording';
import { notFound } from '@/server/request';
import { store } from '@/server/store';

const querySchema = z.object({
  format: z.enum(FORMATS).default('csv'),
  /** Epoch ms; both or neither. */
  from: z.coerce.number().optional(),
  to: z.coerce.number().optional(),
});

/** A recording as CSV or Parquet, whole or a span of it. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  const query = querySchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!query.success)
    return Response.json(
      { error: 'Ask for csv or parquet, and for a span by from and to.' },
      { status: 400 },
    );
  const { format, from, to } = query.data;
  const span = from !== undefined && to !== undefined ? { from, to } : null;
  const exported = await exportRecording(store(), (await params).id, format, span);
  if (!exported) return notFound('recording');
  const pieces = exported.body[Symbol.iterator]();
  const body = new ReadableStream<Uint8Array>({
    pull(controller) {
      const { done, value } = pieces.next();
      if (done) controller.close();
      else controller.enqueue(value);
    },
  });
  return new Response(body, {
    headers: {
      'content-type': exported.type,
      'content-disposition': `attachment; filename="${exported.fileName}"`,
    },
  });
}
