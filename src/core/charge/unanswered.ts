/**
 * Loads that a source does not answer. One that holds a voltage gives what a load asks for: where the voltage jumps and the source's
 * current stays as it was, the source gave all that it had, before and after. A voltage that such jumps lead to, time and again, is the
 * battery's own at that current and no setting, however flat it lies while the sun sinks.
 */

import { MINUTE } from '../quantity/span';
import type { Setpoint } from './setpoint';
import { at25, type ChargeView } from './view';

/** V a 12 V block by which the voltage jumps where a load leaves. */
const JUMP = 0.15;
/** Before it the voltage moved by less than this part of it over as long a time: else it climbs. */
const STEEP = 0.25;
/** A current is as it was within this part of itself, and within its noise; so long after too: at a voltage just reached it begins to fall. */
const SAME = 0.06;
const STAYS = 6 * MINUTE;
/** A current that steps by this part of itself while the voltage stays within this part of a jump: the source gave a load what it asked for. */
const STEPS = 0.3;
const UNMOVED = 0.3;
/** Widths of a held voltage about it in which a jump leads to it; what stops short of it goes on climbing. */
const NEAR = 2;
/** So many jumps without an answer, and that part of all: once the current may happen to be the same. */
const FEWEST = 3;
const MOSTLY = 0.7;

export interface Jump {
  /** V at 25 °C after the load came or left. */
  to: number;
  answered: boolean;
}

/**
 * The jumps of the voltage to a higher one while a source gives (down it also goes from absorption to float, and at dusk), and the steps of
 * the source's current that leave the voltage where it is. None where the loads are inside the current that is seen.
 * @param least current from which the source gives, A
 */
export function jumpsOf(view: ChargeView, voltsPerC: number, least: number): Jump[] {
  const { amps, grid, blocks, voltNoise, ampNoise, ampsAreBattery } = view;
  const jumps: Jump[] = [];
  if (ampsAreBattery) return jumps;
  const far = Math.max(JUMP * blocks, 6 * voltNoise);
  const later = Math.max(1, Math.round(STAYS / grid.step));
  for (let cell = 3; cell < grid.count - later; cell++) {
    const [before, after] = [amps[cell - 1]!, amps[cell + 1]!];
    if (!(before > least) || !(after > least)) continue;
    const from = at25(view, cell - 1, voltsPerC);
    const to = at25(view, cell + 1, voltsPerC);
    const stepped = Math.abs(after - before) >= Math.max(6 * ampNoise, STEPS * Math.max(before, after));
    if (stepped && Math.abs(to - from) <= UNMOVED * far) {
      jumps.push({ to, answered: true });
      cell++;
      continue;
    }
    const climb = Math.abs(from - at25(view, cell - 3, voltsPerC));
    if (!(to - from >= far) || !(climb < STEEP * (to - from))) continue;
    const isSame = (one: number) => Math.abs(one - before) <= Math.max(3 * ampNoise, SAME * before);
    // What moves with the voltage is the supply that moves it, be it a cloud.
    if (!isSame(after) && after < before) jumps.push({ to, answered: true });
    else if (isSame(after) && isSame(amps[cell + later]!)) jumps.push({ to, answered: false });
    // The load may have left in the middle of a cell: the next pair sees the same jump.
    cell++;
  }
  return jumps;
}

/** Whether loads that the source does not answer lead to a voltage. */
export function isLeftToLoads({ volts, width }: Setpoint, jumps: readonly Jump[]): boolean {
  const lead = jumps.filter((one) => Math.abs(one.to - volts) <= NEAR * width);
  const unanswered = lead.filter((one) => !one.answered).length;
  return unanswered >= FEWEST && unanswered >= MOSTLY * lead.length;
}
