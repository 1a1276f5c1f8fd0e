/** Runs of equal states, and how they make up charges and stages. */

import { HOUR, MINUTE } from '../quantity/span';
import { SILENT } from './path';
import { DIP_OF, STAGE_OF, STATES, type State } from './states';
import type { StageName } from './types';

export interface Run {
  /** Null where the log is silent. */
  state: State | null;
  /** Cells; `to` is exclusive. */
  from: number;
  to: number;
}

/** A stage as runs, before it is measured. */
export interface StageRuns {
  stage: StageName;
  runs: Run[];
  dips: number;
  /** The log is silent for long right before or after it: its length is not known. */
  cutOff: boolean;
}

/** A source that was away, idle or unseen for longer than this begins a new charge. */
const NEW_CHARGE_AFTER = 2 * HOUR;
/** Over a shorter silence a stage goes on, though the time is not counted as held. */
const SHORT_SILENCE = 30 * MINUTE;

/** A step from one held voltage to the next takes no longer. */
const BETWEEN = 3 * MINUTE;

/** Equal states joined. */
export function runsOf(path: Uint8Array): Run[] {
  const runs: Run[] = [];
  for (let cell = 0; cell < path.length; cell++) {
    const state = path[cell]! === SILENT ? null : STATES[path[cell]!]!;
    const last = runs[runs.length - 1];
    if (last && last.state === state) last.to = cell + 1;
    else runs.push({ state, from: cell, to: cell + 1 });
  }
  return runs;
}

const isDip = ({ state }: Run): boolean => state !== null && DIP_OF[state] !== undefined;

/** Splits runs into charges: at a long absence or silence, and where bulk starts again out of float and reaches absorption. */
export function groupRuns(runs: Run[], step: number): Run[][] {
  const groups: Run[][] = [];
  let group: Run[] = [];
  const close = () => {
    while (group.length > 0) {
      const last = group[group.length - 1]!;
      const long = isDip(last) && (last.to - last.from) * step > 30 * MINUTE;
      if (last.state !== 'off' && last.state !== null && (!isDip(last) || long)) break;
      group.pop();
    }
    // What only ever held off or waited was no charge.
    if (
      group.some(({ state }) => state !== 'hold' && state !== 'sinking' && state !== 'off' && state !== null)
    )
      groups.push(group);
    group = [];
  };
  runs.forEach((run, i) => {
    const length = (run.to - run.from) * step;
    if ((run.state === 'off' || run.state === null) && length > NEW_CHARGE_AFTER) close();
    else if (
      run.state === 'bulk' &&
      group.some((one) => one.state === 'float') &&
      runs[i + 1]?.state === 'absorption'
    ) {
      close();
      group.push(run);
    } else if ((run.state !== 'off' && run.state !== null) || group.length > 0) group.push(run);
  });
  close();
  return groups;
}

/** The stages of a charge. A dip belongs to the stage that goes on after it; else it was the stage's end, and the supply failing. */
export function stagesOf(group: Run[], step: number): StageRuns[] {
  const stages: StageRuns[] = [];
  let open: StageRuns | null = null;
  let afterSilence = false;
  group.forEach((run, i) => {
    if (run.state === null) {
      if ((run.to - run.from) * step <= SHORT_SILENCE) return;
      if (open) open.cutOff = true;
      open = null;
      afterSilence = true;
      return;
    }
    const goesOnAs = DIP_OF[run.state];
    const next = group[i + 1]?.state;
    if (goesOnAs && open && next === goesOnAs) {
      open.dips++;
      open.runs.push(run);
      return;
    }
    const stage: StageName = goesOnAs ? 'bulk' : STAGE_OF[run.state];
    // On its way from absorption down to float a charger is between the two for a moment: that is no bulk.
    if (
      stage === 'bulk' &&
      open?.stage === 'absorption' &&
      (run.to - run.from) * step <= BETWEEN &&
      (next === 'float' || next === 'sinking')
    )
      return;
    if (open && open.stage === stage) open.runs.push(run);
    else stages.push((open = { stage, runs: [run], dips: 0, cutOff: afterSilence }));
    afterSilence = false;
  });
  return stages;
}
