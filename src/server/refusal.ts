/** What is answered when something asked cannot be done: always a sentence, and never more than the one who asks may know. */

import { z } from 'zod';
import { BundleError } from '@/core/bundle/read';
import { NotALog } from '@/core/log/sniff';
import { problemsOf, type Problems } from '@/core/system/check';
import { firstRefusal } from '@/core/system/placeNames';
import { brokenPromise } from '@/store/database';
import { TooMuch } from './threads';

export interface RefusalBody {
  error: string;
  /** By field, for forms. */
  problems?: Problems;
}

export class Refusal extends Error {
  readonly body: RefusalBody;
  constructor(
    readonly status: number,
    error: string,
    more: Omit<RefusalBody, 'error'> = {},
  ) {
    super(error);
    this.body = { error, ...more };
  }
}

/** What a schema refused, with the problems by field. */
export const refusalOf = (error: z.ZodError): Refusal =>
  new Refusal(400, firstRefusal(error), { problems: problemsOf(error) });

export const gone = (what: string): Refusal =>
  new Refusal(404, `There is no such ${what}: it may have been removed.`);

/** Codes with which a database says that it is not to be had just now. */
const AWAY = /^(ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT|57P0\d|53\d{3}|08\d{3})$/;

/** Whatever was thrown, as an answer. A fault of ours is written to the log of the server, and told without its details. */
export function answerTo(error: unknown): Response {
  const { status, body } = asRefusal(error);
  return Response.json(body, {
    status,
    headers: { 'cache-control': 'no-store', ...(status === 503 ? { 'retry-after': '5' } : {}) },
  });
}

function asRefusal(error: unknown): Refusal {
  if (error instanceof Refusal) return error;
  if (error instanceof z.ZodError) return refusalOf(error);
  if (error instanceof TooMuch) return new Refusal(503, error.message);
  if (error instanceof NotALog || error instanceof BundleError) return new Refusal(400, error.message);
  const { code = '', message = '' } = error as { code?: string; message?: string };
  if (AWAY.test(code) || /timeout exceeded when trying to connect|Connection terminated/.test(message))
    return new Refusal(503, 'The database cannot be reached. Nothing was changed; try again in a moment.');
  if (brokenPromise(error))
    return new Refusal(409, 'Somebody else has just changed the same. Load the page anew and try again.');
  console.error(error);
  return new Refusal(
    500,
    'Something failed on the server, and nothing was changed. Try again; if it stays so, tell whoever looks after the server.',
  );
}
