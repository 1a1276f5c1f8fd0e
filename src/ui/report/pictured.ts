/** Pictures of the strips for a report: of what its findings lean on, and of its pins. */

import type { Diagnosis } from '@/core/diagnosis/result';
import type { Channel } from '@/core/log/channels';
import type { Extent } from '@/core/log/pyramid';
import type { RecordingInfo } from '@/core/log/recording';
import { DAY, HOUR, lengthOf, type Span } from '@/core/quantity/span';
import type { Job, Pin, System } from '@/core/system/schema';
import { drawPicture, type Drawn, type PictureLane, type PictureTrace } from '@/ui/picture/picture';
import { stagesOf } from '@/ui/picture/stagesOf';
import { lanesOf } from '@/ui/strips/lanes';

export interface ReportPictures {
  /** By the code of the cause. */
  findings: ReadonlyMap<string, Drawn>;
  /** By the id of the pin. */
  pins: ReadonlyMap<string, Drawn>;
}

export const NO_PICTURES: ReportPictures = { findings: new Map(), pins: new Map() };

/** Findings that a report tells with their evidence. */
export const NOTABLE: readonly string[] = ['strong', 'likely', 'possible'];
/** A picture of more than so long shows nothing any more. */
const MOST = 14 * DAY;

/** The span of its weightiest evidence: of several the one of middle length. Null where it leans on none, or is not told. */
export function findingSpan({
  standing,
  evidence,
}: Pick<Diagnosis['findings'][number], 'standing' | 'evidence'>): Span | null {
  if (!NOTABLE.includes(standing)) return null;
  const best = evidence
    .filter((one) => one.spans.length > 0 && one.decibans > 0)
    .reduce<(typeof evidence)[number] | null>(
      (most, one) => (most === null || one.decibans > most.decibans ? one : most),
      null,
    );
  const spans = (best?.spans ?? [])
    .map(([from, to]) => ({ from: Date.parse(from), to: Date.parse(to) }))
    .sort((a, b) => lengthOf(a) - lengthOf(b));
  return spans[Math.floor(spans.length / 2)] ?? null;
}

export const pinSpan = ({ from, to }: Pin): Span => ({ from: Date.parse(from), to: Date.parse(to) });

/** A span with something before and after it, within the log. */
export function spanAbout({ from, to }: Span, full: Span): Span {
  const margin = Math.max(2 * HOUR, 0.3 * (to - from));
  const wide = { from: Math.max(full.from, from - margin), to: Math.min(full.to, to + margin) };
  if (wide.to - wide.from <= MOST) return wide;
  return { from: wide.from, to: wide.from + MOST };
}

/** px, and of the parts in which values are looked at. */
const WIDTH = 660;
const PARTS = 600;
/** On paper a lane is lower than on the screen. */
const SMALLER = 0.55;
const MOST_PINS = 12;

export interface Pictured {
  job: Job;
  system: System;
  recordings: readonly RecordingInfo[];
  diagnosis: Diagnosis;
}

type ExtentOf = (recording: RecordingInfo, channel: Channel, span: Span, parts: number) => Promise<Extent>;

export async function picturesOf(of: Pictured, extentOf: ExtentOf): Promise<ReportPictures> {
  const findings = new Map<string, Drawn>();
  const pins = new Map<string, Drawn>();
  if (of.recordings.length === 0) return { findings, pins };
  for (const finding of of.diagnosis.findings) {
    const lit = findingSpan(finding);
    const drawn = lit && (await pictureOf(of, lit, extentOf));
    if (drawn) findings.set(finding.cause, drawn);
  }
  for (const pin of (of.job.pins ?? []).slice(0, MOST_PINS)) {
    const drawn = await pictureOf(of, pinSpan(pin), extentOf);
    if (drawn) pins.set(pin.id, drawn);
  }
  return { findings, pins };
}

/** Null where no log has anything in the span. */
async function pictureOf(
  { system, recordings, diagnosis }: Pictured,
  lit: Span,
  extentOf: ExtentOf,
): Promise<Drawn | null> {
  const full = {
    from: Math.min(...recordings.map((one) => one.from)),
    to: Math.max(...recordings.map((one) => one.to)),
  };
  const span = spanAbout(lit, full);
  if (!(span.to > span.from)) return null;
  const lanes: PictureLane[] = [];
  for (const lane of lanesOf(system, recordings)) {
    const traces: PictureTrace[] = [];
    for (const { recording, channel, label, dash } of lane.traces)
      traces.push({ label, dash, ...(await extentOf(recording, channel, span, PARTS)) });
    if (traces.some(({ min }) => min.some((one) => one === one)))
      lanes.push({ title: lane.title, unit: lane.unit, height: Math.round(SMALLER * lane.height), traces });
  }
  if (lanes.length === 0) return null;
  const ribbons = stagesOf(diagnosis, system);
  return drawPicture({ span, zone: system.timeZone, ribbons, lanes, lit: [lit] }, WIDTH);
}
