/** Names of time zones. */

import { IANAZone } from 'luxon';

export function isTimeZone(name: string): boolean {
  return IANAZone.isValidZone(name);
}
