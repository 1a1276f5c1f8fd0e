/**
 * The one way to ask the server for something: its answer is checked, and what went wrong is a sentence. Reading is tried again when the
 * server was not reached; what changes something is not, for it may have been done.
 */

export type Answer<T> =
  | { ok: true; value: T }
  /** `problems` by the names of fields, where the server names them. */
  | { ok: false; problem: string; problems: Readonly<Record<string, string>> };

const failed = (problem: string, problems: Readonly<Record<string, string>> = {}) =>
  ({ ok: false, problem, problems }) as const;

/** What checks an answer: a Zod schema, or {@link ANYTHING}. */
export interface Checks<T> {
  safeParse(value: unknown): { success: true; data: T } | { success: false };
}

/** Where only that it was done is of interest. */
export const ANYTHING: Checks<unknown> = { safeParse: (data) => ({ success: true, data }) };

const UNREACHED = 'The server could not be reached. Try again.';
const STRANGE = 'The server’s answer was not understood. Load the page anew and try again.';

/** Pauses before reading is tried again, ms. */
const PAUSES = [300, 1200];
const AWAY = [502, 503, 504];

interface Asked {
  method?: string;
  /** Sent as JSON where there is one. */
  body?: unknown;
  signal?: AbortSignal;
}

/** @param schema what the answer must look like; a server that answers with no body is asked with {@link ANYTHING} */
export async function ask<T>(
  url: string,
  schema: Checks<T>,
  { method = 'GET', body, signal }: Asked = {},
): Promise<Answer<T>> {
  const response = await reached(url, {
    method,
    ...(signal ? { signal } : {}),
    ...(body === undefined
      ? {}
      : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
  });
  if (!response) return failed(UNREACHED);
  const answer: unknown = await response.json().catch(() => null);
  if (!response.ok) {
    const { error, problems } = (answer !== null && typeof answer === 'object' ? answer : {}) as Refused;
    return failed(typeof error === 'string' ? error : UNREACHED, sentencesOf(problems));
  }
  const parsed = schema.safeParse(answer);
  return parsed.success ? { ok: true, value: parsed.data } : failed(STRANGE);
}

interface Refused {
  error?: unknown;
  problems?: unknown;
}

const sentencesOf = (problems: unknown): Record<string, string> =>
  problems !== null && typeof problems === 'object'
    ? Object.fromEntries(
        Object.entries(problems).filter((one): one is [string, string] => typeof one[1] === 'string'),
      )
    : {};

/** Null when the server was not reached. */
async function reached(url: string, init: RequestInit & { method: string }): Promise<Response | null> {
  const pauses = init.method === 'GET' ? PAUSES : [];
  for (let tried = 0; ; tried++) {
    const response = await fetch(url, init).catch(() => null);
    const pause = pauses[tried];
    if (response && !(AWAY.includes(response.status) && pause !== undefined)) return response;
    if (pause === undefined || init.signal?.aborted) return response;
    await new Promise((done) => setTimeout(done, pause));
  }
}
