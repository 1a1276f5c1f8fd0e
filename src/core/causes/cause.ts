/**
 * What a cause is. Each lives in a file of its own, named by its code: it says what it is and what it needs, carries its weights and its
 * tests, and weighs the observations of a job for and against itself. It never sees samples.
 */

import type { Span } from '../quantity/span';
import type { KnownBank } from '../system/known';
import type { CheckId } from '../system/checklist';
import type { Chemistry, Complaint, Job, System } from '../system/schema';
import type { Refusal } from '../charge/refusals';
import type { SourceCharging } from '../charge/types';
import type { Counting } from '../count/types';
import type { CutOffs } from '../cutoff/types';
import type { Cells } from '../cells/types';
import type { JudgedTest } from '../capacity/judge';
import type { JudgedRound } from '../hydrometer/judge';
import type { FactCode } from '../onsite/said';
import type { Visit } from '../onsite/visit';
import type { BatteryBeside } from '../parallel/beside';
import type { CauseCode } from './codes';
import type { Family } from './families';
import type { Remedy } from './remedy';
import type { TestCode } from './tests';

/** How far charging can get on a day, in rising order. */
export const REACHED = ['nothing', 'bulk', 'absorption', 'float'] as const;

/** Charge through the battery on one day of the site's clock. */
export interface DayBalance extends Span {
  /** Local date, 2026-09-21. */
  date: string;
  /** Ah into and out of the battery; NaN when its current was not logged. */
  ampHoursIn: number;
  ampHoursOut: number;
  /** Hours of the day that the logs cover. */
  hours: number;
  /** How far charging got on it. */
  reached: (typeof REACHED)[number];
}

/** Everything that was seen of a job, from the description and the logs. */
export interface Observations {
  job: Job;
  system: System;
  /** Null while a basic of the bank is not known: then no log can be judged. */
  bank: KnownBank | null;
  span: Span | null;
  charging: SourceCharging[];
  /** Null where no current into the battery was logged. */
  counting: Counting | null;
  days: DayBalance[];
  /** When the BMS let no charge in; null where nobody logged it. */
  refusals: Refusal[] | null;
  /** Null without a log, or while a basic of the bank is not known. */
  cutoffs: CutOffs | null;
  /** Null where neither cells nor the voltage between two halves were logged. */
  cells: Cells | null;
  /** Batteries in parallel with a log each, beside each other; empty without. */
  batteries: BatteryBeside[];
  /** Hydrometer rounds of the system, judged, the oldest first. */
  rounds: JudgedRound[];
  /** Capacity tests of the system, judged, the oldest first. */
  capacityTests: JudgedTest[];
  /** Visits of this job, the oldest first. */
  visits: Visit[];
}

/** Observations of a battery of which the basics are known. */
export type Judged = Observations & { bank: KnownBank };

export interface Evidence {
  /** One sentence with its figures. */
  text: string;
  /** 10·log10 of the likelihood ratio; + speaks for the cause, − against. */
  decibans: number;
  /** Items that say the same thing twice carry the same group and are capped together. */
  group: string;
  spans: Span[];
}

export interface TestOutcome {
  name: string;
  /** Probability of this outcome when the cause holds and when it does not. Each column sums to 1. */
  ifHolds: number;
  ifNot: number;
}

/** Reads a value in bands: each row is [at least, dB], highest first; below the last row its dB still holds. */
export type Bands = ReadonlyArray<readonly [number, number]>;

export function weightOf(bands: Bands, value: number): number {
  for (const [least, decibans] of bands) if (value >= least) return decibans;
  return bands[bands.length - 1]![1];
}

export interface Cause {
  code: CauseCode;
  /** What is wrong, in a few words. */
  title: string;
  complaint: Complaint;
  chemistries: readonly Chemistry[] | 'all';
  /** Families of observations without which the log cannot show it. */
  families: readonly Family[];
  /** What the log must have, in words for the technician. */
  needs: string;
  /** What it looks like in the log. */
  signature: string;
  /** dB before any evidence: when the job has this complaint, and when it has not. */
  prior: { complained: number; otherwise: number };
  /** It is brought up only when something speaks for it: the log is not read for it yet, or most systems cannot have it. */
  onlyWhenSpokenOf?: true;
  /**
   * Weights of its evidence, dB: how often such an observation comes with the cause and how often without it. Set by sense first, and
   * judged by `npm run sweep` over simulated sites that no test uses; overruled where a band is something only a simulator does.
   */
  weights: Readonly<Record<string, Bands | number>>;
  /** Most that one group of evidence may add up to, dB, where it is not the usual 15. */
  caps?: Readonly<Record<string, number>>;
  /** What answers of the checklists say: dB when it was found, dB when it was fine, and the sentence of what was found. */
  answers?: Partial<Record<CheckId, { found: number; fine: number; text: string }>>;
  /** What facts of a visit say for or against it, dB. */
  onSite?: Partial<Record<FactCode, number>>;
  /** Tests that can decide it, by name, with how likely each outcome is. */
  tests: Partial<Record<TestCode, readonly TestOutcome[]>>;
  /** Evidence from the description, the wiring walk and what was measured by hand. */
  described?(seen: Observations): Evidence[];
  /** Evidence from the logs; asked only where no family that it needs is missing. */
  weigh?(seen: Judged): Evidence[];
  /** What is done about it, with the figure to set. */
  remedy?(seen: Judged): Remedy;
  /** What would have to be measured or told beyond the families, as short phrases. */
  missing?(seen: Observations, evidence: readonly Evidence[]): string[];
}

export const speaksFor = (evidence: readonly Evidence[]): boolean =>
  evidence.some(({ decibans }) => decibans > 0);

/** Of the evidence of each device: one that is wrong is enough, and that the others are right clears nobody. */
export function oneIsEnough(each: readonly Evidence[][]): Evidence[] {
  const wrong = each.filter(speaksFor);
  return (wrong.length > 0 ? wrong : each).flat();
}

/** Shrinks a weight towards nothing when it rests on few occurrences: four fifths of it on three, nearly all on ten. */
export function shrunk(decibans: number, occurrences: number): number {
  return Math.round((decibans * occurrences) / (occurrences + 0.75));
}
