/** What absorption is short of: by how the current fell, the minutes and ampere-hours to the tail of a full battery. */

import { quantile } from '../quantity/numbers';
import { fullTailAmps, type Range } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import { forecastTail } from './tail';
import type { Charge } from './types';

export interface Missing {
  /** Charges that it was worked out from. */
  charges: number;
  /** Medians, with the middle half of the charges about them. */
  minutes: number;
  minutesBand: Range;
  ampHours: number;
  ampHoursBand: Range;
}

/** Null where no absorption that the charger itself ended shows a falling battery current, or where it would never come down so far. */
export function missingOf(charges: readonly Charge[], bank: KnownBank): Missing | null {
  const tailAmps = fullTailAmps(bank);
  const forecasts = charges.flatMap(({ stages }) =>
    stages.flatMap((stage, i) => {
      if (stage.stage !== 'absorption' || stages[i + 1]?.stage !== 'float' || stage.cutOff) return [];
      if (!stage.tail || !stage.endAmpsAreBattery) return [];
      const { minutes, ampHours } = forecastTail(stage.tail, stage.endAmps, tailAmps);
      return minutes === null || ampHours === null ? [] : [{ minutes, ampHours }];
    }),
  );
  if (forecasts.length === 0) return null;
  const at = (of: 'minutes' | 'ampHours', q: number) =>
    quantile(
      Float64Array.from(forecasts, (one) => one[of]),
      q,
    );
  const band = (of: 'minutes' | 'ampHours') => ({ min: at(of, 0.25), max: at(of, 0.75) });
  return {
    charges: forecasts.length,
    minutes: at('minutes', 0.5),
    minutesBand: band('minutes'),
    ampHours: at('ampHours', 0.5),
    ampHoursBand: band('ampHours'),
  };
}
