/**
 * The one function that the command line, the server and the tests call: a job's description and logs in, the diagnosis out.
 * The result is plain JSON and the same, byte for byte, for the same input.
 */

import { isoSpan, isoTime, overlaps, type Span } from '../quantity/span';
import type { TrustNote } from '../log/trust';
import type { Evidence } from '../causes/cause';
import { reviewSettings } from '../system/review/review';
import type { Complaint, Job, System } from '../system/schema';
import type { Series } from '../log/channels';
import type { Charge, EndedBy, Stage, StageName } from '../charge/types';
import { CAUSES } from '../causes';
import { explain } from './explain';
import { chooseNextTest, type NextTest } from './nextTest';
import { observe } from './observe';
import { type Standing, weighCauses } from './weigh';

/** Goes up when the same input may give another result: stored analyses of an older version are made anew. */
export const CORE_VERSION = 6;

export type IsoSpan = [string, string];

export interface DiagnosisStage {
  stage: StageName;
  from: string;
  to: string;
  /** V, A and Ah; null when not known. Current and charge are the battery's where they were logged. */
  volts: number | null;
  endAmps: number | null;
  ampHours: number | null;
  endedBy: EndedBy;
  /** Minutes at the voltage without dips, and how many dips of the supply there were. */
  heldMinutes: number;
  dips: number;
  celsius: number | null;
}

export interface DiagnosisCharge {
  from: string;
  to: string;
  source: string | null;
  stages: DiagnosisStage[];
  full: boolean;
}

export interface Finding {
  cause: string;
  title: string;
  complaint: Complaint;
  standing: Standing;
  decibans: number;
  evidence: { text: string; decibans: number; spans: IsoSpan[] }[];
  missing: string[];
  /** Codes of likelier faults that bring this one with them: then it is told as their consequence. */
  explainedBy: string[];
  tests: string[];
  /** What keeps the logs that it leans on from being believed; empty when nothing does. */
  caveats: string[];
}

export interface Diagnosis {
  format: 1;
  /** What this version does not look at yet: an empty list under one of these names says nothing. */
  unexamined: string[];
  trust: {
    code: string;
    devices: string[];
    text: string;
    spans: IsoSpan[];
    /** For a clock that is off: what to add to its times. */
    clock?: { device: string; offsetSeconds: number; secondsPerDay: number };
  }[];
  hazards: { code: string; text: string; spans: IsoSpan[] }[];
  charges: DiagnosisCharge[];
  setpoints: {
    source: string | null;
    absorptionV: number | null;
    floatV: number | null;
    compensationMvPerCellPerC: number | null;
  }[];
  syncs: never[];
  cutoffs: never[];
  findings: Finding[];
  nextTest: NextTest | null;
  settings: {
    of: string;
    setting: string;
    now: number | string;
    advised: number | string;
    school: string | null;
    why: string;
  }[];
}

export interface DiagnosisInput {
  job: Job;
  system: System;
  series: readonly Series[];
}

export function diagnose({ job, system, series }: DiagnosisInput): Diagnosis {
  const seen = observe(job, system, series);
  const weighed = explain(weighCauses(CAUSES, seen));
  const review = reviewSettings(system, job);
  const perMv = (seen.bank?.cellsInSeries ?? NaN) / 1000;
  return {
    format: 1,
    unexamined: ['hazards in the log', 'syncs', 'cutoffs', 'soc'],
    trust: seen.trust.map(({ spans, ...note }) => ({ ...note, spans: spans.map(isoSpan) })),
    hazards: review.hazards.map(({ code, text }) => ({ code, text, spans: [] })),
    charges: seen.charging
      .flatMap((one) => one.charges)
      .sort((a, b) => a.from - b.from || a.to - b.to)
      .map(chargeOut),
    setpoints: seen.charging.map(({ source, setpoints }) => ({
      source: source?.id ?? null,
      absorptionV: rounded(setpoints.absorption?.volts, 2),
      floatV: rounded(setpoints.float?.volts, 2),
      compensationMvPerCellPerC:
        setpoints.celsius && setpoints.celsius.max - setpoints.celsius.min >= 3
          ? rounded(setpoints.voltsPerC / perMv, 1)
          : null,
    })),
    syncs: [],
    cutoffs: [],
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

function chargeOut(charge: Charge): DiagnosisCharge {
  return {
    from: isoTime(charge.from),
    to: isoTime(charge.to),
    source: charge.source,
    stages: charge.stages.map(stageOut),
    full: charge.full,
  };
}

function stageOut(stage: Stage): DiagnosisStage {
  return {
    stage: stage.stage,
    from: isoTime(stage.from),
    to: isoTime(stage.to),
    volts: rounded(stage.volts, 3),
    endAmps: rounded(stage.endAmps, 2),
    ampHours: rounded(stage.ampHours, 2),
    endedBy: stage.endedBy,
    heldMinutes: rounded(stage.heldMs / 60_000, 1) ?? 0,
    dips: stage.dips,
    celsius: rounded(stage.celsius, 1),
  };
}

/** Rounded for output; NaN and undefined become null, because JSON has neither. */
function rounded(value: number | undefined, digits: number): number | null {
  if (value === undefined || !Number.isFinite(value)) return null;
  return Number(value.toFixed(digits)) + 0;
}
