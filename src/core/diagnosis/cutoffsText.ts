/** What discharging and the cut-offs show, in sentences: for the step, the report and the terminal. */

import type { CutReason } from '../cutoff/types';
import { median } from '../quantity/numbers';
import { END_OF_LIFE } from '../capacity/plan';
import { ampHours, amps, counted, duration, percent, volts } from '../quantity/text';
import { HOUR, MINUTE } from '../quantity/span';
import type { CutOffOut, Diagnosis } from './result';

export const REASON_WORDS: Record<CutReason, string> = {
  volts: 'low voltage',
  percent: 'percentage',
  surge: 'starting current',
  'cell-low': 'a low cell',
  cold: 'cold',
  unknown: 'not known',
};

/** @param nameOf name of a device by its id */
export const cutterName = ({ by }: CutOffOut, nameOf: (id: string) => string): string =>
  by === 'bms' ? 'the BMS' : by === 'unknown' ? 'a cutter not known' : nameOf(by);

/** Whether a resistance moves over the log, as a sentence of its own; nothing where it cannot be told. */
function trendText({
  milliohms,
  trend,
}: Pick<NonNullable<Diagnosis['discharge']>['paths'][number], 'milliohms' | 'trend'>): string {
  if (!trend) return '';
  const part = (100 * Math.abs(trend.aMonth)) / milliohms;
  return trend.moves
    ? ` Over this log it ${trend.aMonth > 0 ? 'rises' : 'falls'} by ${percent(part)} a month (± ${Math.round((100 * trend.band) / milliohms)}).`
    : ' It stays the same over this log.';
}

type FromFull = NonNullable<Diagnosis['discharge']>['fromFull'][number];
const deepest = (all: readonly FromFull[]): FromFull | undefined =>
  all.reduce<FromFull | undefined>(
    (most, one) => (one.percentOut > (most?.percentOut ?? 0) ? one : most),
    undefined,
  );

/** One cut-off in a line: what was shown and what was there. */
export function cutoffText(one: CutOffOut, nameOf: (id: string) => string): string {
  const parts = [
    one.socShown === null ? null : `${percent(one.socShown)} shown`,
    one.socTrue === null ? null : `${percent(one.socTrue)} held (± ${Math.round(one.socBand ?? 0)})`,
    one.volts === null ? null : `${volts(one.volts)} at the battery`,
    one.loadVolts === null ? null : `${volts(one.loadVolts)} at the load`,
    one.amps === null ? null : `${amps(one.amps)} drawn`,
    one.minCellVolts === null
      ? null
      : `cell ${one.lowestCell ?? ''} at ${one.minCellVolts.toFixed(2)} V, mean ${one.meanCellVolts?.toFixed(2) ?? '–'} V`,
    one.restVolts === null ? null : `back to ${volts(one.restVolts)} with the load away`,
    one.minutesAway === null
      ? 'not on again in this log'
      : `on again after ${duration(one.minutesAway * MINUTE)}`,
  ].filter((text) => text !== null);
  return `By ${cutterName(one, nameOf)}, for ${REASON_WORDS[one.why]}${one.trips > 1 ? ` (${one.trips} trips)` : ''}: ${parts.join(', ')}.`;
}

export function cutoffsText(
  { cutoffs, nearMisses, discharge }: Pick<Diagnosis, 'cutoffs' | 'nearMisses' | 'discharge'>,
  nameOf: (id: string) => string,
): string[] {
  if (!discharge) return [];
  const lines: string[] = [];
  const reasons = new Map<string, number>();
  for (const one of cutoffs) {
    const key = `${cutterName(one, nameOf)} for ${REASON_WORDS[one.why]}`;
    reasons.set(key, (reasons.get(key) ?? 0) + 1);
  }
  lines.push(
    cutoffs.length === 0
      ? 'Nothing was cut off in these logs.'
      : reasons.size === 1
        ? `${counted(cutoffs.length, 'cut-off')}, by ${[...reasons.keys()][0]!}.`
        : `${counted(cutoffs.length, 'cut-off')}: ${[...reasons].map(([key, count]) => `${count} by ${key}`).join(', ')}.`,
  );
  const doubtful = cutoffs.filter((one) => one.doubtful).length;
  if (doubtful > 0)
    lines.push(
      `${doubtful === cutoffs.length ? 'They' : `${doubtful} of them`} ended a little above what the load is set to, after the same time again and again: a clock may have ended them as well. They count as cut-offs because of the complaint; ask what switches that load.`,
    );
  if (nearMisses.length > 0) {
    const closest = nearMisses.reduce((a, b) => (b.volts - b.limit < a.volts - a.limit ? b : a));
    lines.push(
      `${counted(nearMisses.length, 'near miss', 'near misses')}: near a limit and back; the nearest by ${closest.by === 'bms' ? 'the BMS' : nameOf(closest.by)}, at ${volts(closest.volts)}, with its limit at ${volts(closest.limit)}.`,
    );
  }
  const audited = cutoffs.filter((one) => one.promisedHours !== null);
  if (audited.length > 0) {
    const promised = median(audited.map((one) => one.promisedHours!));
    lines.push(
      `An hour before, the reading promised ${duration(promised * HOUR)} to go as a rule (${counted(audited.length, 'cut-off')}): ${promised > 2 ? 'far too much' : promised < 0.5 ? 'less than there was' : 'about right'}.`,
    );
  }
  const missed = cutoffs.reduce((sum, one) => sum + (one.missedWh ?? 0), 0);
  if (missed >= 1)
    lines.push(
      `Not delivered while the loads were off: about ${missed >= 1000 ? `${(missed / 1000).toFixed(1)} kWh` : `${Math.round(missed)} Wh`}.`,
    );
  const { resistance, paths, fromFull } = discharge;
  const last = fromFull.findLast((one) => one.holds !== null) ?? deepest(fromFull);
  if (last) {
    const out = `${ampHours(last.ampHours)}${last.wattHours === null ? '' : ` (${(last.wattHours / 1000).toFixed(2)} kWh)`}`;
    lines.push(
      last.holds
        ? `From full to empty it gave ${out} at ${amps(last.amps)}: ${percent(last.holds.percent)} of the rating at 25 °C and the rated current (± ${Math.round(last.holds.band)})${last.holds.percent + last.holds.band < END_OF_LIFE ? `, under ${END_OF_LIFE} %: at its end` : ''}.`
        : `The deepest discharge from full gave ${out} at ${amps(last.amps)}, ${percent(last.percentOut)} of the rating at 25 °C, and did not empty it.`,
    );
  }
  if (resistance)
    lines.push(
      `By ${resistance.steps} steps of its current the battery has ${resistance.milliohms.toFixed(1)} mΩ (± ${resistance.band.toFixed(1)}); a good one of its size has about ${resistance.usualMilliohms.toFixed(1)} mΩ.${trendText(resistance)}`,
    );
  for (const { load, milliohms, band, lostVolts, amps: drawn, trend } of paths)
    lines.push(
      `Between battery and ${nameOf(load)} lie ${milliohms.toFixed(1)} mΩ (± ${band.toFixed(1)}): ${volts(lostVolts)} and ${Math.round(Math.abs(lostVolts * drawn))} W are lost at ${amps(drawn)}.${trendText({ milliohms, trend })}`,
    );
  return lines;
}
