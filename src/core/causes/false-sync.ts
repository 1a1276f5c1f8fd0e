/** The criteria are too easy: the monitor calls the battery full when it is not. */

import { median } from '../quantity/numbers';
import type { JudgedSync } from '../count/types';
import { MINUTE } from '../quantity/span';
import { ampHours, amps, percent, volts } from '../quantity/text';
import { blocksInSeries, isLead } from '../system/chemistry';
import type { Chemistry, Source } from '../system/schema';
import { type Bands, type Cause, type Evidence, type Judged, shrunk, weightOf } from './cause';
import { countOf, DRIFT_PRIOR, missingMonitor, seenSyncs } from './drifting';

const WEIGHTS = {
  /** How sure a sync is false: points under 90 % in standard deviations of the truth. */
  surely: [
    [3, 15],
    [2, 13],
    [1, 9],
    [0.3, 4],
    [0, 1],
  ],
  /** Syncs on full batteries, where none was false. */
  allTrue: -13,
  /** Configured: a charged voltage that a battery can stand at without being full, a large tail, hardly any time. */
  easyVolts: 6,
  easyTail: [
    [12, 7],
    [7, 4],
  ],
  easyTime: 2,
  /** All three as the trade sets them. */
  usual: -4,
  /** What it is set to is right, of another capacity than it has: the capacity makes the tail too large. */
  byCapacity: -9,
  /** Only a replay has made them: no reading was logged. */
  replayedShare: 0.7,
} as const;

/**
 * V a 12 V block under which a charged voltage is easy; lead by float, and lower where every source stays until the battery is full;
 * lithium by its flat part (common practice, no source).
 */
const EASY = { lead: 13.4, steady: 13.2, lithium: 13.5, tail: 7, minutes: 1 };

/** The usual criteria: so far under absorption, V a 12 V block, a tail of so much of capacity at most, so long at least (common practice, no source). */
const USUAL = { under: 0.3, tail: 5, minutes: 2 };

/** A capacity set so many times too large makes the tail plainly too large. */
const TOO_LARGE = 1.4;

/** By how much a sync fell under the line, in deviations of the reference; from so many on, plainly. */
const surenessOf = ({ reference, deviation }: Pick<JudgedSync, 'reference' | 'deviation'>): number =>
  (90 - reference) / Math.max(2.5, deviation);
const PLAINLY = 1.5;

/** dB of false syncs by all of them. */
function byAll(wrong: readonly JudgedSync[]): number {
  const sureness = median(wrong.map(surenessOf)) * Math.min(2, Math.sqrt(wrong.length));
  return shrunk(weightOf(WEIGHTS.surely, sureness), wrong.length);
}

/** Not surely full, and full enough that nobody was misled, %. */
const GOOD = 92;

export const falseSync: Cause = {
  code: 'false-sync',
  title: 'The monitor calls the battery full when it is not',
  complaint: 'drifting-soc',
  chemistries: 'all',
  families: ['counting'],
  needs:
    'the monitor’s percentage, voltage and current over charges that fill the battery and others that do not',
  signature: 'a sync while the charge balance, a supply that fails or the rest voltage says not full',
  prior: DRIFT_PRIOR,
  weights: { ...WEIGHTS, surely: WEIGHTS.surely as Bands },
  caps: { settings: 10 },
  tests: {
    'read-monitor-settings': [
      { name: 'a low charged voltage, a large tail or no time', ifHolds: 0.85, ifNot: 0.15 },
      { name: 'values of the school that fits', ifHolds: 0.15, ifNot: 0.85 },
    ],
    'rest-check': [
      { name: 'rest voltage far under what the reading says', ifHolds: 0.7, ifNot: 0.15 },
      { name: 'the two agree', ifHolds: 0.3, ifNot: 0.85 },
    ],
  },
  described({ system }): Evidence[] {
    const { chargedV, tailPercent, detectionMinutes, method } = system.monitor ?? {};
    const { chemistry, cellsInSeries } = system.bank;
    if (method === 'voltage' || !chemistry || !cellsInSeries) return [];
    const blocks = blocksInSeries({ chemistry, cellsInSeries });
    const easy = easyVolts(chemistry, system.sources);
    const evidence: Evidence[] = [];
    const add = (text: string, decibans: number) =>
      evidence.push({ text, decibans, group: 'settings', spans: [] });
    if (chargedV !== undefined && chargedV < easy * blocks)
      add(
        `The charged voltage is set to ${volts(chargedV)}: the battery stands there long before it is full.`,
        WEIGHTS.easyVolts,
      );
    if (tailPercent !== undefined && tailPercent > EASY.tail)
      add(
        `The tail is set to ${percent(tailPercent)} of capacity: a cloud brings the current down to that.`,
        weightOf(WEIGHTS.easyTail, tailPercent),
      );
    if (detectionMinutes !== undefined && detectionMinutes < EASY.minutes && evidence.length > 0)
      add('It asks for less than a minute.', WEIGHTS.easyTime);
    const top = lowestAbsorption(system.sources);
    if (
      top !== undefined &&
      chargedV !== undefined &&
      chargedV >= top - USUAL.under * blocks &&
      tailPercent !== undefined &&
      tailPercent <= USUAL.tail &&
      detectionMinutes !== undefined &&
      detectionMinutes >= USUAL.minutes
    )
      add(
        `The monitor asks for ${volts(chargedV)}, ${percent(tailPercent)} and ${detectionMinutes} min, as is usual: only clouds or loads at the wrong moment fool that.`,
        WEIGHTS.usual,
      );
    return evidence;
  },
  weigh(seen): Evidence[] {
    const count = countOf(seen);
    if (!count) return [];
    const syncs = seenSyncs(count).filter((one) => one.reference === one.reference);
    const wrong = syncs.filter((one) => one.judged === 'false');
    if (wrong.length === 0) {
      const right = syncs.filter((one) => one.reference >= GOOD);
      return right.length === 0 || right.length < syncs.length / 2
        ? []
        : [
            {
              text: `Each of the ${syncs.length} syncs fell on a battery that was full, as far as can be told.`,
              decibans: shrunk(WEIGHTS.allTrue, right.length),
              group: 'syncs',
              spans: right.map(({ at }) => around(at)),
            },
          ];
    }
    // Again and again is surer than once; and syncs that fell just under the line take nothing from those that fell far under it.
    const plain = wrong.filter((one) => surenessOf(one) > PLAINLY);
    const by = Math.max(byAll(wrong), plain.length > 0 ? byAll(plain) : 0);
    const dim = wrong.filter((one) => one.collapsed).length;
    return [
      {
        text: `${wrong.length} of ${syncs.length} syncs${count.replayed ? ', going by the settings entered,' : ''} came at a true charge of ${percent(median(wrong.map((one) => one.reference)))}${wrong.length > 1 ? ` and less (the lowest ${percent(Math.min(...wrong.map((one) => one.reference)))})` : ''}${dim > wrong.length / 2 ? ', just as the supply failed' : ''}.`,
        decibans: count.replayed ? Math.round(by * WEIGHTS.replayedShare) : by,
        group: 'syncs',
        spans: wrong.map(({ at }) => around(at)),
      },
      ...(dim > wrong.length / 2 ? [] : byCapacity(seen)),
    ];
  },
  remedy({ bank, system }) {
    const varying = system.sources.some((one) => one.kind !== 'mains');
    const top = lowestAbsorption(system.sources) ?? (bank.chargeVolts.min + bank.chargeVolts.max) / 2;
    return {
      text: `Set the charged voltage to ${volts(top - 0.2 * blocksInSeries(bank))}, 0.2 V a 12 V block under absorption${varying ? ', because clouds and engines that stop fool a lower one' : ''}; the tail to ${isLead(bank.chemistry) ? (varying ? '5 %' : '4 %') : '4 %'} of capacity, the time to 3 min.`,
      caution: null,
    };
  },
  missing: (seen, evidence) => [
    ...missingMonitor(seen),
    ...(seen.counting && evidence.every((one) => one.group !== 'syncs') ? ['a sync within the log'] : []),
  ],
};

/** The criteria are those of a school, but the capacity that the tail is a part of is set far too large: that is another fault. */
function byCapacity({ system, bank }: Judged): Evidence[] {
  const { capacityAh, chargedV, tailPercent } = system.monitor ?? {};
  if (capacityAh === undefined || chargedV === undefined || tailPercent === undefined) return [];
  if (chargedV < easyVolts(bank.chemistry, system.sources) * blocksInSeries(bank) || tailPercent > EASY.tail)
    return [];
  if (capacityAh < TOO_LARGE * bank.capacityAh) return [];
  return [
    {
      text: `The tail of ${percent(tailPercent)} is a usual one, but of ${ampHours(capacityAh)} it is ${amps((tailPercent * capacityAh) / 100)}, ${percent((tailPercent * capacityAh) / bank.capacityAh)} of this bank: the capacity is set wrong, not the tail.`,
      decibans: WEIGHTS.byCapacity,
      group: 'capacity',
      spans: [],
    },
  ];
}

/** V, the lowest of the chargers of the whole bank; undefined where none is known. */
function lowestAbsorption(sources: readonly Pick<Source, 'profile' | 'across'>[]): number | undefined {
  const tops = sources.flatMap(({ profile, across }) =>
    (across ?? 'bank') === 'bank' ? (profile.absorptionV ?? []) : [],
  );
  return tops.length > 0 ? Math.min(...tops) : undefined;
}

function easyVolts(chemistry: Chemistry, sources: readonly Pick<Source, 'kind'>[]): number {
  if (!isLead(chemistry)) return EASY.lithium;
  return sources.length > 0 && sources.every((one) => one.kind === 'mains') ? EASY.steady : EASY.lead;
}

const around = (at: number) => ({ from: at - 10 * MINUTE, to: at + 10 * MINUTE });
