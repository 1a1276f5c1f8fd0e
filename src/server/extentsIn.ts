/** What channels of a recording went through over a span: least and greatest in so many even parts. */

import { type Extent, sliceExtent } from '@/core/log/pyramid';
import type { RecordingInfo } from '@/core/log/recording';
import type { Span } from '@/core/quantity/span';
import type { Store } from '@/store/database';
import { detailFor, loadWindow } from '@/store/samples';

type Recorded = Pick<RecordingInfo, 'id' | 'sampleCount' | 'from' | 'to'>;

/** In the order of the channels; NaN in parts without a sample. */
export const extentsIn =
  (store: Store) =>
  async (
    recording: Recorded,
    channels: readonly string[],
    { from, to }: Span,
    parts: number,
  ): Promise<Extent[]> => {
    const detail = detailFor(recording, (to - from) / parts);
    const window = await loadWindow(store, recording.id, channels, from, to, detail);
    return channels.map((channel) => sliceExtent(window.time, window.channels[channel]!, from, to, parts));
  };
