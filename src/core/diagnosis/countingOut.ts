/** The section on counting of a diagnosis: syncs, the true percentage, drift between syncs, what the device counts by. */

import type { Anchor } from '../count/anchors';
import type { Counting, JudgedSync, MissedSync } from '../count/types';
import type { Estimate, EstimateName } from '../count/reference';
import { DAY, isoTime, MINUTE } from '../quantity/span';
import { amps, duration, percent, volts } from '../quantity/text';
import { roundedOrNull, roundedOrZero } from './rounded';
import type { CountingOut, Diagnosis, SyncOut } from './result';

export function countingOut(counting: Counting | null): Pick<Diagnosis, 'syncs' | 'counting' | 'soc'> {
  if (!counting) return { syncs: [], counting: null, soc: null };
  const { behaves, meters, hourly, logged } = counting;
  const lastFull = counting.fulls.reduce((last, one) => Math.max(last, one.to), -Infinity);
  return {
    syncs: counting.syncs.map(syncOut),
    counting: {
      device: counting.device,
      hasReading: counting.hasReading,
      replayed: counting.replayed,
      settings: { ...counting.settings },
      assumed: counting.assumed,
      behaves: behaves && {
        capacityAh: {
          value: roundedOrZero(behaves.capacityAh, 0),
          band: roundedOrZero(2 * behaves.capacityError, 0),
        },
        efficiencyPercent: Number.isFinite(behaves.efficiencyPercent)
          ? {
              value: roundedOrZero(behaves.efficiencyPercent, 0),
              band: roundedOrZero(2 * behaves.efficiencyError, 1),
            }
          : null,
        peukert: roundedOrZero(behaves.peukert, 2),
      },
      capacityAh: estimate(counting.capacityAh, 0),
      efficiencyPercent: estimate(counting.efficiencyPercent, 0),
      offsetA: estimate(counting.offsetA, 2),
      entangled: counting.entangled.map(([a, b]) => apart(a, b)),
      anchors: (Object.entries(counting.anchors) as [Anchor['kind'], number][]).map(([kind, count]) => ({
        kind,
        count,
      })),
      band: roundedOrNull(2 * counting.deviation, 1),
      off: counting.off && {
        median: roundedOrZero(counting.off.median, 1),
        most: roundedOrZero(counting.off.most, 1),
        last: roundedOrZero(counting.off.last, 1),
        hours: roundedOrZero(counting.off.hours, 0),
      },
      coverage: meters.shares.map(({ id, share, error }) => ({
        id,
        share: roundedOrZero(share, 2),
        band: roundedOrZero(2 * error, 2),
      })),
      missed: counting.missed.map((one) => missedOut(one, counting)),
      intervals: counting.intervals.map((one) => ({
        from: isoTime(one.from),
        to: isoTime(one.to),
        endedBy: one.endedBy,
        ampHoursIn: roundedOrZero(one.ampHoursIn, 1),
        ampHoursOut: roundedOrZero(one.ampHoursOut, 1),
        readingFrom: roundedOrZero(one.readingFrom, 1),
        readingTo: roundedOrZero(one.readingTo, 1),
        trueFrom: roundedOrZero(one.trueFrom, 1),
        trueTo: roundedOrZero(one.trueTo, 1),
        band: roundedOrZero(2 * one.deviation, 1),
        drift: roundedOrZero(one.drift, 1),
        parts: Object.fromEntries(
          Object.entries(one.parts).map(([name, value]) => [name, roundedOrZero(value, 1)]),
        ) as CountingOut['intervals'][number]['parts'],
      })),
      jumps: counting.jumps.map(({ at, from, to: until, silentMs }) => ({
        at: isoTime(at),
        from: roundedOrZero(from, 1),
        to: roundedOrZero(until, 1),
        silentMinutes: roundedOrZero(silentMs / MINUTE, 0),
      })),
      otherHalf: counting.otherHalf && {
        part: counting.otherHalf.part,
        above: roundedOrZero(counting.otherHalf.above, 1),
        at: isoTime(counting.otherHalf.at),
        seen: roundedOrZero(counting.otherHalf.seen, 0),
        other: roundedOrZero(counting.otherHalf.other, 0),
      },
      tailByFloat: counting.recipes.tail && {
        amps: roundedOrZero(counting.recipes.tail.amps, 1),
        percent: roundedOrZero((100 * counting.recipes.tail.amps) / counting.capacityAh.before.value, 1),
        charges: counting.recipes.tail.charges,
      },
      capacityByRefill: counting.recipes.refill && {
        from: isoTime(counting.recipes.refill.from),
        to: isoTime(counting.recipes.refill.to),
        ampHours: roundedOrZero(counting.recipes.refill.ampHours - counting.recipes.refill.out, 0),
        counted: roundedOrZero(
          (counting.settings.efficiencyPercent / 100) * counting.recipes.refill.ampHours -
            counting.recipes.refill.out,
          0,
        ),
      },
      daysSinceFull: Number.isFinite(lastFull) ? roundedOrZero((logged.to - lastFull) / DAY, 1) : null,
    },
    soc: {
      from: isoTime(hourly.from),
      stepHours: hourly.stepMs / 3_600_000,
      reported: Array.from(hourly.reported, (one) => roundedOrNull(one, 1)),
      reference: Array.from(hourly.reference, (one) => roundedOrNull(one, 1)),
      band: Array.from(hourly.band, (one) => roundedOrNull(one, 1)),
    },
  };
}

function syncOut(one: JudgedSync): SyncOut {
  return {
    at: isoTime(one.at),
    from: roundedOrZero(one.from, 1),
    to: roundedOrZero(one.to, 1),
    judged: one.judged,
    reference: roundedOrNull(one.reference, 1),
    band: roundedOrNull(2 * one.deviation, 1),
    why: whyJudged(one),
  };
}

/** A few per cent at a sync are what good settings leave (common practice, no source). */
const FINE = 5;

function whyJudged({
  judged,
  reference,
  deviation,
  from,
  to: until,
  collapsed,
  afterGap,
  volts: v,
  amps: a,
}: JudgedSync): string {
  const jump = until - from;
  const truth =
    reference === reference
      ? `The battery held ${percent(reference)} ± ${percent(2 * deviation)}`
      : 'What the battery held is not known';
  const seen = v === v && a === a ? `, at ${volts(v)} and ${amps(a)}` : '';
  const cloud =
    judged === 'false' && collapsed ? '; the supply had just failed, which looks like a tail' : '';
  const size =
    judged !== 'true'
      ? ''
      : jump <= FINE
        ? ` A jump of ${percent(jump)} is fine.`
        : ` A jump of ${percent(jump)} says that something is counted wrong.`;
  return `${truth}${seen}${cloud}${afterGap ? '; the log was silent just before' : ''}.${size}`;
}

function missedOut(one: MissedSync, { settings }: Counting): CountingOut['missed'][number] {
  const tail = (settings.tailPercent / 100) * settings.capacityAh;
  const why = {
    voltage: `The voltage stood at ${volts(one.topVolts)} at most; ${volts(settings.chargedV)} are asked for.`,
    current: `The current came down to ${Number.isFinite(one.leastAmps) ? amps(one.leastAmps) : 'no steady figure'}; less than ${amps(tail)} is asked for.`,
    time: `Voltage and current held together for ${duration(one.heldMs)}; ${duration(settings.detectionMinutes * MINUTE)} are asked for.`,
    unknown: 'By the configured settings it should have come.',
  }[one.reason];
  return {
    from: isoTime(one.from),
    to: isoTime(one.to),
    full: one.full,
    why,
    topVolts: roundedOrNull(one.topVolts, 2),
    leastAmps: roundedOrNull(one.leastAmps, 2),
  };
}

/** What would tell two of the unknowns apart. */
const APART: Partial<Record<`${EstimateName}-${EstimateName}`, string>> = {
  'capacity-efficiency':
    'This log cannot tell the battery’s capacity from its efficiency: a full discharge, or a full charge after a deep one, would.',
  'capacity-offset':
    'This log cannot tell the battery’s capacity from a zero error or a standing load: isolate everything and read the zero.',
  'efficiency-offset':
    'This log cannot tell the battery’s losses from a zero error or a standing load: isolate everything and read the zero.',
};
const apart = (a: EstimateName, b: EstimateName): string =>
  APART[`${a}-${b}`] ?? `This log cannot tell ${a} from ${b}.`;

const estimate = ({ value, deviation }: Estimate, digits: number) => ({
  value: roundedOrZero(value, digits),
  band: roundedOrZero(2 * deviation, digits),
});
