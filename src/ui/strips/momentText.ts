import { DateTime } from 'luxon';

/** A moment as it stands beside a strip: "Mon 21 Sep 2026 14:05". */
export const momentText = (ms: number, zone: string): string =>
  DateTime.fromMillis(ms, { zone }).toFormat('ccc d LLL yyyy HH:mm');
