/** A log on its way in, as browser and server speak of it. */

import { LOG_ANSWERS, type LogQuestion } from './answers';
import type { LogDescription } from './takeIn';

/**
 * receiving: the file is being sent. waiting: for a worker. reading, storing, analysing: one is at it. asking: it overlaps an earlier log
 * of the device, is damaged, or runs astray, and only a person can say what shall be. done, failed: over.
 */
export const INTAKE_STATES = [
  'receiving',
  'waiting',
  'reading',
  'storing',
  'analysing',
  'asking',
  'done',
  'failed',
] as const;
export type IntakeState = (typeof INTAKE_STATES)[number];

export const OVERLAP_ANSWERS = ['merge', 'replace'] as const;
export type OverlapAnswer = (typeof OVERLAP_ANSWERS)[number];

/** Bytes of a file that are sent at a time. */
export const PART_BYTES = 4 * 1024 * 1024;
/** The largest file that is taken in, bytes. */
export const MOST_BYTES = 4 * 1024 ** 3;

/** An earlier recording of the same device that the new log overlaps in time. */
export interface Overlapped {
  id: string;
  fileName: string;
  /** Where the two overlap, epoch ms. */
  from: number;
  to: number;
}

/** What is asked of a log on its way in. */
export type IntakeQuestion = { kind: 'overlap'; with: Overlapped[] } | LogQuestion;

/** An answer to it: what shall be with the overlap, or how the log is to be read. */
export const INTAKE_ANSWERS = [...OVERLAP_ANSWERS, ...LOG_ANSWERS.strayRows, ...LOG_ANSWERS.damaged] as const;
export type IntakeAnswer = (typeof INTAKE_ANSWERS)[number];

/** Which answers fit a question. */
export const answersTo = ({ kind }: IntakeQuestion): readonly IntakeAnswer[] =>
  kind === 'overlap' ? OVERLAP_ANSWERS : kind === 'damaged' ? LOG_ANSWERS.damaged : LOG_ANSWERS.strayRows;

export interface Intake {
  id: string;
  fileName: string;
  size: number;
  received: number;
  description: LogDescription;
  state: IntakeState;
  /** While `asking`. */
  question: IntakeQuestion | null;
  /** While `failed`: a sentence. */
  problem: string | null;
  recordingId: string | null;
}

/** What a confirmed reading keeps for the next log with the same headings. */
export type Recipe = Pick<LogDescription, 'columns' | 'dateOrder' | 'timeZone'>;

/** Logs with the same headings, written the same way by the same kind of device, are read alike. */
export const recipeKey = (kind: string, delimiter: string, headings: readonly string[]): string =>
  JSON.stringify([kind, delimiter, headings]);
