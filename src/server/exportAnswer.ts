/** The answer of the routes that give out a file in a format and for a span. */

import { z } from 'zod';
import type { Span } from '@/core/quantity/span';
import { type Exported, type ExportFormat, FORMATS } from './exportRecording';
import { notFound } from './request';

const querySchema = z.object({
  format: z.enum(FORMATS).default('csv'),
  /** Epoch ms; both or neither. */
  from: z.coerce.number().optional(),
  to: z.coerce.number().optional(),
});

/** @param what is exported, for the sentence when it is not there */
export async function exportAnswer(
  request: Request,
  what: string,
  exportIt: (format: ExportFormat, span: Span | null) => Promise<Exported | null>,
): Promise<Response> {
  const query = querySchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!query.success)
    return Response.json(
      { error: 'Ask for csv or parquet, and for a span by from and to.' },
      { status: 400 },
    );
  const { format, from, to } = query.data;
  const exported = await exportIt(format, from !== undefined && to !== undefined ? { from, to } : null);
  if (!exported) return notFound(what);
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
