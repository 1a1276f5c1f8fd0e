/** Power lost on the way from a charger to the battery, or from the battery to a load, beyond what a sound cable loses. */

import type { Span } from '../quantity/span';
import { milliohms } from '../quantity/text';
import { pairOhms } from '../system/conductor';
import type { Hazard, HazardRule } from './hazard';

/** Parts of the voltage that a sound path may lose at full current, and W above that in one place (common practice, no source). */
const SOUND_LOSS = 0.03;
const HOT_WATTS = 10;

export const hotJoint: HazardRule = ({ system, charging, loadPaths }) => [
  ...charging.flatMap(({ source, path, bank, logged }) =>
    path && path.ohms > 3 * path.error
      ? hazardOf(
          `Between ${source?.name ?? 'the charger'} and the battery`,
          path,
          SOUND_LOSS * bank.chargeVolts.min * path.amps,
          [logged.span],
        )
      : [],
  ),
  ...loadPaths.flatMap((path) => {
    const load = system.loads.find((one) => one.id === path.id);
    if (!(path.ohms > 3 * path.error)) return [];
    // What the cable itself loses is no joint.
    const cable = load?.conductor ? pairOhms(load.conductor.metres, load.conductor.squareMm, WARM) : 0;
    const sound = Math.max(SOUND_LOSS * system.bank.chargeVolts.min * path.amps, cable * path.amps ** 2);
    const lostWatts = path.ohms * path.amps ** 2;
    return hazardOf(`Between the battery and ${load?.name ?? 'the load'}`, { ...path, lostWatts }, sound, []);
  }),
];

/** Of a cable under load, °C. */
const WARM = 40;

function hazardOf(
  between: string,
  { ohms, amps, lostWatts }: { ohms: number; amps: number; lostWatts: number },
  soundWatts: number,
  spans: Span[],
): Hazard[] {
  if (lostWatts - soundWatts < HOT_WATTS) return [];
  return [
    {
      code: 'hot-joint',
      text: `${between} ${lostWatts.toFixed(0)} W are lost at ${amps.toFixed(0)} A (${milliohms(ohms)}), where a sound path loses ${soundWatts.toFixed(0)} W. If that sits in one joint, fuse or switch, it gets hot enough to burn. Feel for warmth with the back of the hand near it, not on it; then isolate, measure millivolts over each joint under current, clean and tighten.`,
      spans,
    },
  ];
}
