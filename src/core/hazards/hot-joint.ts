/** Power lost on the way from a charger to the battery, beyond what a sound cable loses. */

import { milliohms, percent } from '../quantity/text';
import type { HazardRule } from './hazard';

/** Parts of the voltage that a sound path may lose at full current, and W above that in one place (common practice, no source). */
const SOUND_LOSS = 0.03;
const HOT_WATTS = 10;

export const hotJoint: HazardRule = ({ charging }) =>
  charging.flatMap(({ source, path, bank, logged }) => {
    if (!path || !(path.ohms > 3 * path.error)) return [];
    const soundWatts = SOUND_LOSS * bank.chargeVolts.min * path.amps;
    if (path.lostWatts - soundWatts < HOT_WATTS) return [];
    return [
      {
        code: 'hot-joint' as const,
        text: `Between ${source?.name ?? 'the charger'} and the battery ${path.lostWatts.toFixed(0)} W are lost at ${path.amps.toFixed(0)} A (${milliohms(path.ohms)}), where a sound path loses ${percent(100 * SOUND_LOSS)} of the voltage, ${soundWatts.toFixed(0)} W. If that sits in one joint, fuse or switch, it gets hot enough to burn. Feel for warmth with the back of the hand near it, not on it; then isolate, measure millivolts over each joint under current, clean and tighten.`,
        spans: [logged.span],
      },
    ];
  });
