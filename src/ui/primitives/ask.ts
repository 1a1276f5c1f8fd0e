/** The one way to ask the server for something: its answer is checked, and what went wrong is a sentence. */

import type { z } from 'zod';

export type Answer<T> = { ok: true; value: T } | { ok: false; problem: string };

const UNREACHED = 'The server could not be reached. Try again.';
const STRANGE = 'The server’s answer was not understood. Load the page anew and try again.';

/** @param body sent as JSON where there is one */
export async function ask<T>(
  url: string,
  schema: z.ZodType<T>,
  { method = 'GET', body, signal }: { method?: string; body?: unknown; signal?: AbortSignal } = {},
): Promise<Answer<T>> {
  let response: Response;
  try {
    response = await fetch(url, {
      method,
      ...(signal ? { signal } : {}),
      ...(body === undefined
        ? {}
        : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
    });
  } catch {
    return { ok: false, problem: UNREACHED };
  }
  const answer: unknown = await response.json().catch(() => null);
  if (!response.ok) {
    const said = answer !== null && typeof answer === 'object' && 'error' in answer ? answer.error : null;
    return { ok: false, problem: typeof said === 'string' ? said : UNREACHED };
  }
  const parsed = schema.safeParse(answer);
  return parsed.success ? { ok: true, value: parsed.data } : { ok: false, problem: STRANGE };
}
