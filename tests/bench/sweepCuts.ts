/** What the sweep says of cut-offs, resistances, cells and discharges, against what the simulation knows. */

import type { Diagnosis } from '@/core/diagnosis/result';
import type { SitePlan } from '@/core/simulate/sitePlan';
import type { Truth } from '@/core/simulate/site';
import { apart } from '@/core/simulate/faults/cutting';

const HALF_HOUR = 1_800_000;
/** A weak or unbalanced cell: which faults lay one under a site. */
const CELL_CODES = ['weak-cell', 'cell-imbalance'];

export interface Cuts {
  /** True cut-offs half an hour apart; of them those that were found, and found for their cutter and reason. */
  of: number;
  found: number;
  right: number;
  /** Shown where there was none. */
  invented: number;
  /** Path to the load over the true one, where it costs a tenth of a volt a 12 V block and the load's voltage was logged. */
  path: number | null;
  /** The faulty cell by its verdict; null where no cell is faulty, or no full cycle was logged. */
  cell: 'right' | 'wrong' | 'unknown' | null;
  /** What discharges until empty say it holds, less the truth, % of the rating, and their band; null without any. */
  holds: { off: number; band: number } | null;
}

export function cutsScored(code: string, diagnosis: Diagnosis, plan: SitePlan, truth: Truth): Cuts {
  const cuts = apart(truth.cuts);
  const shown = diagnosis.cutoffs.map((one) => ({ ...one, ms: Date.parse(one.at) }));
  const near = (a: number, b: number) => Math.abs(a - b) <= HALF_HOUR;
  const matches = cuts.map((cut) => shown.find((one) => near(one.ms, cut.at)));
  return {
    of: cuts.length,
    found: matches.filter((one) => one !== undefined).length,
    right: matches.filter(
      (one, k) => one && one.why === cuts[k]!.why && (one.by === 'bms') === (cuts[k]!.by === 'bms'),
    ).length,
    invented: shown.filter((one) => !truth.cuts.some((cut) => near(one.ms, cut.at))).length,
    path: pathOver(diagnosis, plan),
    cell: CELL_CODES.includes(code) ? cellScored(code, diagnosis, plan) : null,
    holds: holdsOff(diagnosis, plan),
  };
}

function pathOver({ discharge }: Diagnosis, { cut, blocks }: SitePlan): number | null {
  const path = discharge?.paths[0];
  if (!path || !cut?.pathOhms || !cut.logsVolts || cut.pathOhms * path.amps < 0.1 * blocks) return null;
  return path.milliohms / (1000 * cut.pathOhms);
}

function cellScored(code: string, { cells }: Diagnosis, { lithium }: SitePlan): Cuts['cell'] {
  if (!cells || cells.tops === 0 || cells.bottoms === 0) return null;
  const faulty =
    code === 'weak-cell'
      ? lowest(lithium.cells.map((one) => one.capacityAh))
      : lowest(lithium.cells.map((one) => one.charge));
  const verdict = cells.cells[faulty]?.verdict;
  if (verdict === undefined || verdict === 'unknown') return 'unknown';
  const wanted = code === 'weak-cell' ? ['holds-less'] : ['out-of-step', 'falls-behind'];
  return wanted.includes(verdict) ? 'right' : 'wrong';
}

const lowest = (values: readonly number[]): number => values.indexOf(Math.min(...values));

function holdsOff({ discharge }: Diagnosis, plan: SitePlan): Cuts['holds'] {
  const complete = discharge?.fromFull.flatMap((one) => one.holds ?? []) ?? [];
  const last = complete.at(-1);
  if (!last || plan.halves) return null;
  const held =
    plan.chemistry === 'lfp'
      ? Math.min(...plan.lithium.cells.map((one) => one.capacityAh))
      : plan.trueCapacityAh;
  return { off: last.percent - (100 * held) / plan.capacityAh, band: last.band };
}

export function reportCuts(all: readonly Cuts[]): void {
  const sum = (of: (one: Cuts) => number) => all.reduce((total, one) => total + of(one), 0);
  if (sum((one) => one.of) === 0) return;
  const paths = all.flatMap((one) => one.path ?? []);
  const cells = all.flatMap((one) => one.cell ?? []);
  const holds = all.flatMap((one) => one.holds ?? []);
  const of = <T>(some: readonly T[], good: (one: T) => boolean) =>
    `${some.filter(good).length} of ${some.length}`;
  console.log(
    `\nCut-offs: ${sum((one) => one.found)} of ${sum((one) => one.of)} found, cutter and reason right on ${sum((one) => one.right)}, ${sum((one) => one.invented)} invented; path to the load within 10 % on ${of(paths, (one) => Math.abs(one - 1) <= 0.1)}`,
  );
  console.log(
    `The faulty cell, where a full cycle was logged: right on ${of(cells, (one) => one === 'right')}, not known on ${cells.filter((one) => one === 'unknown').length}; what discharges until empty say within 5 % of the rating on ${of(holds, (one) => Math.abs(one.off) <= 5)}, within their band on ${of(holds, (one) => Math.abs(one.off) <= one.band)}`,
  );
}
