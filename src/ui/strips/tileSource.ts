/** Fetches tiles of recordings and keeps them. What is not there yet is drawn from a coarser tile. */

import type { RecordingInfo } from '@/core/log/recording';
import { TILE_BUCKETS } from '@/core/log/tiles';

export interface Tile {
  /** TILE_BUCKETS values each. */
  min: Float32Array;
  max: Float32Array;
}

/** A recording as its clock is set: with another clock its tiles are others. */
export type TiledRecording = Pick<RecordingInfo, 'id' | 'clockVersion'>;

export interface TileSource {
  /** The tile when it is there; otherwise it is asked for, and null. */
  get(
    recording: TiledRecording,
    channels: readonly string[],
    channel: string,
    level: number,
    index: number,
  ): Tile | null;
  /** The tile when it is there; nothing is asked for. */
  peek(recording: TiledRecording, channel: string, level: number, index: number): Tile | null;
}

/** Kept tiles; a tile of one channel has 4 KiB. */
const MOST_TILES = 4000;

/** @param onArrival called when something new can be drawn. @param onFailure called when a tile cannot be had */
export function tileSource(onArrival: () => void, onFailure: () => void): TileSource {
  const kept = new Map<string, Tile>();
  const asked = new Set<string>();
  const nameOf = ({ id, clockVersion }: TiledRecording) => `${id}@${clockVersion}`;
  const key = (of: TiledRecording, channel: string, level: number, index: number) =>
    `${nameOf(of)}/${channel}/${level}/${index}`;

  async function fetchTile(
    of: TiledRecording,
    channels: readonly string[],
    level: number,
    index: number,
  ): Promise<void> {
    const request = `${nameOf(of)}/${channels[0]}/${level}/${index}`;
    if (asked.has(request)) return;
    asked.add(request);
    try {
      const answer = await fetch(
        `/api/recordings/${of.id}/tiles?level=${level}&index=${index}&channels=${channels.join(',')}&clock=${of.clockVersion}`,
      );
      if (!answer.ok) throw new Error(String(answer.status));
      const values = new Float32Array(await answer.arrayBuffer());
      channels.forEach((channel, i) =>
        kept.set(key(of, channel, level, index), {
          min: values.subarray(2 * i * TILE_BUCKETS, (2 * i + 1) * TILE_BUCKETS),
          max: values.subarray((2 * i + 1) * TILE_BUCKETS, (2 * i + 2) * TILE_BUCKETS),
        }),
      );
      while (kept.size > MOST_TILES) {
        const oldest = kept.keys().next().value!;
        kept.delete(oldest);
        // Its neighbours go with it: what is asked for again is asked for whole.
        const [oldName, , oldLevel, oldIndex] = oldest.split('/');
        for (const one of asked)
          if (one.startsWith(`${oldName}/`) && one.endsWith(`/${oldLevel}/${oldIndex}`)) asked.delete(one);
      }
      onArrival();
    } catch {
      // Asked for again when it is next needed.
      asked.delete(request);
      onFailure();
    }
  }

  return {
    get(of, channels, channel, level, index) {
      const tile = kept.get(key(of, channel, level, index));
      if (!tile) void fetchTile(of, channels, level, index);
      return tile ?? null;
    },
    peek: (of, channel, level, index) => kept.get(key(of, channel, level, index)) ?? null,
  };
}
