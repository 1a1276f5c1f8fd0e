/** Temperatures that a battery can have at a moment, by the place's coldest and warmest of the year and the season. */

import { DAY } from '../quantity/span';
import type { Range } from './chemistry';
import type { System } from './schema';

/** Time zones of the south of America, Africa and Asia, where July is winter. */
const SOUTH =
  /^(Australia|Antarctica)\/|^America\/(Argentina|Buenos_Aires|Sao_Paulo|Santiago|Punta_Arenas|Montevideo|Asuncion|La_Paz|Lima|Cuiaba|Campo_Grande)|^Africa\/(Johannesburg|Harare|Maputo|Windhoek|Gaborone|Lusaka|Maseru|Mbabane|Luanda)|^Pacific\/(Auckland|Chatham|Fiji|Tongatapu|Noumea)|^Indian\/(Antananarivo|Mauritius|Reunion)/;

/** The warmest days of the north come about three weeks after midsummer. */
const WARMEST = Date.UTC(2026, 6, 15);
const YEAR = 365.25 * DAY;
/** In midwinter the warmest part of the yearly range does not come, in midsummer the coldest: so much of it (common practice, no source). */
const OUT_OF_SEASON = 0.3;

/** °C at a moment, from the range of the year; an end that is not told stays unknown. @param ms epoch */
export function celsiusAt({ site, timeZone }: Pick<System, 'site' | 'timeZone'>, ms: number): Partial<Range> {
  const { coldestC, warmestC } = site ?? {};
  if (coldestC === undefined || warmestC === undefined)
    return {
      ...(coldestC === undefined ? {} : { min: coldestC }),
      ...(warmestC === undefined ? {} : { max: warmestC }),
    };
  const phase = Math.cos((2 * Math.PI * (ms - WARMEST)) / YEAR);
  const summer = (1 + (SOUTH.test(timeZone) ? -phase : phase)) / 2;
  const out = OUT_OF_SEASON * (warmestC - coldestC);
  return { min: coldestC + out * summer, max: warmestC - out * (1 - summer) };
}
