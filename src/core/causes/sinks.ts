/** A lead battery whose voltage sinks too fast for what is drawn: shared by the two causes that say that it has shrunk. */

import { ampHours, counted, volts } from '../quantity/text';
import type { Counting } from '../count/types';
import type { KnownBank } from '../system/known';
import { type Evidence, weightOf } from './cause';

export const SINKS_WEIGHTS = {
  /** What it holds by how fast it sinks, parts of the label. Good ones come out at 0.7 to 1.2. */
  sinks: [
    [1, -7],
    [0.9, -5],
    [0.8, -1],
    [0.7, 4],
    [0.6, 11],
    [0.5, 15],
    [0, 15],
  ],
} as const;

/** A meter that shows by so much too little of what is drawn, as a part of it, may be all that there is. */
const MOST_ZERO = 0.5;

export function sinksFast(counting: Counting | null, bank: KnownBank): Evidence[] {
  const sinking = counting?.sinking;
  if (!counting || !sinking || counting.wrong.gain !== 1 || counting.wrong.unseen.length > 0) return [];
  if (counting.offsetA.value > MOST_ZERO * sinking.amps) return [];
  const { capacityAh, deviation, spans } = sinking;
  return [
    {
      text: `Over ${counted(spans.length, 'stretch', 'stretches')} without a charge the voltage sank by ${volts(sinking.volts)} for ${ampHours(sinking.ampHours)} drawn, as it does on a battery of ${Math.round(capacityAh)} Ah (give or take ${Math.round(2 * deviation)} Ah); this one is rated ${ampHours(bank.capacityAh)}.`,
      decibans: weightOf(SINKS_WEIGHTS.sinks, capacityAh / bank.capacityAh),
      group: 'sinks',
      spans,
    },
  ];
}
