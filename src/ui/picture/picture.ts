/** A picture of the strips for paper and files: what it shows, laid out as lines, rectangles and words that anything can draw. */

import { scaleLinear, scaleTime } from 'd3-scale';
import { DateTime } from 'luxon';
import type { StageName } from '@/core/charge/types';
import { DAY, type Span } from '@/core/quantity/span';
import { LETTER } from '@/ui/strips/stageTextures';

export interface PictureTrace {
  label: string;
  dash: readonly number[];
  /** Least and greatest value in each of so many even parts of the span; NaN where there is none. */
  min: Float32Array;
  max: Float32Array;
}

export interface PictureLane {
  title: string;
  unit: string;
  /** px beside those of the other lanes. */
  height: number;
  traces: PictureTrace[];
}

export interface PictureRibbon {
  /** Null where there is no more than one source. */
  name: string | null;
  stages: (Span & { stage: StageName })[];
}

export interface Picture {
  span: Span;
  zone: string;
  ribbons: PictureRibbon[];
  lanes: PictureLane[];
  /** What it is about. */
  lit: Span[];
}

export type Shape =
  | { kind: 'rect'; x: number; y: number; width: number; height: number; fill: string; stroke?: string }
  | { kind: 'path'; d: string; stroke: string; width: number; dash?: readonly number[] }
  | { kind: 'text'; x: number; y: number; text: string; size: number; anchor: 'start' | 'middle' | 'end' };

export interface Drawn {
  width: number;
  height: number;
  /** In words, for who cannot see it. */
  says: string;
  shapes: Shape[];
}

const LEFT = 46;
const RIGHT = 6;
const RIBBON = 16;
const AXIS = 16;
const KEY = 14;
const INK = '#1b2824';
const SOFT = '#4c5d56';
const RULE = '#dbe5dc';
const LIT = '#f2e6bd';
/** Stages are told apart by letters; on paper they are shades besides. */
const SHADES: Record<StageName, string> = {
  bulk: '#dfe6e0',
  absorption: '#9fb5a8',
  float: '#f0f4f0',
  equalise: '#c9b87f',
  hold: '#e9e9e4',
  off: 'none',
};

const clockText = (ms: number, { span, zone }: Picture): string => {
  const local = DateTime.fromMillis(ms, { zone });
  if (span.to - span.from > 3 * DAY) return local.toFormat('d LLL');
  return local.toFormat(local.hour === 0 && local.minute === 0 ? 'd LLL' : 'HH:mm');
};

/** @param width px of the whole picture */
export function drawPicture(picture: Picture, width: number): Drawn {
  const { span, lanes, ribbons, lit } = picture;
  const inner = width - LEFT - RIGHT;
  const x = scaleTime([span.from, span.to], [LEFT, LEFT + inner]);
  const ticks = x.ticks(Math.max(2, Math.floor(inner / 80)));
  const shapes: Shape[] = [];
  let top = 0;
  const place = ({ from, to }: Span) => {
    const left = Math.max(LEFT, x(from));
    return { x: left, width: Math.max(0, Math.min(LEFT + inner, x(to)) - left) };
  };
  for (const ribbon of ribbons) {
    drawRibbon(ribbon, top, place, shapes);
    top += RIBBON;
  }
  for (const lane of lanes) {
    shapes.push({
      kind: 'rect',
      x: LEFT,
      y: top,
      width: inner,
      height: lane.height,
      fill: '#ffffff',
      stroke: SOFT,
    });
    for (const one of lit) {
      const at = place(one);
      // A moment is a line that can be seen.
      shapes.push({
        kind: 'rect',
        ...at,
        width: Math.max(1.5, at.width),
        y: top,
        height: lane.height,
        fill: LIT,
      });
    }
    for (const tick of ticks)
      shapes.push({
        kind: 'path',
        d: `M${fixed(x(tick))} ${top}V${top + lane.height}`,
        stroke: RULE,
        width: 0.6,
      });
    drawLane(lane, { top, inner, many: lane.traces.length > MANY }, shapes);
    top += lane.height;
  }
  for (const tick of ticks)
    shapes.push({
      kind: 'text',
      x: x(tick),
      y: top + 11,
      text: clockText(+tick, picture),
      size: 8,
      anchor: 'middle',
    });
  top += AXIS;
  for (const lane of lanes.filter(({ traces }) => traces.length > 1 && traces.length <= MANY))
    for (const trace of lane.traces) {
      shapes.push(
        { kind: 'path', d: `M${LEFT} ${top + 5}H${LEFT + 24}`, stroke: INK, width: 1, dash: trace.dash },
        { kind: 'text', x: LEFT + 30, y: top + 8, text: trace.label, size: 8, anchor: 'start' },
      );
      top += KEY;
    }
  const zoned = (ms: number) => DateTime.fromMillis(ms, { zone: picture.zone }).toFormat('d LLL yyyy HH:mm');
  return {
    width,
    height: top,
    says: `${lanes.map((one) => one.title.toLowerCase()).join(', ')} from ${zoned(span.from)} to ${zoned(span.to)}`,
    shapes,
  };
}

/** More traces than these share a lane without names. */
const MANY = 4;

function drawRibbon(
  { name, stages }: PictureRibbon,
  top: number,
  place: (span: Span) => { x: number; width: number },
  shapes: Shape[],
): void {
  shapes.push({
    kind: 'text',
    x: 0,
    y: top + 11,
    text: (name ?? 'Stage').slice(0, 8),
    size: 8,
    anchor: 'start',
  });
  for (const one of stages) {
    if (one.stage === 'off') continue;
    const at = place(one);
    if (at.width <= 0) continue;
    shapes.push({
      kind: 'rect',
      ...at,
      y: top + 2,
      height: RIBBON - 4,
      fill: SHADES[one.stage],
      stroke: SOFT,
    });
    if (at.width > 10)
      shapes.push({
        kind: 'text',
        x: at.x + at.width / 2,
        y: top + 11,
        text: LETTER[one.stage],
        size: 8,
        anchor: 'middle',
      });
  }
}

function drawLane(
  lane: PictureLane,
  { top, inner, many }: { top: number; inner: number; many: boolean },
  shapes: Shape[],
): void {
  let low = Infinity;
  let high = -Infinity;
  for (const { min, max } of lane.traces)
    for (let k = 0; k < min.length; k++) {
      if (min[k]! < low) low = min[k]!;
      if (max[k]! > high) high = max[k]!;
    }
  if (low > high) [low, high] = [0, 1];
  const margin = Math.max(0.06 * (high - low), 0.02);
  const y = scaleLinear([low - margin, high + margin], [top + lane.height - 2, top + 2]);
  const ticks = y.ticks(Math.max(2, Math.floor(lane.height / 20)));
  for (const tick of ticks) {
    shapes.push({ kind: 'path', d: `M${LEFT} ${fixed(y(tick))}h${inner}`, stroke: RULE, width: 0.6 });
    // The name of the lane stands at the top.
    if (y(tick) > top + 26)
      shapes.push({ kind: 'text', x: LEFT - 4, y: y(tick) + 3, text: String(tick), size: 8, anchor: 'end' });
  }
  shapes.push(
    { kind: 'text', x: 0, y: top + 10, text: lane.title, size: 8.5, anchor: 'start' },
    { kind: 'text', x: 0, y: top + 20, text: lane.unit, size: 8, anchor: 'start' },
  );
  lane.traces.forEach((trace, nth) => {
    const d = pathOf(trace, (k) => LEFT + ((k + 0.5) * inner) / trace.min.length, y);
    if (d)
      shapes.push({
        kind: 'path',
        d,
        stroke: nth === 0 || many ? INK : SOFT,
        width: many ? 0.5 : nth === 0 ? 1.1 : 0.9,
        ...(trace.dash.length > 0 ? { dash: trace.dash } : {}),
      });
  });
}

const fixed = (value: number): string => String(Math.round(value * 10) / 10);

/** So many empty parts are bridged: a log that is slower than the picture is fine still has a line. */
const BRIDGED = 12;

function pathOf({ min, max }: PictureTrace, x: (k: number) => number, y: (value: number) => number): string {
  let d = '';
  let last = -Infinity;
  for (let k = 0; k < min.length; k++) {
    if (min[k]! !== min[k]!) continue;
    const at = fixed(x(k));
    d += `${k - last > BRIDGED ? 'M' : 'L'}${at} ${fixed(y(min[k]!))}`;
    if (max[k] !== min[k]) d += `L${at} ${fixed(y(max[k]!))}`;
    last = k;
  }
  return d;
}
