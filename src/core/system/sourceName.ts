/** How a device is called where only its id is at hand. */

import type { System } from './schema';

export const sourceName = ({ sources }: Pick<System, 'sources'>, id: string | null): string =>
  sources.find((one) => one.id === id)?.name ?? 'Source not known';

/** Devices of which there is one: their logs may be there before anybody has described them. */
const SINGLE: ReadonlyMap<string, string> = new Map([
  ['monitor', 'Monitor'],
  ['bms', 'BMS'],
]);

/** Name of a source, a load, the monitor, the BMS or one of several batteries by its id, as in a list. */
export const deviceName = (system: System, id: string): string =>
  SINGLE.get(id) ??
  [...system.loads, ...(system.batteries ?? [])].find((one) => one.id === id)?.name ??
  sourceName(system, id);
