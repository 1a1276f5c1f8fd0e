/** What a channel of a recording went through over a span: least and greatest in so many even parts. */

import type { Channel } from '@/core/log/channels';
import { type Extent, sliceExtent } from '@/core/log/pyramid';
import type { RecordingInfo } from '@/core/log/recording';
import type { Span } from '@/core/quantity/span';
import type { Store } from '@/store/database';
import { detailFor, loadWindow } from '@/store/samples';

/** NaN in parts without a sample. */
export const extentIn =
  (store: Store) =>
  async (recording: RecordingInfo, channel: Channel, { from, to }: Span, parts: number): Promise<Extent> => {
    const detail = detailFor(recording, (to - from) / parts);
    const window = await loadWindow(store, recording.id, [channel], from, to, detail);
    return sliceExtent(window.time, window.channels[channel]!, from, to, parts);
  };
