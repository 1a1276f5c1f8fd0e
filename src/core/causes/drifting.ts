/** What the causes of a drifting percentage share. */

import { median } from '../quantity/numbers';
import type { Span } from '../quantity/span';
import type { Counting, DriftInterval, DriftPart, JudgedSync } from '../count/types';
import { percent, points } from '../quantity/text';
import { type Bands, type Evidence, type Observations, shrunk, weightOf } from './cause';

export const DRIFT_PRIOR = { complained: -4, otherwise: -10 } as const;

/** A setting with so much against it is plainly wrong on paper, dB: no echo of anything, however little it makes. */
export const ON_PAPER = 13;

export const over = (value: number): string => (value > 0 ? 'too high' : 'too low');

/** The count of a monitor that counts; null where none was logged, or its reading is no count. */
export const countOf = ({ counting, system }: Observations): Counting | null =>
  system.monitor?.method === 'voltage' ? null : counting;

/** Syncs whose rise was logged: how a reading got to full in a gap is not known, it may have counted its way up. */
export const seenSyncs = ({ syncs }: Pick<Counting, 'syncs'>): JudgedSync[] =>
  syncs.filter((one) => !one.afterGap);

export interface DriftBy {
  /** Points that this error alone makes over an interval, median. */
  points: number;
  /** Part of the whole drift that it accounts for; 1 is all of it. */
  explains: number;
  intervals: DriftInterval[];
  spans: Span[];
}

/** Less than this over an interval is what good settings leave, points. */
const SMALL = 3;

/** Drift over the intervals that plainly drift, by one of its parts; null where none does. */
export function driftBy({ intervals }: Counting, part: DriftPart): DriftBy | null {
  const drifting = intervals.filter((one) => Math.abs(one.drift) > SMALL + one.deviation);
  if (drifting.length === 0) return null;
  const total = drifting.reduce((sum, one) => sum + Math.abs(one.drift), 0);
  const along = drifting.reduce((sum, one) => sum + Math.sign(one.drift) * one.parts[part], 0);
  return {
    points: median(drifting.map((one) => one.parts[part])),
    explains: along / total,
    intervals: drifting,
    spans: drifting,
  };
}

/** Drift that one error accounts for, or does not, as evidence; none where nothing drifts. @param bands by the part that it accounts for */
export function driftEvidence(counting: Counting, part: DriftPart, bands: Bands): Evidence[] {
  const drift = driftBy(counting, part);
  if (!drift) return [];
  return [
    {
      text: `Between syncs it alone makes the reading ${points(drift.points)} ${over(drift.points)}, ${percent(100 * Math.max(0, Math.min(1, drift.explains)))} of the drift.`,
      decibans: shrunk(weightOf(bands, drift.explains), drift.intervals.length),
      group: 'drift',
      spans: drift.spans,
    },
  ];
}

/** A monitor is there; else the cause has nothing to do with this system. */
export const missingMonitor = ({ system }: Observations): string[] =>
  system.monitor ? [] : ['the monitor and its settings'];

/** Efficiencies beyond these no device counts by, %. */
const SENSIBLE = { least: 30, most: 125 };

/** The reading moves otherwise than the current that was logged could ever move it: the log was written too seldom to count by. */
export function isTooCoarse({ behaves }: Counting): boolean {
  const efficiency = behaves?.efficiencyPercent ?? NaN;
  return efficiency < SENSIBLE.least || efficiency > SENSIBLE.most;
}

/** Of what the truth rests on, these are more than a table of rest voltages. */
const FIRM = ['full', 'absorption', 'bms', 'float'];
export const isFirm = ({ anchors }: Counting): boolean => FIRM.some((kind) => (anchors[kind] ?? 0) > 0);
