/** Whether a charge got the battery truly full, or only says so. */

import { HOUR, MINUTE } from '../quantity/span';
import { CHEMISTRY, expectedVolts, isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import type { Charge, Stage } from './types';
import type { ChargeView } from './view';

/** A battery that is full already lets a charger end absorption soon; what is shorter than this is a jump of the voltage. */
const LEAST_ABSORPTION = 3 * MINUTE;

/** V a 12 V block by which a plateau may lie under the battery's range and still fill it, given its tail. */
const STILL_FILLS = 0.2;
/** And by how much more where its temperature is not known. */
const WEATHER = 0.2;

/**
 * Held at a voltage that can fill this battery until its current was down to the full tail; or after that long on float, where the
 * lower voltage asks for a far smaller current. At a plateau that is too low the current falls too: that proves nothing.
 */
export function isFull(
  charge: Charge,
  bank: KnownBank,
  view: Pick<ChargeView, 'ampNoise' | 'blocks'>,
): boolean {
  const { fullTailPercent } = CHEMISTRY[bank.chemistry];
  const percentOf = (amps: number) => (100 * amps) / bank.capacityAh;
  return charge.stages.some((one, i) => {
    const amps = one.endedBy === 'source-lost' || one.endedBy === 'load' ? one.settledAmps : one.endAmps;
    // No current because the BMS lets none in is no tail, nor is a current that a load draws from the battery.
    if (one.blocked || amps < -3 * view.ampNoise) return false;
    if (one.stage === 'absorption' || one.stage === 'equalise')
      return (
        !one.cutOff &&
        one.heldMs >= LEAST_ABSORPTION &&
        percentOf(amps) <= fullTailPercent &&
        fills(one, bank, view.blocks)
      );
    const absorbed = charge.stages.slice(0, i).some((before) => before.stage === 'absorption');
    return (
      one.stage === 'float' &&
      absorbed &&
      one.heldMs > 4 * HOUR &&
      one.endAmpsAreBattery &&
      percentOf(one.settledAmps) <= fullTailPercent / 8 &&
      one.volts >=
        expectedVolts(bank, 'float', one.celsius).min -
          (one.celsius === one.celsius ? 0 : WEATHER * view.blocks)
    );
  });
}

function fills(stage: Stage, bank: KnownBank, blocks: number): boolean {
  const known = stage.celsius === stage.celsius || !isLead(bank.chemistry);
  const volts =
    stage.batteryVolts === stage.batteryVolts ? Math.max(stage.batteryVolts, stage.volts) : stage.volts;
  return (
    volts >=
    expectedVolts(bank, 'absorption', stage.celsius).min - (STILL_FILLS + (known ? 0 : WEATHER)) * blocks
  );
}
