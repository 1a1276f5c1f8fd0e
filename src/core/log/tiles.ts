/** The ladder of tiles that strips are drawn from: level k has buckets of 1000·2^k ms, a tile has 512 of them. */

import type { Span } from '../quantity/span';

export const TILE_BUCKETS = 512;
const FINEST_MS = 1000;
export const COARSEST_LEVEL = 24;

export const bucketMs = (level: number): number => FINEST_MS * 2 ** level;

export function tileSpan(level: number, index: number): Span {
  const width = bucketMs(level) * TILE_BUCKETS;
  return { from: index * width, to: (index + 1) * width };
}

/** The level whose buckets are just narrower than a pixel. */
export function levelFor(msPerPixel: number): number {
  return Math.min(COARSEST_LEVEL, Math.max(0, Math.floor(Math.log2(msPerPixel / FINEST_MS))));
}

/** Indexes of the tiles of a level that a span touches. */
export function tilesIn(level: number, span: Span): number[] {
  const width = bucketMs(level) * TILE_BUCKETS;
  const first = Math.floor(span.from / width);
  const last = Math.ceil(span.to / width);
  return Array.from({ length: Math.max(0, last - first) }, (_, i) => first + i);
}
