/** A job in one line, for lists. */

import { SAID_APART } from '../log/trust/codes';
import type { Complaint } from '../system/schema';
import type { Diagnosis } from './result';
import type { Standing } from './weigh';

/** A finding of these standings is worth a line in a list. */
export const FOUND = ['strong', 'likely', 'possible'] as const satisfies readonly Standing[];
export const isFound = ({ standing }: { standing: Standing }): boolean =>
  (FOUND as readonly Standing[]).includes(standing);

export interface Headline {
  title: string;
  standing: Standing;
}

/** The foremost finding that is possible or better; null when there is none. */
export function headlineOf(findings: Diagnosis['findings']): Headline | null {
  const first = findings.find(isFound);
  return first ? { title: first.title, standing: first.standing } : null;
}

export interface JobSummary {
  id: string;
  systemId: string;
  title: string;
  system: string;
  complaints: Complaint[];
  openedAt: string;
  recordings: number;
  /** Settings that the review would change. */
  toChange: number;
  /** The foremost finding, 'nothing' when no cause is possible or better, null when no analysis was made yet. */
  headline: Headline | 'nothing' | null;
  /** Something was changed since: it is weighed anew when the job is opened. */
  stale: boolean;
}

export const COMPLAINT_WORDS: Record<Complaint, string> = {
  undercharging: 'never gets full',
  'drifting-soc': 'percentage drifts',
  'premature-cutoff': 'cuts off too soon',
};

/** What a diagnosis comes to, in figures. */
export interface JobDigest {
  charges: number;
  /** Syncs, and how many of them came too soon; null where nothing was counted. */
  syncs: { all: number; wrong: number } | null;
  /** Cut-offs; null without a log. */
  cutoffs: number | null;
  /** Cells that do not stand with the others; null where none were logged. */
  cellsApart: number | null;
  /** Hydrometer rounds were written down. */
  hasRounds: boolean;
  /** Causes that are possible or better. */
  found: number;
}

export const digestOf = ({
  charges,
  findings,
  counting,
  syncs,
  cutoffs,
  discharge,
  cells,
  hydrometer,
}: Diagnosis): JobDigest => ({
  charges: charges.length,
  syncs: counting && { all: syncs.length, wrong: syncs.filter((one) => one.judged === 'false').length },
  cutoffs: discharge && cutoffs.length,
  cellsApart:
    cells && cells.kind === 'cells'
      ? cells.cells.filter(
          (one) => one.verdict !== 'level' && (one.verdict !== 'unknown' || one.firstLow > 0),
        ).length
      : null,
  hasRounds: hydrometer.length > 0,
  found: findings.filter(isFound).length,
});

/** Doubts that do not keep the logs from being weighed: nothing is judged by gaps and wild rows, and clocks are set right for it. */
const MINDED: readonly string[] = [...SAID_APART, 'clock-offset', 'settings-changed'];

/** Names in the diagnosis, as people say them. */
const SAID: Record<string, string> = {
  cells: 'how cells part over weeks',
};

/** What is said where no cause is possible or better. */
export const nothingFound = ({ trust, unexamined }: Pick<Diagnosis, 'trust' | 'unexamined'>): string =>
  `No likely cause found. ${
    trust.some((note) => !MINDED.includes(note.code))
      ? 'The logs cannot be trusted as they are: settle that first.'
      : unexamined.length > 0
        ? `Not yet checked: ${unexamined.map((one) => SAID[one] ?? one).join(', ')}.`
        : 'Everything that the logs can show was checked.'
  }`;
