/** Local clock readings to UTC, across changes of the clock. */

import { IANAZone } from 'luxon';
import { HOUR, MINUTE } from '../quantity/span';

/** Minutes to add to UTC to get the zone's clock at a moment. */
export function zoneOffsetMinutes(zone: string, utc: number): number {
  return IANAZone.create(zone).offset(utc);
}

/**
 * Makes a converter from local readings (epoch ms as if the clock were UTC) to UTC, to be called in file order: when the clock
 * is set back and an hour comes twice, order decides which one is meant; a reading in the skipped hour is taken as if the
 * clock had not yet been set forward.
 */
export function localClock(zone: string): (localMs: number) => number {
  const iana = IANAZone.create(zone);
  if (!iana.isValid) throw new Error(`"${zone}" is not a time zone: use a name such as "Europe/Rome".`);
  let hour = NaN;
  let plain = false;
  let offset = 0;
  let previous = -Infinity;
  return (localMs) => {
    const thisHour = Math.floor(localMs / HOUR);
    if (thisHour !== hour) {
      hour = thisHour;
      const before = iana.offset(localMs - 26 * HOUR);
      const after = iana.offset(localMs + 26 * HOUR);
      plain = before === after;
      offset = before * MINUTE;
    }
    let utc = localMs - offset;
    if (!plain) {
      const early = localMs - iana.offset(localMs - 26 * HOUR) * MINUTE;
      const late = localMs - iana.offset(localMs + 26 * HOUR) * MINUTE;
      const agrees = (candidate: number) => candidate + iana.offset(candidate) * MINUTE === localMs;
      if (agrees(early) && agrees(late))
        utc = Math.min(early, late) > previous ? Math.min(early, late) : Math.max(early, late);
      else utc = agrees(late) ? late : early;
    }
    previous = utc;
    return utc;
  };
}
