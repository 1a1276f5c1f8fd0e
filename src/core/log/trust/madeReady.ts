/** What was done to a log before it was judged: rows left out that no battery can have made, values held between rows. */

import { counted } from '../../quantity/text';
import { deviceName, type TrustInput, type TrustNote } from './note';

export const wildValues = ({ timeline, system }: TrustInput): TrustNote[] =>
  timeline.wild.map(({ device, count, spans }): TrustNote => ({
    code: 'wild-values',
    devices: [device],
    text: `${counted(count, 'row')} in the log of ${deviceName(system, device)} cannot be true: a voltage, a current, a temperature or a percentage that leaps away and is back at once. Nothing is judged by ${count === 1 ? 'it' : 'them'}; the recording keeps ${count === 1 ? 'it' : 'them'}.`,
    spans,
  }));

export const writtenOnChange = ({ timeline, system }: TrustInput): TrustNote[] =>
  timeline.onChange.map(({ device, span }): TrustNote => ({
    code: 'written-on-change',
    devices: [device],
    text: `The log of ${deviceName(system, device)} has a row only when something has changed: between two rows, for up to an hour, the values of the first are taken to hold.`,
    spans: [span],
  }));
