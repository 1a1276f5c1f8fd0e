/** Which settings a monitor has by the way it makes its reading: nobody is asked for a criterion that the device does not use. */

import type { Monitor } from '../schema';

/** By which a counting monitor calls the battery full, and what it does not count. */
const OF_A_SHUNT: readonly string[] = ['chargedV', 'tailPercent', 'detectionMinutes', 'thresholdA'];
/** Of any device that counts. */
const OF_A_COUNT: readonly string[] = ['capacityAh', 'efficiencyPercent', 'peukert', 'startPercent'];

/** @param setting of the monitor, `tailPercent` */
export function isAsked(method: Monitor['method'], setting: string): boolean {
  if (method === 'voltage') return !OF_A_SHUNT.includes(setting) && !OF_A_COUNT.includes(setting);
  return method !== 'source-count' || !OF_A_SHUNT.includes(setting);
}
