/** What was left out of a log because no battery can have made it. */

import { counted } from '../../quantity/text';
import { deviceName, type TrustInput, type TrustNote } from './note';

export const wildValues = ({ timeline, system }: TrustInput): TrustNote[] =>
  timeline.wild.map(({ device, count, spans }): TrustNote => ({
    code: 'wild-values',
    devices: [device],
    text: `${counted(count, 'row')} in the log of ${deviceName(system, device)} cannot be true: a voltage, a current, a temperature or a percentage that leaps away and is back at once. Nothing is judged by ${count === 1 ? 'it' : 'them'}; the recording keeps ${count === 1 ? 'it' : 'them'}.`,
    spans,
  }));
