/** Whether a monitor counts by a sensor in the battery's lead. */

import type { Monitor } from './schema';

/** Only such a sensor can be bypassed: a charger's own count sees no other device, however it is wired, and the voltage sees no current. */
export const hasSensor = ({ method }: Pick<Monitor, 'method'>): boolean =>
  method !== 'voltage' && method !== 'source-count';
