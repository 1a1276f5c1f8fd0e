/** What the causes of loads that go off too soon share. */

import type { CutOff, CutOffs, CutReason, LoadPath } from '../cutoff/types';
import { isNumber, median } from '../quantity/numbers';
import type { Span } from '../quantity/span';
import { HOUR, MINUTE } from '../quantity/span';
import { counted } from '../quantity/text';
import { blocksInSeries, isLead } from '../system/chemistry';
import { restPercent, restVolts } from '../system/restVoltage';
import { bankOhms, coldShare } from '../system/sag';
import type { Judged, Observations } from './cause';

export const CUT_PRIOR = { complained: -4, otherwise: -8 } as const;

export interface Cutting extends Omit<CutOffs, 'celsius'> {
  /** Cut-offs, not trips. */
  list: CutOff[];
  /** What the battery held at them, %, median; NaN where not known. */
  held: number;
  /** V a block to which it came back, and what that stands for by the table, %, medians. */
  rest: number;
  restPercent: number;
  /** Points by which the count leaves more than the voltage that lead rests at an hour and more without its loads; median, NaN where not known. */
  beyondRest: number;
  /** V a block at the battery, and at the load where that was logged, just before; medians of those that the battery's log saw. */
  volts: number;
  loadVolts: number;
  /** V a block by which the load stood under the battery just before, median; NaN where one of the two was not logged. */
  apart: number;
  /** V a block lost on the way to the load: by the path's resistance where two voltages were logged, else as it stood apart. */
  lost: number;
  /** What the voltage came back by over the current that went, in parts of a good battery's resistance, median; NaN where not known. */
  sag: number;
  /**
   * The same by how far it stood under what the table of rest voltages has for the charge that it held, soon after the load came: where a
   * charger lifts it at once. And V a block at which it stood then, and how far that was under the table's.
   */
  sagByTable: number;
  soonVolts: number;
  underTable: number;
  /** The battery's resistance by steps of its current, parts of a good one's; and by these or, without, by the sag. */
  bySteps: number;
  ohms: number;
  celsius: number;
  /** How long the load had run, ms, median. */
  ranMs: number;
  /** Share of the cut-offs for a reason. */
  share(why: CutReason): number;
  spans: Span[];
}

/** A deviation wider than this says nothing of the state, unless it is low with all its doubt, %. */
const KNOWN = 12;
const LOW = 30;
/** A sag of a current smaller than this says nothing, parts of the capacity in A. */
const SAGS = 0.04;
/** What a battery stands at under a load is its resistance's doing where it holds more than this, %. */
const CHARGED = 70;

/** A load that ran longer has drawn the voltage down by more than the resistance. */
export const BRIEF = 15 * MINUTE;

/** A voltage is a rest voltage where the load stayed away so long; it is no better than so many points. */
const RESTED = HOUR;
export const BEYOND_REST = 22;

/** The battery's log saw a load that was on for longer, or of which it gave so much. */
const SAW = { ranMs: 3 * MINUTE, gave: 0.1 };
const isSeen = ({ amps, loadAmps, ranMs }: CutOff): boolean =>
  !(amps < SAW.gave * loadAmps) || !(ranMs <= SAW.ranMs);

/** Null where nothing was cut off. */
export function cuttingOf({ cutoffs, bank }: Judged): Cutting | null {
  if (!cutoffs || cutoffs.list.length === 0) return null;
  const { list } = cutoffs;
  const blocks = blocksInSeries(bank);
  const middle = (of: (one: CutOff) => number, some: readonly CutOff[] = list) =>
    median(some.map(of).filter(isNumber));
  const seen = list.filter(isSeen);
  const rest = middle((one) => one.restVolts / blocks);
  const standsFor = (volts: number) => restPercent(bank.chemistry, volts / blocks);
  const usual = bankOhms(bank);
  const sagFrom = (from: number, { amps, celsius }: CutOff, volts: number) =>
    amps > SAGS * bank.capacityAh
      ? (from - volts) / amps / (usual * coldShare(bank.chemistry, celsius))
      : NaN;
  // A run that was longer has drawn the voltage down by more than the resistance.
  const soon = ({ ranMs, volts, beganVolts }: CutOff) => (ranMs <= BRIEF ? volts : beganVolts);
  const sag = middle((one) => sagFrom(one.restVolts, one, one.volts));
  const tableVolts = ({ held, deviation }: CutOff) =>
    held >= CHARGED && deviation <= KNOWN ? blocks * restVolts(bank.chemistry, held) : NaN;
  const sagByTable = middle((one) => sagFrom(tableVolts(one), one, soon(one)));
  const bySteps = cutoffs.resistance ? cutoffs.resistance.ohms / cutoffs.resistance.usual : NaN;
  return {
    ...cutoffs,
    lost:
      cutoffs.paths.length > 0
        ? Math.max(...cutoffs.paths.map((one) => one.ohms * drawnAt(list, one))) / blocks
        : middle((one) => (one.volts - one.loadVolts) / blocks, seen),
    held: middle((one) => (one.deviation <= KNOWN || one.held + one.deviation < LOW ? one.held : NaN)),
    rest,
    restPercent: isNumber(rest) ? standsFor(rest * blocks) : NaN,
    beyondRest: isLead(bank.chemistry)
      ? middle(({ held, deviation, restVolts, last, back }) =>
          isNumber(restVolts) && deviation <= KNOWN && !(back - last < RESTED)
            ? held - standsFor(restVolts)
            : NaN,
        )
      : NaN,
    volts: middle((one) => one.volts / blocks, seen),
    loadVolts: middle((one) => one.loadVolts / blocks),
    apart: middle((one) => (one.volts - one.loadVolts) / blocks, seen),
    sag,
    sagByTable,
    soonVolts: middle((one) => soon(one) / blocks),
    underTable: middle((one) => (tableVolts(one) - soon(one)) / blocks),
    bySteps,
    ohms: [bySteps, sag, sagByTable].find(isNumber) ?? NaN,
    celsius: middle((one) => one.celsius),
    ranMs: middle((one) => one.ranMs),
    share: (why) => list.filter((one) => one.why === why).length / list.length,
    spans: list.map(({ at, last }) => ({ from: at - 10 * MINUTE, to: last + 10 * MINUTE })),
  };
}

/** A that a load drew at its cut-offs, median, where that is more than it draws as a rule. */
export const drawnAt = (list: readonly CutOff[], { id, amps }: LoadPath): number =>
  Math.max(
    amps,
    ...[median(list.filter((one) => one.by === id).map((one) => one.loadAmps))].filter(isNumber),
  );

/** "At 6 cut-offs" */
export const atCuts = ({ list }: Cutting): string => `At ${counted(list.length, 'cut-off')}`;

export const missingCuts = ({ cutoffs }: Observations): string[] =>
  cutoffs === null || cutoffs.list.length > 0 ? [] : ['a log of a cut-off'];
