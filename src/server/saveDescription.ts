/** Saves a system or a job that a form has changed, refusing what the form would refuse, with the same sentences. */

import type { z } from 'zod';
import { problemsOf, type Problems } from '@/core/system/check';
import { jobSchema, systemSchema } from '@/core/system/schema';
import type { Store } from '@/store/database';
import { type Saved, saveJob, saveSystem } from '@/store/jobs';

/** What came of it, as an HTTP answer: 200 the new version, 400 problems by field, 404, 409 what stands there now. */
export type SaveAnswer =
  | { status: 200; body: { version: number } }
  | { status: 400; body: { problems: Problems } }
  | { status: 404; body: { error: string } }
  | { status: 409; body: { version: number; value: unknown } };

interface Kind<T> {
  schema: z.ZodType<T>;
  save(store: Store, id: string, base: number, value: T): Promise<Saved<T>>;
}

const system: Kind<z.infer<typeof systemSchema>> = { schema: systemSchema, save: saveSystem };
const job: Kind<z.infer<typeof jobSchema>> = { schema: jobSchema, save: saveJob };

async function save<T>(kind: Kind<T>, store: Store, id: string, request: unknown): Promise<SaveAnswer> {
  const { base, value } = (request ?? {}) as { base?: unknown; value?: unknown };
  if (typeof base !== 'number')
    return { status: 400, body: { problems: { '': 'The request does not say which version was changed.' } } };
  const parsed = kind.schema.safeParse(value);
  if (!parsed.success) return { status: 400, body: { problems: problemsOf(parsed.error) } };
  const saved = await kind.save(store, id, base, parsed.data);
  if (!saved) return { status: 404, body: { error: 'It is not there any more: it may have been removed.' } };
  return 'conflict' in saved
    ? { status: 409, body: saved.conflict }
    : { status: 200, body: { version: saved.version } };
}

export const saveSystemDescription = (store: Store, id: string, request: unknown) =>
  save(system, store, id, request);
export const saveJobDescription = (store: Store, id: string, request: unknown) =>
  save(job, store, id, request);
