/** A device that is made from its log, before anybody has described it: its name is all that is known. */

import { devicesOf, type System } from './schema';

export const NEW_DEVICES = ['source', 'monitor', 'bms'] as const;
export type NewDevice = (typeof NEW_DEVICES)[number];

/** The id that a new device of a kind gets: a monitor and a BMS there is one of. Null when there is one already. */
export function idForNew(system: System, kind: NewDevice): string | null {
  const taken = new Set(devicesOf(system).map((one) => one.id));
  if (kind !== 'source') return taken.has(kind) ? null : kind;
  for (let nth = 1; ; nth++) {
    const id = nth === 1 ? 'charger' : `charger-${nth}`;
    if (!taken.has(id)) return id;
  }
}

export function withDevice(system: System, id: string, kind: NewDevice): System {
  if (kind !== 'source') return { ...system, [kind]: {} };
  const nth = /-(\d+)$/.exec(id)?.[1];
  return {
    ...system,
    sources: [
      ...system.sources,
      { id, name: nth ? `Charger ${nth}` : 'Charger', profile: {}, counted: null },
    ],
  };
}
