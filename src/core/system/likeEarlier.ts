/** A new system described after an earlier one of the same make: what is usual of its kind is kept, what belongs to the other site is not. */

import type { Source, System } from './schema';

/** @param name and time zone of the new system. What has to be seen on site (who is counted, dates, owner) is left open. */
export function likeEarlier(earlier: System, name: string, timeZone: string): System {
  const { bank, sources, loads, monitor, bms, batteries, schools } = structuredClone(earlier);
  delete bank.installedOn;
  if (bank.equalise) delete bank.equalise.lastOn;
  const unseen = <D extends Pick<Source, 'counted' | 'conductor'>>(device: D): D => {
    delete device.conductor;
    return { ...device, counted: null };
  };
  return {
    name,
    timeZone,
    bank,
    sources: sources.map(unseen),
    loads: loads.map(unseen),
    ...(monitor ? { monitor } : {}),
    ...(bms ? { bms } : {}),
    ...(batteries ? { batteries } : {}),
    ...(schools ? { schools } : {}),
  };
}
