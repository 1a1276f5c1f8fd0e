/** Tiles of a recording for the strips: 512 buckets of minimum and maximum at one of a ladder of widths. */

import { TILE_BUCKETS, tileSpan } from '@/core/log/tiles';
import type { Store } from '@/store/database';
import { findRecording } from '@/store/recordings';
import { extentsIn } from './extentsIn';

/**
 * @param channels in the order in which they are wanted.
 * @returns for each channel 512 minima then 512 maxima, Float32, NaN where there is no sample; null when there is no recording
 */
export async function recordingTile(
  store: Store,
  id: string,
  channels: readonly string[],
  level: number,
  index: number,
): Promise<Float32Array | null> {
  const recording = await findRecording(store, id);
  if (!recording) return null;
  const { sample_count: sampleCount, from_ms: from, to_ms: to } = recording;
  const span = tileSpan(level, index);
  const extents = await extentsIn(store)({ id, sampleCount, from, to }, channels, span, TILE_BUCKETS);
  const out = new Float32Array(channels.length * 2 * TILE_BUCKETS);
  extents.forEach(({ min, max }, i) => {
    out.set(min, 2 * i * TILE_BUCKETS);
    out.set(max, (2 * i + 1) * TILE_BUCKETS);
  });
  return out;
}
