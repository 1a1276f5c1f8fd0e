/**
 * The one function that the command line, the server and the tests call: a job's description and logs in, the diagnosis out.
 * The result is plain JSON and the same, byte for byte, for the same input.
 */

import type { Change } from '../bundle/schema';
import { isoSpan, overlaps, type Span } from '../quantity/span';
import type { TrustNote } from '../log/trust';
import { asComplained } from '../cutoff/doubtful';
import { SAID_APART } from '../log/trust/codes';
import type { Evidence } from '../causes/cause';
import { asItWas, sinceSentence } from '../system/asItWas';
import { reviewSettings } from '../system/review/review';
import { knownSystem } from '../system/known';
import type { Job, System } from '../system/schema';
import { type Series, spanOf } from '../log/channels';
import { CAUSES } from '../causes';
import { cellsOut } from './cellsOut';
import { chargingOut } from './chargingOut';
import { countingOut } from './countingOut';
import { cutoffsOut } from './cutoffsOut';
import { explain } from './explain';
import { rankTests } from './nextTest';
import { observe, type Observed } from './observe';
import type { Diagnosis, IsoSpan } from './result';
import { judgeRounds } from '../hydrometer/judge';
import { hydrometerText } from '../hydrometer/text';
import { capacityText } from '../capacity/text';
import { judgeTests } from '../capacity/judge';
import { noRecords, type SystemRecords } from '../records/records';
import { parallelOut } from './parallelOut';
import { isFound } from './summary';
import { testsMade } from './testsMade';
import { weighCauses } from './weigh';

export interface DiagnosisInput {
  job: Job;
  system: System;
  series: readonly Series[];
  /** Settings changed for the record: what was changed after the logs ran is not what they are judged by. */
  changes?: readonly Change[];
  /** What is kept of the system: hydrometer rounds, capacity tests. */
  records?: SystemRecords;
}

/** The whole way: what the logs show, then what it comes to. */
export function diagnose({ job, system, series, changes = [], records }: DiagnosisInput): Diagnosis {
  const was = asItWas(system, changes, middleOf(series.filter((one) => one.time.length > 0).map(spanOf)));
  return conclude(job, was.system, observe(was.system, series), {
    today: system,
    since: was.since,
    records,
  });
}

/** So many tests after the next are offered. */
const FURTHER = 4;

/** The middle of the logs, epoch ms; today without any. */
export const middleOf = (spans: readonly Span[]): number =>
  spans.length === 0
    ? Infinity
    : (Math.min(...spans.map((one) => one.from)) + Math.max(...spans.map((one) => one.to))) / 2;

/**
 * What it comes to, from what the logs have shown: quick, and no sample is read again.
 * @param system as it was set while they ran. @param observed of that system. @param changed the system of today, and what was changed since
 */
export function conclude(
  job: Job,
  system: System,
  observed: Observed,
  {
    today = system,
    since = [],
    records = noRecords(),
  }: { today?: System; since?: readonly Change[]; records?: SystemRecords } = {},
): Diagnosis {
  const changed = sinceSentence(since);
  const rounds = judgeRounds(records['hydrometer-round'], system);
  const capacityTests = judgeTests(records['capacity-test'], system);
  const bank = knownSystem(system)?.bank ?? null;
  const seen = {
    ...observed,
    cutoffs: asComplained(observed.cutoffs, job.complaints),
    job,
    system,
    bank,
    rounds,
    capacityTests,
    visits: records.visit,
  };
  const weighed = explain(weighCauses(CAUSES, seen), job.complaints);
  const review = reviewSettings(today, job);
  const made = (job.tests ?? []).map((one) => one.test);
  const [next = null, ...further] = rankTests(weighed, [...made, ...(job.testsLeftOut ?? [])]);
  return {
    format: 1,
    unexamined: [],
    trust: [
      ...seen.trust.map(({ spans, ...note }) => ({ ...note, spans: spans.map(isoSpan) })),
      ...(changed ? [{ code: 'settings-changed', devices: [], text: changed, spans: [] }] : []),
    ],
    hazards: [
      ...review.hazards.map(({ code, text }) => ({ code, text, spans: [] })),
      ...seen.hazards.map(({ code, text, spans }) => ({ code, text, spans: spans.map(isoSpan) })),
    ],
    ...chargingOut(seen),
    ...countingOut(seen.counting),
    ...cutoffsOut(seen.cutoffs, seen.counting),
    cells: cellsOut(seen.cells),
    batteries: parallelOut(seen.batteries),
    hydrometer: hydrometerText(rounds, system),
    capacity: capacityText(capacityTests),
    findings: weighed.map(({ cause, standing, decibans, evidence, missing, explainedBy, ruledOut }) => ({
      cause: cause.code,
      title: cause.title,
      complaint: cause.complaint,
      standing,
      decibans,
      evidence: evidence.map((item) => ({
        text: item.text,
        decibans: item.decibans,
        spans: tidy(item.spans),
      })),
      missing,
      explainedBy,
      ruledOut,
      remedy:
        seen.bank && isFound({ standing }) ? (cause.remedy?.({ ...seen, bank: seen.bank }) ?? null) : null,
      tests: Object.keys(cause.tests),
      caveats: caveatsOf(evidence, seen.trust),
    })),
    nextTest: next,
    furtherTests: further.slice(0, FURTHER),
    testsMade: testsMade(job.tests, CAUSES),
    settings: review.sheet.flatMap(({ of, setting, now, advised, verdict, school, why }) =>
      verdict === 'change' && now !== null ? [{ of, setting, now, advised, school, why }] : [],
    ),
  };
}

/** Notes of trust that lie on the spans that the evidence comes from, but for what is said apart. */
function caveatsOf(evidence: readonly Evidence[], trust: readonly TrustNote[]): string[] {
  const spans = evidence.flatMap((item) => item.spans);
  return trust
    .filter(
      (note) =>
        !SAID_APART.includes(note.code) &&
        note.spans.some((one) => spans.some((span) => overlaps(one, span))),
    )
    .map((note) => note.text);
}

const tidy = (spans: Span[]): IsoSpan[] => [...spans].sort((a, b) => a.from - b.from).map(isoSpan);
