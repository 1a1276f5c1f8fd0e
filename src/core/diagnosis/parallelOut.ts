/** Batteries in parallel beside each other: for the result, and in sentences. */

import type { BatteryBeside, BatteryVerdict } from '../parallel/beside';
import { isoSpan } from '../quantity/span';
import type { BatteryOut } from './result';
import { rounded, roundedOrNull } from './rounded';

export const BATTERY_WORDS: Record<BatteryVerdict, string> = {
  shares: 'shares',
  'too-little': 'carries too little',
  'too-much': 'carries too much',
  out: 'stood out',
  unknown: 'not known',
};

export const parallelOut = (batteries: readonly BatteryBeside[]): BatteryOut[] =>
  batteries.map((one) => ({
    battery: one.id,
    name: one.name,
    givenPercent: roundedOrNull(100 * one.given, 1),
    takenPercent: roundedOrNull(100 * one.taken, 1),
    partPercent: rounded(100 * one.part, 1),
    percentApart: roundedOrNull(one.percentApart, 1),
    millivoltsApart: roundedOrNull(1000 * one.voltsApart, 0),
    hoursOut: roundedOrNull(one.hoursOut, 1),
    out: one.out.map(isoSpan),
    verdict: one.verdict,
  }));

/** Percentages that part by more are not of one bank any more (common practice, no source), points. */
const APART = 10;

export function parallelText(batteries: readonly BatteryOut[]): string[] {
  const lines = batteries.flatMap((one): string[] => {
    const shares = [
      one.givenPercent === null ? null : `gives ${Math.round(one.givenPercent)} %`,
      one.takenPercent === null ? null : `takes ${Math.round(one.takenPercent)} %`,
    ].filter((text) => text !== null);
    const part = `of the current, where ${Math.round(one.partPercent)} % is its part`;
    if (one.verdict === 'out')
      return [
        `${one.name} carried next to nothing for ${one.hoursOut?.toFixed(1)} h while the others worked: its BMS was open, its switch off, or a joint has parted. Read its state at the battery itself.`,
      ];
    if (one.verdict === 'too-little')
      return [
        `${one.name} ${shares.join(' and ')} ${part}: a poor joint, a longer or thinner cable, or an older battery. Compare cables and joints with those of the others.`,
      ];
    if (one.verdict === 'too-much')
      return [`${one.name} ${shares.join(' and ')} ${part}: it works for the others and ages before them.`];
    return [];
  });
  const apart = batteries.map((one) => one.percentApart).filter((one) => one !== null);
  const most = Math.max(0, ...apart.map(Math.abs));
  if (most > APART)
    lines.push(
      `The batteries’ own percentages stand ${Math.round(most)} points apart: batteries that share a busbar share a voltage, so a count among them is off, or one stood out. Charge until each is full; then they agree, or one of them counts wrong.`,
    );
  if (lines.length === 0 && batteries.some((one) => one.verdict === 'shares'))
    lines.push('The batteries share the current as they should.');
  return lines;
}
