/** Draws the traces of a lane on a canvas: one line up and down a pixel column, from tiles, never from samples. */

import type { ScaleLinear } from 'd3-scale';
import type { Extent } from '@/core/log/pyramid';
import type { Span } from '@/core/quantity/span';
import { bucketMs, COARSEST_LEVEL, levelFor, TILE_BUCKETS, tilesIn, tileSpan } from '@/core/log/tiles';
import { type ChannelOf, fetchedWith, type Lane, type Trace } from './lanes';
import type { Tile, TileSource } from './tileSource';

export interface Frame {
  view: Span;
  width: number;
  height: number;
  y: ScaleLinear<number, number>;
}

/** A tile with where it lies. */
interface Placed {
  tile: Tile;
  level: number;
  index: number;
}

/** Finest tile of a channel that is there for a place: the wanted level, or one above it. */
function bestTile(
  source: TileSource,
  { recording, channel }: ChannelOf,
  level: number,
  index: number,
): Placed | null {
  const wanted = source.get(recording, fetchedWith(recording, channel), channel, level, index);
  if (wanted) return { tile: wanted, level, index };
  for (let up = level + 1, at = index >> 1; up <= COARSEST_LEVEL; up++, at >>= 1) {
    const tile = source.peek(recording, channel, up, at);
    if (tile) return { tile, level: up, index: at };
  }
  return null;
}

/** The tile of a trace: its channel's, or that joined with another's of the same level. */
function tileOf(source: TileSource, trace: Trace, level: number, index: number): Placed | null {
  const own = bestTile(source, trace, level, index);
  if (!own || !trace.with) return own;
  const other = bestTile(source, trace.with, own.level, own.index);
  if (!other) return null;
  // Of different levels the coarser stands for both.
  if (other.level === own.level) return { ...own, tile: joinedTile(own.tile, other.tile, trace.with.by) };
  const coarser = source.peek(trace.recording, trace.channel, other.level, other.index);
  return coarser && { ...other, tile: joinedTile(coarser, other.tile, trace.with.by) };
}

const joined = new WeakMap<Tile, Map<Tile, Tile>>();

/** By the middle of the other's bucket: within one it hardly moves where this says anything. */
function joinedTile(own: Tile, other: Tile, by: 'less' | 'times'): Tile {
  const known = joined.get(own)?.get(other);
  if (known) return known;
  const middle = other.min.map((one, i) => (one + other.max[i]!) / 2);
  const join =
    by === 'times' ? (a: number, i: number) => a * middle[i]! : (a: number, i: number) => a - middle[i]!;
  const tile = { min: own.min.map(join), max: own.max.map(join) };
  const of = joined.get(own) ?? new Map<Tile, Tile>();
  joined.set(own, of.set(other, tile));
  return tile;
}

/** Calls `visit` for every filled bucket of a trace in the view, left to right: middle of the bucket, minimum, maximum, width. */
function eachBucket(
  source: TileSource,
  trace: Trace,
  view: Span,
  width: number,
  visit: (ms: number, min: number, max: number, bucket: number) => void,
): void {
  const level = levelFor((view.to - view.from) / Math.max(1, width));
  const shown = {
    from: Math.max(view.from, trace.recording.from),
    to: Math.min(view.to, trace.recording.to + 1),
  };
  if (shown.to <= shown.from) return;
  for (const index of tilesIn(level, shown)) {
    const found = tileOf(source, trace, level, index);
    if (!found) continue;
    const place = tileSpan(level, index);
    const { from } = tileSpan(found.level, found.index);
    const bucket = bucketMs(found.level);
    const first = Math.max(0, Math.floor((Math.max(place.from, shown.from - trace.gapMs) - from) / bucket));
    const end = Math.min(
      TILE_BUCKETS,
      Math.ceil((Math.min(place.to, shown.to + trace.gapMs) - from) / bucket),
    );
    for (let i = first; i < end; i++) {
      const min = found.tile.min[i]!;
      if (min === min) visit(from + (i + 0.5) * bucket, min, found.tile.max[i]!, bucket);
    }
  }
}

/** Least and greatest of a trace in each of so many even parts of a view; NaN where there is nothing. */
export function traceExtent(trace: Trace, source: TileSource, view: Span, parts: number): Extent {
  const min = new Float32Array(parts).fill(NaN);
  const max = new Float32Array(parts).fill(NaN);
  eachBucket(source, trace, view, parts, (ms, low, high) => {
    const part = Math.floor(((ms - view.from) / (view.to - view.from)) * parts);
    if (part < 0 || part >= parts) return;
    if (!(min[part]! <= low)) min[part] = low;
    if (!(max[part]! >= high)) max[part] = high;
  });
  return { min, max };
}

/** How the other span of a comparison is drawn: broad and pale, under the traces. */
const BESIDE = { width: 4, alpha: 0.3 };

/** @param beside by how much earlier the span is that is laid over this, ms; null where none is */
export function drawLane(
  canvas: HTMLCanvasElement,
  lane: Lane,
  source: TileSource,
  { view, width, height, y }: Frame,
  beside: number | null = null,
): void {
  const ratio = window.devicePixelRatio || 1;
  if (canvas.width !== Math.round(width * ratio) || canvas.height !== Math.round(height * ratio)) {
    canvas.width = Math.round(width * ratio);
    canvas.height = Math.round(height * ratio);
  }
  const context = canvas.getContext('2d')!;
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  context.clearRect(0, 0, width, height);
  const style = getComputedStyle(canvas);
  const perMs = width / (view.to - view.from);
  const line = (trace: Trace, from: Span) => {
    context.beginPath();
    let last = -Infinity;
    eachBucket(source, trace, from, width, (ms, min, max, bucket) => {
      const x = (ms - from.from) * perMs;
      if (ms - last > Math.max(trace.gapMs, 2.5 * bucket)) context.moveTo(x, y(min));
      else context.lineTo(x, y(min));
      if (max !== min) context.lineTo(x, y(max));
      last = ms;
    });
    context.stroke();
  };
  if (beside !== null) {
    context.globalAlpha = BESIDE.alpha;
    context.lineWidth = BESIDE.width;
    context.lineJoin = 'round';
    for (const trace of lane.traces) {
      context.strokeStyle = style.getPropertyValue(trace.ink);
      context.setLineDash(trace.dash.map((one) => 2 * one));
      line(trace, { from: view.from - beside, to: view.to - beside });
    }
  }
  lane.traces.forEach((trace, order) => {
    context.strokeStyle = style.getPropertyValue(trace.ink);
    context.globalAlpha = lane.id === 'cells' ? 0.6 : order === 0 ? 1 : 0.75;
    context.lineWidth = order === 0 && lane.id !== 'cells' ? 1.4 : 1.1;
    context.setLineDash(trace.dash);
    line(trace, view);
  });
  context.globalAlpha = 1;
}

/**
 * Least and greatest value of a lane over a span, from tiles that are there; null before any has come.
 * @param leastShare values below this share of the greatest are left out; null leaves out none
 */
export function extentOf(
  lane: Lane,
  source: TileSource,
  view: Span,
  width: number,
  leastShare: number | null = null,
): [number, number] | null {
  const over = (visit: (min: number, max: number) => void) => {
    for (const trace of lane.traces) eachBucket(source, trace, view, width, (_, min, max) => visit(min, max));
  };
  let high = -Infinity;
  over((_, max) => (high = Math.max(high, max)));
  const least = leastShare === null ? -Infinity : leastShare * high;
  let low = Infinity;
  over((min, max) => {
    if (min >= least) low = Math.min(low, min);
    else if (max >= least) low = Math.min(low, max);
  });
  return low <= high ? [low, high] : null;
}

/** Value of a trace at a moment: the middle of the bucket nearest to it; NaN in a gap. */
export function valueAt(trace: Trace, source: TileSource, view: Span, width: number, ms: number): number {
  let nearest = NaN;
  let distance = Infinity;
  const reach = Math.max(trace.gapMs, (3 * (view.to - view.from)) / width);
  eachBucket(
    source,
    trace,
    { from: ms - reach, to: ms + reach },
    (2 * reach * width) / (view.to - view.from),
    (at, min, max) => {
      if (Math.abs(at - ms) < distance) {
        distance = Math.abs(at - ms);
        nearest = (min + max) / 2;
      }
    },
  );
  return distance <= reach ? nearest : NaN;
}
