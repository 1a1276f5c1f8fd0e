/** Whether a reading is made from the voltage: then it jumps with the voltage when a load or a charger comes or goes. */

import { quantile } from '../quantity/numbers';
import { HOUR, type Span } from '../quantity/span';
import { cellStart } from '../log/grid';
import type { CounterLog } from './counterLog';
import { onGrid } from './onGrid';

export interface FollowsVolts {
  /** Steps of the voltage while hardly any charge flowed, and at how many of them the reading went along. */
  steps: number;
  jumps: number;
  /** By how much it then went further than what flowed, median, %. */
  points: number;
  spans: Span[];
  /** How far the voltage alone tells the reading: 1 all of it, 0 nothing. */
  told: number;
}

/** Long enough for a slow display, short enough that little is counted. */
const LAG = HOUR / 4;
/** Least step of the voltage, V a 12 V block; most that may flow meanwhile, % of the capacity; least jump of the reading, %. */
const STEP = 0.12;
const FLOWS = 2.5;
const JUMP = 4;

/**
 * @param capacityAh by which it would count
 * @param blocks 12 V blocks in series
 * @returns null without voltage or reading, or where so much may flow from one sample to the next that no jump is seen
 */
export function followsVolts(log: CounterLog, capacityAh: number, blocks: number): FollowsVolts | null {
  const { grid, amps: a, volts: v, reading: r } = onGrid(log);
  if (!v || !r || grid.step > LAG) return null;
  const lag = Math.max(1, Math.round(LAG / grid.step));
  const found: FollowsVolts = {
    steps: 0,
    jumps: 0,
    points: NaN,
    spans: [],
    told: configuredByVolts(v, r, blocks),
  };
  const points: number[] = [];
  for (let i = 0; i + lag < grid.count; i++) {
    const dv = v[i + lag]! - v[i]!;
    const dr = r[i + lag]! - r[i]!;
    if (!(Math.abs(dv) >= STEP * blocks) || dr !== dr) continue;
    let ampHours = 0;
    for (let k = i; k < i + lag; k++) ampHours += (a[k]! * grid.step) / HOUR;
    const counted = (100 * ampHours) / capacityAh;
    if (!(Math.abs(counted) <= FLOWS)) continue;
    // At its ends it cannot go along, and a rise to full may be a sync.
    if ((dv < 0 && r[i]! < JUMP) || (dv > 0 && r[i + lag]! > 99)) continue;
    found.steps++;
    const further = Math.sign(dv) * (dr - counted);
    if (further >= JUMP) {
      found.jumps++;
      points.push(further);
      found.spans.push({ from: cellStart(grid, i), to: cellStart(grid, i + lag) });
    }
    // The next step is one that comes after this.
    i += lag - 1;
  }
  found.points = quantile(points, 0.5);
  return found;
}

/** Voltages are taken together in steps of so much, V a 12 V block; fewer readings than that tell nothing of one. */
const BIN = 0.02;
const FEWEST_IN_BIN = 5;
/** Of a long log so many moments tell as much as all. */
const MOST = 50_000;

/** How much less the reading scatters about its usual value at the same voltage than on the whole. */
function configuredByVolts(volts: Float32Array, reading: Float32Array, blocks: number): number {
  const bins = new Map<number, number[]>();
  const all: number[] = [];
  const stride = Math.max(1, Math.floor(volts.length / MOST));
  for (let i = 0; i < volts.length; i += stride) {
    if (volts[i]! !== volts[i]! || reading[i]! !== reading[i]!) continue;
    const bin = Math.round(volts[i]! / (BIN * blocks));
    const of = bins.get(bin);
    if (of) of.push(reading[i]!);
    else bins.set(bin, [reading[i]!]);
    all.push(reading[i]!);
  }
  const apart = [...bins.values()]
    .filter((one) => one.length >= FEWEST_IN_BIN)
    .flatMap((one) => {
      const middle = quantile(one, 0.5);
      return one.map((value) => Math.abs(value - middle));
    });
  const middle = quantile(all, 0.5);
  const whole = quantile(
    all.map((one) => Math.abs(one - middle)),
    0.8,
  );
  return whole > 0 && apart.length > 0 ? 1 - quantile(apart, 0.8) / whole : NaN;
}
