/** Do the clocks of the logs agree? */

import { duration, trueMinus } from '../../quantity/text';
import { deviceName, type TrustInput, type TrustNote } from './note';

export function clocks({ timeline, system }: TrustInput): TrustNote[] {
  return timeline.clocks.map(({ device, against, offset }): TrustNote => {
    const { ms, secondsPerDay, seen, shifted, unshifted, overlap } = offset;
    const apart = `${duration(Math.abs(ms))} ${ms < 0 ? 'ahead of' : 'behind'} that of ${deviceName(system, against)}`;
    const parting =
      secondsPerDay === 0
        ? ''
        : ` and ${secondsPerDay < 0 ? 'gains' : 'loses'} ${Math.abs(secondsPerDay)} s a day`;
    return {
      code: 'clock-offset',
      devices: [against, device],
      text: `The clock of ${deviceName(system, device)} is ${apart}${parting}. With the clock corrected their ${seen}s match (correlation ${trueMinus(shifted.toFixed(2))}, before ${trueMinus(unshifted.toFixed(2))}); corrected times were used.`,
      spans: [overlap],
      clock: { device, offsetSeconds: Math.round(ms / 1000), secondsPerDay },
    };
  });
}
