/** Pictures of the strips for a report: of what its findings lean on, and of its pins. */

import type { Diagnosis } from '@/core/diagnosis/result';
import { isFound } from '@/core/diagnosis/summary';
import type { Channel } from '@/core/log/channels';
import type { Extent } from '@/core/log/pyramid';
import type { RecordingInfo } from '@/core/log/recording';
import { DAY, lengthOf, type Span } from '@/core/quantity/span';
import type { Job, Pin, System } from '@/core/system/schema';
import { drawPicture, type Drawn, type PictureLane, type PictureTrace } from '@/ui/picture/picture';
import { stagesOf } from '@/ui/picture/stagesOf';
import { type Lane, lanesOf } from '@/ui/strips/lanes';
import { about } from '@/ui/strips/zooms';

export interface ReportPictures {
  /** By the code of the cause. */
  findings: ReadonlyMap<string, Drawn>;
  /** By the id of the pin. */
  pins: ReadonlyMap<string, Drawn>;
}

export const NO_PICTURES: ReportPictures = { findings: new Map(), pins: new Map() };

/** A picture of more than so long shows nothing any more. */
const MOST = 14 * DAY;

/** The span of its weightiest evidence: of several the one of middle length. Null where it leans on none, or is not told. */
export function findingSpan({
  standing,
  evidence,
}: Pick<Diagnosis['findings'][number], 'standing' | 'evidence'>): Span | null {
  if (!isFound({ standing })) return null;
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
export function spanAbout(span: Span, full: Span): Span {
  const { from, to } = about(span);
  const wide = { from: Math.max(full.from, from), to: Math.min(full.to, to) };
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

/** Of some channels of a recording, over a span in so many parts; in the order in which they are named. */
type ExtentsOf = (
  recording: RecordingInfo,
  channels: readonly Channel[],
  span: Span,
  parts: number,
) => Promise<Extent[]>;

export async function picturesOf(of: Pictured, extentsOf: ExtentsOf): Promise<ReportPictures> {
  const findings = new Map<string, Drawn>();
  const pins = new Map<string, Drawn>();
  if (of.recordings.length === 0) return { findings, pins };
  for (const finding of of.diagnosis.findings) {
    const lit = findingSpan(finding);
    const drawn = lit && (await pictureOf(of, lit, extentsOf));
    if (drawn) findings.set(finding.cause, drawn);
  }
  for (const pin of (of.job.pins ?? []).slice(0, MOST_PINS)) {
    const drawn = await pictureOf(of, pinSpan(pin), extentsOf);
    if (drawn) pins.set(pin.id, drawn);
  }
  return { findings, pins };
}

/** Null where no log has anything in the span. */
async function pictureOf(
  { system, recordings, diagnosis }: Pictured,
  lit: Span,
  extentsOf: ExtentsOf,
): Promise<Drawn | null> {
  const full = {
    from: Math.min(...recordings.map((one) => one.from)),
    to: Math.max(...recordings.map((one) => one.to)),
  };
  const span = spanAbout(lit, full);
  if (!(span.to > span.from)) return null;
  const all = lanesOf(system, recordings);
  const extents = await extentsOfTraces(all, span, extentsOf);
  const lanes: PictureLane[] = [];
  for (const lane of all) {
    const traces: PictureTrace[] = lane.traces.map((trace) => ({
      label: trace.label,
      dash: trace.dash,
      ...extents.get(trace)!,
    }));
    if (traces.some(({ min }) => min.some((one) => one === one)))
      lanes.push({ title: lane.title, unit: lane.unit, height: Math.round(SMALLER * lane.height), traces });
  }
  if (lanes.length === 0) return null;
  const ribbons = stagesOf(diagnosis, system);
  return drawPicture({ span, zone: system.timeZone, ribbons, lanes, lit: [lit] }, WIDTH);
}

/** A recording is looked into once for all its traces. */
async function extentsOfTraces(
  lanes: readonly Lane[],
  span: Span,
  extentsOf: ExtentsOf,
): Promise<Map<Lane['traces'][number], Extent>> {
  const traces = lanes.flatMap((one) => one.traces);
  const found = new Map<Lane['traces'][number], Extent>();
  for (const recording of new Set(traces.map((one) => one.recording))) {
    const own = traces.filter((one) => one.recording === recording);
    const extents = await extentsOf(
      recording,
      own.map((one) => one.channel),
      span,
      PARTS,
    );
    own.forEach((trace, k) => found.set(trace, extents[k]!));
  }
  return found;
}
