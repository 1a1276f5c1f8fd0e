/**
 * Rows whose time lies far outside the rest of their log: a digit of the year that fell over, or a clock that lost its battery. A few are
 * set aside, each with its reason; many are a matter for a person. A log that is whole in a year of its own has no stray rows, however
 * strange the year: then it is its clock that is off.
 */

import { DAY } from '../quantity/span';
import { LogAsks, type LogAnswers } from './answers';

/** From one row to the next no log steps so far but across a silence or by a fault of its clock, ms. */
const JUMP = 30 * DAY;
/** What lies further from the rest than this is stray, whatever its order, ms. */
const FAR = 366 * DAY;
/** Before this no log was written: a clock that shows an earlier year has lost its battery. */
const EARLIEST = Date.UTC(2005, 0, 1);
/** So many rows, or such a share of them, are few. */
const FEW = { rows: 5, share: 0.1 };

export const isJump = (before: number, after: number): boolean => Math.abs(after - before) > JUMP;

export interface Stray {
  /** Place of the row in what was given. */
  row: number;
  reason: string;
}

/** Rows that follow each other in time, wherever they stand in the file. */
interface Cluster {
  from: number;
  to: number;
  rows: number;
  /** First and last place in the file. */
  first: number;
  last: number;
}

/** @param times epoch ms in the order of the file. @throws LogAsks when there are many and nobody has answered */
export function strayRows(times: Float64Array, answer: LogAnswers['strayRows']): Stray[] {
  const clusters = clustersOf(times);
  if (clusters.length < 2) return [];
  const main = clusters.reduce((most, one) => (one.rows >= most.rows ? one : most));
  const stray = clusters.filter((one) => one !== main && isStray(one, main));
  const rows = stray.reduce((sum, one) => sum + one.rows, 0);
  if (rows === 0 || answer === 'keep') return [];
  if (rows > Math.max(FEW.rows, FEW.share * times.length) && answer !== 'leave-out')
    throw manyAsked(stray, main, rows, times.length);
  const out: Stray[] = [];
  times.forEach((ms, row) => {
    const of = stray.find((one) => ms >= one.from && ms <= one.to);
    if (of) out.push({ row, reason: reasonOf(ms, of, main) });
  });
  return out;
}

function clustersOf(times: Float64Array): Cluster[] {
  const runs: Cluster[] = [];
  times.forEach((ms, row) => {
    const run = runs[runs.length - 1];
    if (!run || isJump(times[row - 1]!, ms)) runs.push({ from: ms, to: ms, rows: 1, first: row, last: row });
    else {
      run.from = Math.min(run.from, ms);
      run.to = Math.max(run.to, ms);
      run.rows++;
      run.last = row;
    }
  });
  const clusters: Cluster[] = [];
  for (const run of runs.sort((a, b) => a.from - b.from)) {
    const before = clusters[clusters.length - 1];
    if (!before || (isJump(before.to, run.from) && run.from > before.to)) clusters.push({ ...run });
    else {
      before.to = Math.max(before.to, run.to);
      before.rows += run.rows;
      before.first = Math.min(before.first, run.first);
      before.last = Math.max(before.last, run.last);
    }
  }
  return clusters;
}

const isFallen = (one: Cluster, main: Cluster): boolean => one.to < EARLIEST && main.from >= EARLIEST;

function isStray(one: Cluster, main: Cluster): boolean {
  const later = one.from > main.to;
  const silence = later ? one.from - main.to : main.from - one.to;
  const outOfPlace = later ? main.last > one.first : main.first < one.last;
  return silence > FAR || outOfPlace || isFallen(one, main);
}

const day = (ms: number): string => new Date(ms).toISOString().slice(0, 10);

function apart(ms: number, main: Cluster): string {
  const later = ms > main.to;
  const days = Math.round((later ? ms - main.to : main.from - ms) / DAY);
  const years = Math.round(days / 365.25);
  const length = days < 366 ? `${days} days` : `${years} ${years === 1 ? 'year' : 'years'}`;
  return `${length} ${later ? 'after' : 'before'}`;
}

const reasonOf = (ms: number, of: Cluster, main: Cluster): string =>
  isFallen(of, main)
    ? `Its time, ${day(ms)}, is of a clock that had fallen back to its epoch: when the row was written cannot be known, and it is left out.`
    : `Its time, ${day(ms)}, lies ${apart(ms, main)} the rest of the log (${day(main.from)} to ${day(main.to)}); the row is left out.`;

function manyAsked(stray: readonly Cluster[], main: Cluster, rows: number, of: number): LogAsks {
  const span = {
    from: Math.min(...stray.map((one) => one.from)),
    to: Math.max(...stray.map((one) => one.to)),
  };
  return new LogAsks(
    { kind: 'stray-rows', rows, of, stray: span, rest: { from: main.from, to: main.to } },
    `${rows} of ${of} rows are of ${day(span.from)} to ${day(span.to)}, far from the others (${day(main.from)} to ${day(main.to)}): the clock may have begun anew. Say whether they are left out or kept (strayRows: "leave-out" or "keep").`,
  );
}
