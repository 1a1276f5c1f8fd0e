/** Batteries in parallel beside each other: what part of the current each carries, and how their percentages and voltages part. */

import { interpolateAt } from '../log/interpolateAt';
import { gapLimit, medianStep } from '../log/grid';
import { isNumber, median } from '../quantity/numbers';
import { HOUR, MINUTE, type Span } from '../quantity/span';
import type { BatteryLog } from './setApart';

export const BATTERY_VERDICTS = ['shares', 'too-little', 'too-much', 'out', 'unknown'] as const;
export type BatteryVerdict = (typeof BATTERY_VERDICTS)[number];

export interface BatteryBeside {
  id: string;
  name: string;
  /** Part of the current that it gave and took, and the part that is its own by the label; NaN where currents were not logged. */
  given: number;
  taken: number;
  part: number;
  /** Points of %, and V, over (+) or under the middle of the others; NaN where not logged. */
  percentApart: number;
  voltsApart: number;
  /** While the others worked it carried next to nothing: its BMS was open, or its switch. */
  out: Span[];
  hoursOut: number;
  /** Hours in which the bank worked. */
  hours: number;
  verdict: BatteryVerdict;
}

/** The bank works at this part of its capacity and more, A. */
const WORKS = 0.03;
/** Of its part a battery carries so little when it is out, for so long. */
const OUT = { carries: 0.1, least: 10 * MINUTE, hours: 1 };
/** Parts of its own part beyond which it does not share as it should (common practice, no source). */
const SHARES = { least: 0.75, most: 1.3 };
/** V are compared where little flows, parts of the capacity. */
const CALM = 0.02;

/** Empty with fewer than two logs. @param capacityAh of the whole bank */
export function besideEachOther(batteries: readonly BatteryLog[], capacityAh: number): BatteryBeside[] {
  if (batteries.length < 2) return [];
  const { time } = batteries[0]!.log;
  const at = (one: BatteryLog, channel: 'battery_current' | 'soc' | 'battery_voltage') => {
    const values = one.log.channels[channel];
    return values ? interpolateAt(one.log.time, values, time) : null;
  };
  const amps = batteries.map((one) => at(one, 'battery_current'));
  const knowsAmps = amps.every((one) => one !== null);
  const total = new Float32Array(time.length);
  if (knowsAmps) for (const one of amps) for (let i = 0; i < total.length; i++) total[i]! += one![i]!;
  else total.fill(NaN);
  const percents = batteries.map((one) => at(one, 'soc'));
  const volts = batteries.map((one) => at(one, 'battery_voltage'));
  const isCalm = (i: number) => !(Math.abs(total[i]!) > CALM * capacityAh);
  return batteries.map(({ id, name, part }, k): BatteryBeside => {
    const carried = knowsAmps ? sharesOf(time, amps[k]!, total, part, capacityAh) : NOT_KNOWN;
    return {
      id,
      name,
      part,
      ...carried,
      percentApart: apartOf(percents, k, () => true),
      voltsApart: apartOf(volts, k, isCalm),
      verdict: verdictOf(carried, part),
    };
  });
}

const NOT_KNOWN: Pick<BatteryBeside, 'given' | 'taken' | 'out' | 'hoursOut' | 'hours'> = {
  given: NaN,
  taken: NaN,
  out: [],
  hoursOut: NaN,
  hours: NaN,
};

function sharesOf(
  time: Float64Array,
  own: Float32Array,
  total: Float32Array,
  part: number,
  capacityAh: number,
): typeof NOT_KNOWN {
  const limit = gapLimit(medianStep(time));
  const flow = { given: 0, taken: 0, allGiven: 0, allTaken: 0 };
  const spells: Span[] = [];
  let spell: Span | null = null;
  let hours = 0;
  const end = () => {
    if (spell && spell.to - spell.from >= OUT.least) spells.push(spell);
    spell = null;
  };
  for (let i = 1; i < time.length; i++) {
    const step = time[i]! - time[i - 1]!;
    const all = total[i]!;
    if (step > limit || !(Math.abs(all) >= WORKS * capacityAh) || own[i] !== own[i]) {
      if (step > limit) end();
      continue;
    }
    hours += step / HOUR;
    if (all < 0) {
      flow.given += own[i]! * step;
      flow.allGiven += all * step;
    } else {
      flow.taken += own[i]! * step;
      flow.allTaken += all * step;
    }
    if (Math.abs(own[i]!) < OUT.carries * part * Math.abs(all)) {
      if (spell) spell.to = time[i]!;
      else spell = { from: time[i - 1]!, to: time[i]! };
    } else end();
  }
  end();
  return {
    given: flow.given / flow.allGiven,
    taken: flow.taken / flow.allTaken,
    out: spells,
    hoursOut: spells.reduce((sum, one) => sum + (one.to - one.from) / HOUR, 0),
    hours,
  };
}

function verdictOf({ given, taken, hoursOut, hours }: typeof NOT_KNOWN, part: number): BatteryVerdict {
  if (!(hours > 0)) return 'unknown';
  if (hoursOut >= Math.min(OUT.hours, hours / 2)) return 'out';
  const shares = [given, taken].filter(isNumber).map((one) => one / part);
  if (shares.some((one) => one < SHARES.least)) return 'too-little';
  return shares.some((one) => one > SHARES.most) ? 'too-much' : 'shares';
}

/** Median over the log of one less the middle of the others. */
function apartOf(all: readonly (Float32Array | null)[], k: number, counts: (i: number) => boolean): number {
  const own = all[k];
  const others = all.filter((one, i): one is Float32Array => i !== k && one !== null);
  if (!own || others.length === 0) return NaN;
  const stride = Math.max(1, Math.floor(own.length / 5000));
  const off: number[] = [];
  for (let i = 0; i < own.length; i += stride) {
    const middle = median(others.map((one) => one[i]!).filter(isNumber));
    if (counts(i) && isNumber(own[i]!) && isNumber(middle)) off.push(own[i]! - middle);
  }
  return median(off);
}
