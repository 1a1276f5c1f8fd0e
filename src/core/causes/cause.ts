/**
 * What a cause is. Each lives in a file of its own, named by its code: it says what it is and what it needs, and weighs the
 * observations of a job for and against itself. It never sees samples.
 */

import type { Span } from '../quantity/span';
import type { KnownBank } from '../system/known';
import type { Chemistry, Complaint, Job, System } from '../system/schema';
import type { SourceCharging } from '../charge/charges';

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
  reached: 'nothing' | 'bulk' | 'absorption' | 'float';
}

/** Everything that was seen of a job, from the description and the logs. */
export interface Observations {
  job: Job;
  system: System;
  /** Null while a basic of the bank is not known: then no log can be judged. */
  bank: KnownBank | null;
  span: Span | null;
  charging: SourceCharging[];
  days: DayBalance[];
}

export interface Evidence {
  /** One sentence with its figures. */
  text: string;
  /** 10·log10 of the likelihood ratio; + speaks for the cause, − against. */
  decibans: number;
  /** Items that say the same thing twice carry the same group and are capped together. */
  group: string;
  spans: Span[];
}

export interface Weighing {
  evidence: Evidence[];
  /** What would have to be measured or told, as short phrases. When nothing could be weighed the cause stands at cannot-tell. */
  missing: string[];
}

export interface TestOutcome {
  name: string;
  /** Probability of this outcome when the cause holds and when it does not. Each column sums to 1. */
  ifHolds: number;
  ifNot: number;
}

export interface Cause {
  code: string;
  /** What is wrong, in a few words. */
  title: string;
  complaint: Complaint;
  chemistries: readonly Chemistry[] | 'all';
  /** What the log must have, in words for the technician. */
  needs: string;
  /** What it looks like in the log. */
  signature: string;
  /** dB before any evidence: when the job has this complaint, and when it has not. */
  prior: { complained: number; otherwise: number };
  /** The log is not read for it yet: it is brought up only when description, walk or checks speak for it. */
  onlyWhenSpokenOf?: true;
  /** Most that one group of evidence may add up to, dB, where it is not the usual 15. */
  caps?: Record<string, number>;
  /** Tests that can decide it, by name, with how likely each outcome is. */
  tests: Record<string, readonly TestOutcome[]>;
  weigh(seen: Observations): Weighing;
}

/** Shrinks a weight towards nothing when it rests on few occurrences: half of it on 1.5, nearly all on 15. */
export function shrunk(decibans: number, occurrences: number): number {
  return Math.round((decibans * occurrences) / (occurrences + 1.5));
}
