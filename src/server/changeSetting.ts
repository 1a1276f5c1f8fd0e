/** Changes one setting of a device for the record: the description and the record go together, or not at all. */

import { z } from 'zod';
import { problemsOf, type Problems } from '@/core/system/check';
import { fieldAt, FIELDS } from '@/core/system/fields';
import { sameValue } from '@/core/system/merge';
import { valueAt, withValue } from '@/core/system/paths';
import { type System, systemSchema } from '@/core/system/schema';
import { deleteChange, insertChange, type StoredChange } from '@/store/changes';
import type { Store } from '@/store/database';
import { findSystem, saveSystem } from '@/store/jobs';

const requestSchema = z.object({
  base: z.number(),
  path: z.string().refine((path) => path.replace(/\.\d+(?=\.|$)/g, '.*') in FIELDS, {
    error: 'There is no such setting.',
  }),
  /** null: it is switched off, or not known any more. */
  after: z.union([z.number(), z.string(), z.null()]),
  why: z.string().trim().min(1, { error: 'Say why: whoever comes next will want to know.' }).max(2000),
  on: z.iso.date({ error: 'Write the date as year-month-day, such as 2026-10-19.' }),
});

export type ChangeAnswer =
  | { version: number; system: System; change: StoredChange }
  | { problems: Problems }
  | { conflict: { version: number; value: System } }
  | null;

/** "Monitor: Charged voltage" */
export function settingLabel(system: System, path: string): string {
  const [list, index] = path.split('.') as [string, string];
  const devices: Record<string, string> = { bank: 'Battery', monitor: 'Monitor', bms: 'BMS', site: 'Site' };
  const name = list === 'sources' || list === 'loads' ? system[list][Number(index)]?.name : devices[list];
  return `${name ?? list}: ${fieldAt(path).label}`;
}

/** Null when there is no such system. */
export async function changeSetting(store: Store, systemId: string, request: unknown): Promise<ChangeAnswer> {
  const parsed = requestSchema.safeParse(request);
  if (!parsed.success) return { problems: problemsOf(parsed.error) };
  const { base, path, after, why, on } = parsed.data;
  const found = await findSystem(store, systemId);
  if (!found) return null;
  if (found.version !== base) return { conflict: { version: found.version, value: found.system } };
  const before = valueAt(found.system, path) ?? null;
  const changed = systemSchema.safeParse(withValue(found.system, path, after ?? undefined));
  if (!changed.success) return { problems: { after: Object.values(problemsOf(changed.error))[0]! } };
  return store.transaction().execute(async (transaction) => {
    const saved = await saveSystem(transaction, systemId, base, changed.data);
    if (!saved || 'conflict' in saved) return saved;
    const change = {
      on,
      path,
      label: settingLabel(found.system, path),
      unit: fieldAt(path).unit,
      before: typeof before === 'number' || typeof before === 'string' ? before : null,
      after,
      why,
    };
    const id = await insertChange(transaction, systemId, change);
    return { version: saved.version, system: changed.data, change: { id, ...change } };
  });
}

/**
 * Takes a change off the record and, while the setting is still as it was changed to, puts it back.
 * Null when there is no such change.
 */
export async function undoChange(
  store: Store,
  systemId: string,
  changeId: string,
): Promise<{ version: number; system: System } | null> {
  return store.transaction().execute(async (transaction) => {
    const change = await deleteChange(transaction, systemId, changeId);
    const found = await findSystem(transaction, systemId);
    if (!change || !found) return null;
    const unchanged = { version: found.version, system: found.system };
    if (!sameValue(valueAt(found.system, change.path) ?? null, change.after)) return unchanged;
    const back = systemSchema.safeParse(withValue(found.system, change.path, change.before ?? undefined));
    if (!back.success) return unchanged;
    const saved = await saveSystem(transaction, systemId, found.version, back.data);
    return saved && 'version' in saved ? { version: saved.version, system: back.data } : unchanged;
  });
}
