/** What route handlers share: reading a JSON body, and refusing what comes from another site. */

import { Readable } from 'node:stream';
import type { ReadableStream as WebStream } from 'node:stream/web';

/** The body as JSON; undefined when it is none. */
export async function jsonBody(request: Request): Promise<unknown> {
  try {
    return await request.json();
  } catch {
    return undefined;
  }
}

/** Requests that change something must come from the application's own pages. */
export function refuseForeign(request: Request): Response | null {
  const site = request.headers.get('sec-fetch-site');
  if (site === null || site === 'same-origin' || site === 'none') return null;
  return Response.json({ error: 'This request came from another site and was refused.' }, { status: 403 });
}

/** The body as bytes, up to a limit; null when it is larger. */
export async function limitedBody(request: Request, most: number): Promise<Uint8Array | null> {
  if (Number(request.headers.get('content-length') ?? 0) > most) return null;
  const chunks: Uint8Array[] = [];
  let total = 0;
  if (!request.body) return new Uint8Array();
  for await (const chunk of Readable.fromWeb(request.body as WebStream) as AsyncIterable<Uint8Array>) {
    total += chunk.length;
    if (total > most) return null;
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}

export const notFound = (what: string): Response =>
  Response.json({ error: `There is no such ${what}: it may have been removed.` }, { status: 404 });
