/** What counting shows, in sentences: for the step, the report and the terminal. */

import { amps, ampHours, counted, percent, points } from '../quantity/text';
import type { DriftPart } from '../count/types';
import type { CountingOut, Diagnosis } from './result';

export const PART_WORDS: Record<DriftPart, string> = {
  efficiency: 'efficiency',
  capacity: 'capacity',
  peukert: 'exponent',
  offset: 'zero error',
  scale: 'scale',
  uncounted: 'not counted',
  otherHalf: 'other half',
  unexplained: 'unexplained',
};

/** Points with their sign: "+4.2". */
export const signed = (value: number): string => `${value < 0 ? '−' : '+'}${Math.abs(value).toFixed(1)}`;

const ANCHOR_WORDS: Record<CountingOut['anchors'][number]['kind'], [string, string]> = {
  full: ['full charge', 'full charges'],
  absorption: ['end of absorption', 'ends of absorption'],
  float: ['long float', 'long floats'],
  rest: ['rest', 'rests'],
  flat: ['rest on the flat part', 'rests on the flat part'],
  empty: ['empty battery', 'empty batteries'],
  bms: ['reading of the BMS', 'readings of the BMS'],
};

/** @param nameOf name of a device by its id */
export function countingText(
  { counting, syncs }: Pick<Diagnosis, 'counting' | 'syncs'>,
  nameOf: (id: string) => string,
): string[] {
  if (!counting) return [];
  const { off, behaves, settings, assumed, missed, anchors } = counting;
  const wrong = syncs.filter((one) => one.judged === 'false').length;
  const lines: string[] = [];
  if (off)
    lines.push(
      `For nine tenths of the time that can be judged (${off.hours} h) the reading was within ${points(off.most)} of the truth${Math.abs(off.median) < 1 ? '' : `, mostly ${off.median > 0 ? 'above' : 'below'} it`}; at the end it is ${Math.abs(off.last) < 1 ? 'right' : `${points(off.last)} ${off.last > 0 ? 'too high' : 'too low'}`}.`,
    );
  else if (!counting.hasReading)
    lines.push(
      'The monitor’s percentage was not logged: what it would have shown is worked out from its settings.',
    );
  lines.push(
    syncs.length === 0
      ? 'The reading was never set to full in this log.'
      : `${counting.replayed ? 'By the configured settings it would have been' : 'The reading was'} set to full ${counted(syncs.length, 'time')}${wrong === 0 ? '' : wrong === syncs.length ? ', each time too soon' : `, ${wrong} of them too soon`}.`,
  );
  if (missed.length > 0)
    lines.push(
      `${counted(missed.length, missed.every((one) => one.full) ? 'full charge' : 'completed charge')} did not set it. ${missed[0]!.why}`,
    );
  if (behaves)
    lines.push(
      `The device counts as if its capacity were ${ampHours(behaves.capacityAh.value)}${behaves.efficiencyPercent ? ` and ${percent(behaves.efficiencyPercent.value)} of what goes in counted` : ''}; ${assumed.includes('capacityAh') ? 'its setting is not known' : `it is said to be set to ${ampHours(Number(settings.capacityAh))} and ${percent(Number(settings.efficiencyPercent))}`}.`,
    );
  lines.push(
    anchors.length === 0
      ? 'Nothing in the log tells the true charge: neither a full charge, nor a rest, nor a BMS.'
      : `The true charge rests on ${list(anchors.map(({ kind, count }) => `${count} ${ANCHOR_WORDS[kind][count === 1 ? 0 : 1]}`))}${counting.band === null ? '' : `; it is known within ${points(counting.band)} most of the time`}.`,
  );
  for (const { id, share, band } of counting.coverage)
    lines.push(
      Math.abs(share - 1) < 0.06
        ? `${nameOf(id)}: the monitor shows all of its current.`
        : Math.abs(share) < 0.06
          ? `${nameOf(id)}: the monitor shows nothing of its current.`
          : `${nameOf(id)}: the monitor shows ${percent(100 * share)} ± ${percent(Math.max(1, 100 * band))} of its current.`,
    );
  if (Math.abs(counting.offsetA.value) > counting.offsetA.band)
    lines.push(
      `Between known states ${amps(Math.abs(counting.offsetA.value))} ± ${amps(counting.offsetA.band)} is left over ${counting.offsetA.value > 0 ? 'into' : 'out of'} the battery.`,
    );
  const { tailByFloat: tail, capacityByRefill: refill, otherHalf: half } = counting;
  if (half)
    lines.push(
      `The monitor sees the ${half.part === 'upper' ? 'lower' : 'upper'} half. The ${half.part} half is followed by what its charger gave: it held ${half.other} % at the end, against ${half.seen} %. The true charge is that of the emptier half.`,
    );
  if (tail)
    lines.push(
      `Five to ten minutes into float the battery takes ${amps(tail.amps)}, ${percent(tail.percent)} of capacity (${counted(tail.charges, 'charge')}): the tail belongs slightly above, at about ${percent(Math.ceil(2.4 * tail.percent) / 2)}.`,
    );
  if (refill)
    lines.push(
      `From empty to full ${ampHours(refill.ampHours)} went in on balance; the counter makes ${ampHours(refill.counted)} of it. As a capacity that is biased twice: by the efficiency that the counter is set to, and, where the emptying stopped early, by what was still in.`,
    );
  return [...lines, ...counting.entangled];
}

const list = (items: readonly string[]): string =>
  items.length < 2 ? items.join('') : `${items.slice(0, -1).join(', ')} and ${items.at(-1)!}`;

/** Parts of a drift that matter, largest first. */
export const partsOf = (parts: CountingOut['intervals'][number]['parts']): [DriftPart, number][] =>
  (Object.entries(parts) as [DriftPart, number][])
    .filter(([, value]) => Math.abs(value) >= 0.3)
    .sort((a, b) => Math.abs(b[1]) - Math.abs(a[1]));

/** One interval in a sentence. */
export function driftText(one: CountingOut['intervals'][number]): string {
  const parts = partsOf(one.parts);
  const sum = `The reading came out ${Math.abs(one.drift).toFixed(1)} points ${one.drift > 0 ? 'too high' : 'too low'}`;
  if (Math.abs(one.drift) < Math.max(2, one.band)) return `${sum}: within the error of the estimate.`;
  return parts.length === 0
    ? `${sum}.`
    : `${sum}: ${list(parts.slice(0, 3).map(([name, value]) => `${signed(value)} from ${name === 'unexplained' ? 'what is not explained' : name === 'uncounted' ? 'what is not counted' : `the ${PART_WORDS[name]}`}`))}.`;
}
