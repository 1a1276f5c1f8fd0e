/**
 * The one function that the command line, the server and the tests call: a job's description and logs in, the diagnosis out.
 * The result is plain JSON and the same, byte for byte, for the same input.
 */

import { isoSpan, overlaps, type Span } from '../quantity/span';
import type { TrustNote } from '../log/trust';
import type { Evidence } from '../causes/cause';
import { reviewSettings } from '../system/review/review';
import { knownSystem } from '../system/known';
import type { Job, System } from '../system/schema';
import type { Series } from '../log/channels';
import { CAUSES } from '../causes';
import { chargingOut } from './chargingOut';
import { countingOut } from './countingOut';
import { explain } from './explain';
import { chooseNextTest } from './nextTest';
import { observe, type Observed } from './observe';
import { type Diagnosis, type IsoSpan, LATER_SECTIONS, type LaterSection } from './result';
import { isFound } from './summary';
import { weighCauses } from './weigh';

export interface DiagnosisInput {
  job: Job;
  system: System;
  series: readonly Series[];
}

/** The whole way: what the logs show, then what it comes to. */
export const diagnose = ({ job, system, series }: DiagnosisInput): Diagnosis =>
  conclude(job, system, observe(system, series));

/** What it comes to, from what the logs have shown: quick, and no sample is read again. @param observed of this system */
export function conclude(job: Job, system: System, observed: Observed): Diagnosis {
  const seen = { ...observed, job, system, bank: knownSystem(system)?.bank ?? null };
  const weighed = explain(weighCauses(CAUSES, seen));
  const review = reviewSettings(system, job);
  // Families of observations that are still to come fill these.
  const later: Partial<Pick<Diagnosis, LaterSection>> = {};
  return {
    format: 1,
    unexamined: LATER_SECTIONS.filter((one) => !Object.hasOwn(later, one)),
    trust: seen.trust.map(({ spans, ...note }) => ({ ...note, spans: spans.map(isoSpan) })),
    hazards: [
      ...review.hazards.map(({ code, text }) => ({ code, text, spans: [] })),
      ...seen.hazards.map(({ code, text, spans }) => ({ code, text, spans: spans.map(isoSpan) })),
    ],
    ...chargingOut(seen),
    ...countingOut(seen.counting),
    cutoffs: later.cutoffs ?? [],
    findings: weighed.map(({ cause, standing, decibans, evidence, missing, explainedBy }) => ({
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
      remedy:
        seen.bank && isFound({ standing }) ? (cause.remedy?.({ ...seen, bank: seen.bank }) ?? null) : null,
      tests: Object.keys(cause.tests),
      caveats: caveatsOf(evidence, seen.trust),
    })),
    nextTest: chooseNextTest(weighed),
    settings: review.sheet.flatMap(({ of, setting, now, advised, verdict, school, why }) =>
      verdict === 'change' && now !== null ? [{ of, setting, now, advised, school, why }] : [],
    ),
  };
}

/** Notes of trust that lie on the spans that the evidence comes from; gaps are told on their own, nothing was counted in them. */
function caveatsOf(evidence: readonly Evidence[], trust: readonly TrustNote[]): string[] {
  const spans = evidence.flatMap((item) => item.spans);
  return trust
    .filter(
      (note) => note.code !== 'gaps' && note.spans.some((one) => spans.some((span) => overlaps(one, span))),
    )
    .map((note) => note.text);
}

const tidy = (spans: Span[]): IsoSpan[] => [...spans].sort((a, b) => a.from - b.from).map(isoSpan);
