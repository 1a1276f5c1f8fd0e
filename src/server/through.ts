/** Around every route: what is asked is checked at its door, and whatever goes wrong is answered with a sentence. */

import { createWriteStream } from 'node:fs';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ReadableStream as WebStream } from 'node:stream/web';
import { z } from 'zod';
import { BadJson, parseJson } from '@/core/quantity/json';
import { type Door, type DoorName, DOORS, mostBytes, tooLarge } from './doors';
import { answerTo, gone, Refusal, refusalOf } from './refusal';
import { clearPath, spoolPath } from './spool';

type Of<K extends DoorName, Part extends keyof Door> = (typeof DOORS)[K] extends { [P in Part]: infer S }
  ? S extends z.ZodType
    ? z.output<S>
    : unknown
  : undefined;

/** What a handler gets: everything checked. */
export interface Asked<K extends DoorName> {
  params: Of<K, 'params'>;
  query: Of<K, 'query'>;
  json: Of<K, 'json'>;
  /** The body, where the door lets bytes in. */
  bytes: (typeof DOORS)[K] extends { bytes: number } ? Uint8Array : undefined;
  /** Path of the body on disk, cleared after, where the door lets a file in. */
  file: (typeof DOORS)[K] extends { file: number } ? string : undefined;
}

/** Lists and values in a body of JSON. */
const BOUNDS = { depth: 24, values: 50_000 };

/** A handler may answer with a Response, or with what is sent as JSON. */
export function through<K extends DoorName>(
  name: K,
  handle: (asked: Asked<K>) => Promise<Response | object | null>,
): (request: Request, context: { params: Promise<unknown> }) => Promise<Response> {
  const door: Door = DOORS[name];
  return async (request, context) => {
    let file: string | undefined;
    try {
      const params = door.params?.safeParse(await context.params);
      if (params && !params.success) throw gone(door.what ?? 'thing');
      const query = door.query?.safeParse(Object.fromEntries(new URL(request.url).searchParams));
      if (query && !query.success) throw refusalOf(query.error);
      file = door.file === undefined ? undefined : await spooled(request, door.file);
      const asked = {
        params: params?.data,
        query: query?.data,
        json: door.json && (await jsonOf(request, door.json)),
        bytes: door.bytes === undefined ? undefined : await bytesOf(request, door.bytes),
        file,
      };
      const answer = await handle(asked as Asked<K>);
      return answer instanceof Response ? answer : Response.json(answer, { headers: FRESH });
    } catch (error) {
      return answerTo(error);
    } finally {
      if (file) await clearPath(file);
    }
  };
}

const FRESH = { 'cache-control': 'no-store' };

async function* limited(request: Request, most: number): AsyncGenerator<Uint8Array> {
  if (Number(request.headers.get('content-length') ?? 0) > most) throw new Refusal(413, tooLarge(most));
  if (!request.body) return;
  let total = 0;
  for await (const chunk of Readable.fromWeb(request.body as WebStream) as AsyncIterable<Uint8Array>) {
    total += chunk.length;
    if (total > most) throw new Refusal(413, tooLarge(most));
    yield chunk;
  }
}

async function bytesOf(request: Request, most: number): Promise<Uint8Array> {
  const chunks: Uint8Array[] = [];
  for await (const chunk of limited(request, most)) chunks.push(chunk);
  return Buffer.concat(chunks);
}

async function jsonOf(request: Request, schema: z.ZodType): Promise<unknown> {
  const bytes = await bytesOf(request, mostBytes({ json: schema }));
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw new Refusal(400, 'What was sent is not text in UTF-8.');
  }
  let value: unknown;
  try {
    value = parseJson(text, BOUNDS);
  } catch (error) {
    if (!(error instanceof BadJson)) throw error;
    throw new Refusal(400, `What was sent cannot be read: ${error.message}.`);
  }
  const parsed = schema.safeParse(value);
  if (!parsed.success) throw refusalOf(stripped(parsed.error));
  return parsed.data;
}

/** Forms know their fields without the envelope of a save. */
function stripped(error: z.ZodError): z.ZodError {
  return new z.ZodError(
    error.issues.map((issue) => ({
      ...issue,
      path: issue.path[0] === 'value' ? issue.path.slice(1) : issue.path,
    })),
  );
}

async function spooled(request: Request, most: number): Promise<string> {
  const path = await spoolPath();
  try {
    await pipeline(Readable.from(limited(request, most)), createWriteStream(path, { mode: 0o600 }));
    return path;
  } catch (error) {
    await clearPath(path);
    throw error;
  }
}
