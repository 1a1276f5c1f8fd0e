/** A system as it was set while its logs ran: what was changed for the record after that is taken back. */

import { dayText } from '../quantity/text';
import type { Change } from '../bundle/schema';
import { sameValue } from './merge';
import { valueAt, withValue } from './paths';
import { type System, systemSchema } from './schema';

export interface AsItWas {
  system: System;
  /** What was taken back, the latest first. */
  since: Change[];
}

/**
 * A change is taken back where the setting still is what it was changed to; one that the description has overtaken is left alone.
 * @param changes of the record, in any order
 * @param moment epoch ms; infinite for today; what was changed on that day or before is in force
 */
export function asItWas(system: System, changes: readonly Change[], moment: number): AsItWas {
  if (!Number.isFinite(moment)) return { system, since: [] };
  const day = new Date(moment).toLocaleDateString('sv', { timeZone: system.timeZone });
  const later = changes
    .filter((one) => one.on > day)
    .sort((a, b) => (a.on < b.on ? 1 : a.on > b.on ? -1 : 0));
  let was = system;
  const since: Change[] = [];
  for (const change of later) {
    if (!sameValue(valueAt(was, change.path) ?? null, change.after)) continue;
    const before = systemSchema.safeParse(withValue(was, change.path, change.before ?? undefined));
    if (!before.success) continue;
    was = before.data;
    since.push(change);
  }
  return { system: was, since };
}

/** "The settings were changed after most of these logs (Monitor: Tail current, 12 November 2026): …"; null where nothing was taken back. */
export function sinceSentence(since: readonly Change[]): string | null {
  if (since.length === 0) return null;
  const each = since.map(({ label, before, after, unit, on }) => {
    const figure = (value: Change['before']) =>
      value === null ? 'none' : `${value}${unit ? ` ${unit}` : ''}`;
    return `${label} from ${figure(before)} to ${figure(after)} on ${dayText(on)}`;
  });
  return `Settings were changed after most of these logs: ${each.join('; ')}. The logs are judged by the settings before.`;
}
