/** What a photo of a visit shows, and whether it was taken before or after a change. */

import { devicesOf, type System } from '../system/schema';

export const MOMENTS = ['before', 'after'] as const;
export type Moment = (typeof MOMENTS)[number];

const ITEM = /^shows-([a-z0-9][a-z0-9-]{0,63})-(before|after)$/;

export const photoItem = (thing: string, moment: Moment): string => `shows-${thing}-${moment}`;

/** Null where the item is none of a visit. */
export function readPhotoItem(item: string): { thing: string; moment: Moment } | null {
  const found = ITEM.exec(item);
  return found ? { thing: found[1]!, moment: found[2] as Moment } : null;
}

/** What is photographed of every system, and each of its devices with its settings. */
export const photoThings = (system: System): { id: string; name: string }[] => [
  { id: 'posts', name: 'Battery posts and joints' },
  { id: 'switches', name: 'Switches, isolator and fuses' },
  { id: 'shunt', name: 'Shunt or sensor with its conductors' },
  ...devicesOf(system).map(({ id, name, kind }) => ({
    id,
    name: kind === 'load' ? name : `${name}: its settings screens`,
  })),
];
