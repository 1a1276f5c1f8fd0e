/** Changes one setting of a device for the record: the description and the record go together, or not at all. */

import type { z } from 'zod';
import { problemsOf } from '@/core/system/check';
import { fieldAt } from '@/core/system/fields';
import { sameValue } from '@/core/system/merge';
import { valueAt, withValue } from '@/core/system/paths';
import { type System, systemSchema } from '@/core/system/schema';
import { deleteChange, insertChange, type StoredChange } from '@/store/changes';
import type { Store } from '@/store/database';
import { findSystem, saveSystem } from '@/store/jobs';
import type { changeRequestSchema } from './doors';
import { gone, Refusal } from './refusal';

const DEVICES: ReadonlyMap<string, string> = new Map([
  ['bank', 'Battery'],
  ['monitor', 'Monitor'],
  ['bms', 'BMS'],
  ['site', 'Site'],
]);

export interface Changed {
  version: number;
  system: System;
  change: StoredChange;
}

/** A setting of a monitor or a BMS is one only where there is such a device. */
const isOfThisSystem = (system: System, path: string): boolean => {
  const [device] = path.split('.');
  return !(device === 'monitor' && !system.monitor) && !(device === 'bms' && !system.bms);
};

/** "Monitor: Charged voltage" */
export function settingLabel(system: System, path: string): string {
  const [list, index] = path.split('.') as [string, string];
  const name = list === 'sources' || list === 'loads' ? system[list][Number(index)]?.name : DEVICES.get(list);
  return `${name ?? list}: ${fieldAt(path).label}`;
}

/** `{ version, system, change }`; 409 with what stands there now. @throws Refusal */
export async function changeSetting(
  store: Store,
  systemId: string,
  { base, path, after, why, on }: z.output<typeof changeRequestSchema>,
): Promise<Changed | Response> {
  const found = await findSystem(store, systemId);
  if (!found) throw gone('system');
  if (found.version !== base)
    return Response.json({ version: found.version, value: found.system }, { status: 409 });
  const before = valueAt(found.system, path) ?? null;
  const next = isOfThisSystem(found.system, path) ? withValue(found.system, path, after ?? undefined) : null;
  if (!next) throw new Refusal(400, 'This system has no such setting: load the page anew.');
  const changed = systemSchema.safeParse(next);
  if (!changed.success) {
    const error = Object.values(problemsOf(changed.error))[0]!;
    throw new Refusal(400, error, { problems: { after: error } });
  }
  return store.transaction().execute(async (transaction) => {
    const saved = await saveSystem(transaction, systemId, base, changed.data);
    if (!saved) throw gone('system');
    if ('conflict' in saved) return Response.json(saved.conflict, { status: 409 });
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
    const isStill = sameValue(valueAt(found.system, change.path) ?? null, change.after);
    const put = isStill ? withValue(found.system, change.path, change.before ?? undefined) : null;
    const back = systemSchema.safeParse(put ?? undefined);
    const system = back.success ? back.data : found.system;
    // A new version in any case: logs are judged by the record too.
    const saved = await saveSystem(transaction, systemId, found.version, system);
    return saved && 'version' in saved
      ? { version: saved.version, system }
      : { version: found.version, system: found.system };
  });
}
